/** The words of judging, as the bench shows them. */

export type Verdict = "lost" | "hard" | "well" | null | undefined;

export const TONES = { lost: "bad", hard: "caution", well: "good" } as const;
export const toneOf = (verdict: Verdict) => (verdict ? TONES[verdict] : undefined);

export const KINDS: Record<string, string> = {
  "as it is": "As it is",
  hugged: "Hugged",
  hug: "Hug the ink",
  emblem: "The emblem",
  "next part": "The next part",
  "on a plate": "On a plate",
  plate: "On a plate",
  outline: "With an outline",
  heavier: "Heavier strokes",
  "open gaps": "Wider gaps",
  sharpen: "Sharpened",
  "fit to the pixels": "Fitted to the pixels",
  letters: "Letters instead",
  "telling square": "The most telling square",
};
export const kindOf = (kind: string) => KINDS[kind] ?? kind;
