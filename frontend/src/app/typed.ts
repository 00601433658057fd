import { useState } from "react";

/** What was typed into a view and is not kept yet: it is there again when one comes back, in this window. */
export function useTyped<Value>(key: string, first: Value) {
  const place = `bexi-typed-${key}`;
  const [typed, setTyped] = useState(() => read<Value>(place));
  const type = (value: Value) => {
    setTyped(value);
    try {
      sessionStorage.setItem(place, JSON.stringify(value));
    } catch {
      // A browser that keeps nothing: it lasts as long as the view.
    }
  };
  const forget = () => {
    setTyped(undefined);
    sessionStorage.removeItem(place);
  };
  return { value: typed ?? first, type, forget, isTyped: typed !== undefined };
}

function read<Value>(place: string): Value | undefined {
  try {
    return (JSON.parse(sessionStorage.getItem(place) ?? "null") as Value | null) ?? undefined;
  } catch {
    return undefined;
  }
}
