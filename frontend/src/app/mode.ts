import { createContext, useLayoutEffect, useState } from "react";

import { wear, type Mode } from "./palette";

const KEY = "bexi-mode";

export const ModeContext = createContext<{ mode: Mode; toggleMode: () => void }>({
  mode: "light",
  toggleMode: () => undefined,
});

function initialMode(): Mode {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** Light or dark: as the machine prefers until somebody chooses. */
export function useMode(): [Mode, () => void] {
  const [mode, setMode] = useState(initialMode);
  useLayoutEffect(() => wear(mode), [mode]);
  const toggle = () => {
    const other = mode === "light" ? "dark" : "light";
    localStorage.setItem(KEY, other);
    setMode(other);
  };
  return [mode, toggle];
}
