import { useEffect, useEffectEvent, useRef } from "react";

import { say } from "./ears";

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
