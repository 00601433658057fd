import { useEffect, useEffectEvent, useRef, useSyncExternalStore } from "react";

/** What is told to whoever does not see it: one polite live region for all, in the Shell. */
let said = "";
const hearers = new Set<() => void>();

export function say(sentence: string): void {
  said = said === sentence ? `${sentence}\u00a0` : sentence; // the same once more is said once more
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

/** Says how something ended; not what it was found to be at first. Also gives it to `show`. */
export function useOutcome(standing: Standing | undefined, show?: (told: string) => void) {
  const before = useRef<string>(undefined);
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
