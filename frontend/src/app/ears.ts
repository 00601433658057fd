import { useEffect, useEffectEvent, useRef, useSyncExternalStore } from "react";

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

/** How something stands that changes out of sight; `told` is empty while it is under way, and nothing while it is not known. */
type Standing = { key: string; told: string };

/** Says how something ended; not what it was found to be at first, or `at` first. Also gives it to `show`. */
export function useOutcome(standing: Standing | undefined, show?: (told: string) => void, at?: string) {
  const before = useRef(at);
  const key = standing?.key;
  const onChange = useEffectEvent(() => {
    const told = standing?.told;
    if (!told || before.current === undefined) return;
    say(told);
    show?.(told);
  });
  useEffect(() => {
    if (key === undefined || key === before.current) return;
    onChange();
    before.current = key;
  }, [key]);
}
