/** Requests that add something: sent again after a lost answer, they add no second one. */

import { useState } from "react";

const headerWith = (key: string) => ({ params: { header: { "Idempotency-Key": key } } });

/** The keys of a form: the same entries get the same one, as often as they are sent. */
export function useOnce() {
  const [keys] = useState(() => new Map<string, string>());
  return (asked: unknown) => {
    const what = JSON.stringify(asked);
    const key = keys.get(what) ?? newKey();
    keys.set(what, key);
    return headerWith(key);
  };
}

const unanswered = new Map<string, string>();

/** Ask for something to be added; asked again before an answer came, it goes under the same key. */
export async function askOnce<T>(
  asked: unknown,
  ask: (once: ReturnType<typeof headerWith>) => Promise<T>,
): Promise<T> {
  const what = JSON.stringify(asked);
  const key = unanswered.get(what) ?? newKey();
  unanswered.set(what, key);
  const answered = await ask(headerWith(key));
  unanswered.delete(what);
  return answered;
}

const newKey = () =>
  Array.from(crypto.getRandomValues(new Uint32Array(4)), (part) => part.toString(36).padStart(7, "0")).join(
    "-",
  );
