/** The words of judging, as the bench shows them. */

export type Verdict = "lost" | "hard" | "well" | null | undefined;

export const TONES = { lost: "bad", hard: "caution", well: "good" } as const;
export const toneOf = (verdict: Verdict) => (verdict ? TONES[verdict] : undefined);

export const KINDS: Record<string, string> = {
  "as it is": "As it is",
  whole: "All of it",
  "first letter": "The first letter",
  hug: "Trim to the mark",
  emblem: "The emblem",
  "next part": "The next part",
  plate: "On a plate",
  outline: "With an outline",
  heavier: "Heavier strokes",
  "open gaps": "Wider gaps",
  sharpen: "Sharpened",
  "by hand": "Redrawn by hand",
  "fit to the pixels": "Fitted to the pixels",
  letters: "Letters instead",
  "telling square": "The most telling square",
  "closer square": "A closer square",
};

const WORDS = { lost: "lost", hard: "weak", well: "clear" } as const;
/** What it is called on the screen. */
export const wordOf = (verdict: Verdict) => (verdict ? WORDS[verdict] : "not judged");

/** On what a subject may stand, as in "emblem on its badge". */
const STANDS: Record<string, string> = { "one colour": "in one colour", "its own tile": "on its own tile" };

export function kindOf(kind: string): string {
  const [subject = kind, stand] = kind.split(" on ");
  const told = KINDS[subject] ?? subject;
  return stand ? `${told}, ${STANDS[stand] ?? `on ${stand}`}` : told;
}
