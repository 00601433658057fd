import { useSyncExternalStore } from "react";

type Said = { number: number; sentence: string };

/** What is told to whoever does not see it, the latest last: one polite live region for all, in the Shell. */
let said: Said[] = [];
/** One that comes at once after another must not take its place before it was read. */
const STAY = 5;
const hearers = new Set<() => void>();

export function say(sentence: string): void {
  said = [...said.slice(1 - STAY), { number: (said.at(-1)?.number ?? 0) + 1, sentence }];
  for (const hear of hearers) hear();
}

export const useSaid = () =>
  useSyncExternalStore(
    (hear) => {
      hearers.add(hear);
      return () => void hearers.delete(hear);
    },
    () => said,
  );
