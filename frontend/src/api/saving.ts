/** Changes on their way to the server: what is begun with them, a build say, waits for all of them. */

export const NOT_SAVED =
  "Your last change could not be saved, so nothing was done. Open the view where you made it, then try again.";

const onTheirWay = new Set<Promise<unknown>>();
const editors = new Set<() => Promise<boolean>>();

/** Count a change among those that are on their way until it ends. */
export function onItsWay<T>(change: Promise<T>): Promise<T> {
  onTheirWay.add(change);
  const end = () => void onTheirWay.delete(change);
  change.then(end, end);
  return change;
}

/** An open editor that saves a moment after the last change; `saveNow` tells whether nothing is left unsaved. */
export function editing(saveNow: () => Promise<boolean>): () => void {
  editors.add(saveNow);
  return () => void editors.delete(saveNow);
}

/** Save all that is not saved, and wait for what is on its way; false when any of it failed. */
export async function allSaved(): Promise<boolean> {
  const edited = await Promise.all([...editors].map((saveNow) => saveNow()));
  const ended = await Promise.allSettled(onTheirWay);
  return edited.every(Boolean) && ended.every(({ status }) => status === "fulfilled");
}
