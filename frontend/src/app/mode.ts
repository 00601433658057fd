import { createContext, useEffect, useState } from "react";

import type { Mode } from "./theme";

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
  useEffect(() => {
    document.documentElement.dataset.mode = mode;
  }, [mode]);
  const toggle = () => {
    const other = mode === "light" ? "dark" : "light";
    localStorage.setItem(KEY, other);
    setMode(other);
  };
  return [mode, toggle];
}
