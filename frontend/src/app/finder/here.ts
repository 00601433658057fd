/** What can be done on the screen as it is now. */

export type Found = { name: string; what: string; key?: string; go: () => void };

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
    if (!name || found.has(name) || !control.checkVisibility() || control.matches(":disabled")) continue;
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

/** Those with all of the words, the ones that begin with the first word before the others. */
export function withWords(found: Found[], typed: string): Found[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const fitting = found.filter(({ name, what }) =>
    words.every((word) => `${name} ${what}`.toLowerCase().includes(word)),
  );
  // A word of ours comes last: who types it mostly wants what it names.
  const rank = ({ name, what }: Found) =>
    what.startsWith("means ") ? 2 : name.toLowerCase().startsWith(words[0] ?? "") ? 0 : 1;
  return fitting.sort((one, other) => rank(one) - rank(other));
}
