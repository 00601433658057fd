/** What can be done on the screen as it is now. */

/** `words` are what people call it, beside its name. */
export type Found = { name: string; what: string; words?: string; key?: string; go: () => void };

const KEYS: Record<string, string> = {
  "Build the set": "Ctrl or ⌘ Enter",
  Undo: "Ctrl or ⌘ Z",
  Redo: "Ctrl or ⌘ Shift Z",
};

/** Every control that is shown and can be used, by its name; found, it is pressed. */
export function controlsHere(): Found[] {
  const controls = document.querySelectorAll<HTMLElement>(
    "main button, main summary, main a[href], header button",
  );
  const found = new Map<string, Found>();
  for (const control of controls) {
    const name = nameOf(control);
    if (
      !name ||
      name === "Find" ||
      found.has(name) ||
      !control.checkVisibility() ||
      control.matches(":disabled")
    )
      continue;
    const key = KEYS[name];
    found.set(name, {
      name,
      what: "here",
      ...(key ? { key } : {}),
      go: () => {
        control.focus();
        control.click();
      },
    });
  }
  return [...found.values()];
}

const nameOf = (control: HTMLElement) =>
  (control.getAttribute("aria-label") ?? control.innerText).replace(/\s+/g, " ").trim();

const wordsOf = (text: string) =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}.]+/u)
    .filter(Boolean);
/** Said in a question, and telling nothing of what is sought. */
const SMALL = new Set(
  "a an the to of for in on at from my your this i it its is are do does how what can with and me no not too when other".split(
    " ",
  ),
);

const tellingOf = (typed: string) => {
  const told = wordsOf(typed);
  const telling = told.filter((word) => !SMALL.has(word));
  return telling.length ? telling : told;
};

const textOf = ({ name, what, words = "" }: Found) => `${name} ${what} ${words}`;

/** Those with all of the words, the ones that begin with the first word before the others. */
export function withWords(found: Found[], typed: string): Found[] {
  const words = tellingOf(typed);
  const has = (one: Found) => {
    const text = textOf(one).toLowerCase();
    return words.every((word) => text.includes(word) || wordsOf(text).some((other) => isAkin(word, other)));
  };
  // What is called so comes before what is only about it; a word of ours comes last: who types it mostly wants what it
  // names.
  const rank = ({ name, what, words: called }: Found) => {
    if (what.startsWith("means ")) return 4;
    const named = wordsOf(name);
    if (named[0]?.startsWith(words[0] ?? "")) return 0;
    if (called && words.every((word) => wordsOf(called).includes(word))) return 1;
    return words.every((word) => named.some((one) => one.startsWith(word))) ? 2 : 3;
  };
  return found.filter(has).sort((one, other) => rank(one) - rank(other));
}

/** Those with some of the words, the ones with words that few have before the others; none of our words explained. */
export function withSome(found: Found[], typed: string): Found[] {
  const words = tellingOf(typed);
  const all = found.filter(({ what }) => !what.startsWith("means "));
  const hits = all.map((one) => {
    const its = wordsOf(textOf(one));
    return words.map((word) => its.some((other) => other.startsWith(word) || isAkin(word, other)));
  });
  const rarity = words.map((_, at) => 1 / Math.max(1, hits.filter((one) => one[at]).length));
  const scored = all.map((one, number) => ({
    one,
    score: rarity.reduce((sum, rare, at) => sum + (hits[number]?.[at] ? rare : 0), 0),
  }));
  const best = Math.max(...scored.map(({ score }) => score));
  return scored
    .filter(({ score }) => score > 0 && score >= best / 2)
    .sort((one, other) => other.score - one.score)
    .map(({ one }) => one);
}

/** Whether two words have their stem in common: automate, automatic. */
function isAkin(one: string, other: string): boolean {
  const shorter = Math.min(one.length, other.length);
  if (shorter < STEM) return false;
  let alike = 0;
  while (alike < shorter && one[alike] === other[alike]) alike += 1;
  return alike >= Math.max(STEM, shorter - 1);
}

const STEM = 4;

/** The ones with a word most like a typed one, which nothing has: a slip of a finger or two. */
export function nearest(found: Found[], typed: string, most: number): Found[] {
  const sought = wordsOf(typed).filter((word) => word.length > 2);
  const distance = ({ name, words = "" }: Found) =>
    Math.min(
      ...wordsOf(`${name} ${words}`).flatMap((word) =>
        sought.map((one) => edits(one, word) / Math.max(one.length, word.length)),
      ),
    );
  return found
    .map((one) => ({ one, far: distance(one) }))
    .filter(({ far }) => far < NEAR)
    .sort((one, other) => one.far - other.far)
    .slice(0, most)
    .map(({ one }) => one);
}

/** Of a word so much may be wrong. */
const NEAR = 0.5;

/** Letters to add, leave out or change from one word to another (Levenshtein's distance). */
function edits(one: string, other: string): number {
  let row = Array.from({ length: other.length + 1 }, (_, at) => at);
  for (let i = 1; i <= one.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= other.length; j += 1) {
      const changed = (row[j - 1] ?? 0) + (one[i - 1] === other[j - 1] ? 0 : 1);
      next.push(Math.min(changed, (row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1));
    }
    row = next;
  }
  return row.at(-1) ?? 0;
}
