import { useEffect } from "react";

import type { Frame } from "../../api/client";
import { grown, moved } from "./frameGeometry";

type Actions = { frame: Frame; setFrame: (frame: Frame) => void; flickGround: () => void };

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Arrows nudge the frame (Shift: by ten), Alt + arrows change its side, G flicks the ladder's ground. */
export function useBenchKeys({ frame, setFrame, flickGround }: Actions) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || takesKeys(event.target)) return;
      const arrow = ARROWS[event.key];
      if (arrow) {
        const step = event.shiftKey ? 10 : 1;
        const [dx, dy] = [arrow[0] * step, arrow[1] * step];
        setFrame(event.altKey ? grown(frame, dx - dy) : moved(frame, dx, dy));
      } else if (event.key.toLowerCase() === "g") {
        flickGround();
      } else {
        return;
      }
      event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });
}

/** Whether the focused element has a use of its own for letters and arrows. */
const takesKeys = (target: EventTarget | null) =>
  target instanceof Element &&
  target.closest("input, textarea, [role=combobox], [role=listbox], [role=radio]") !== null;
