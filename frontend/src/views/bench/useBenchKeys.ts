import { useEffect, useEffectEvent } from "react";

import type { Frame } from "../../api/client";
import { takesKeys } from "../../app/keys";
import { grown, moved } from "./frameGeometry";

type Actions = {
  frame: Frame;
  setFrame: (frame: Frame) => void;
  flickGround: () => void;
  walkLadder: (by: number) => void;
  step: (direction: "undo" | "redo") => void;
  hold: (up: Held | undefined) => void;
};

type Held = "installed" | "plain";
/** Keys that show something else while they are held. */
const HELD: Record<string, Held> = { "\\": "installed", p: "plain", P: "plain" };
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/**
 * Arrows nudge the frame (Shift: by ten), Alt + arrows change its side, G flicks the ladder's ground, [ and ] walk
 * the ladder, \\ held shows what is installed, P held the small icons as they are without a hand, Ctrl or ⌘ with Z undoes, with Shift it does again.
 */
export function useBenchKeys(actions: Actions) {
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (takesKeys(event.target)) return;
    const handled = event.ctrlKey || event.metaKey ? withControl(event, actions) : plain(event, actions);
    if (handled) event.preventDefault();
  });
  const onRelease = useEffectEvent((event: KeyboardEvent) => {
    if (event.key in HELD) actions.hold(undefined);
  });
  const onLeaving = useEffectEvent(() => actions.hold(undefined)); // whose release another window would take
  useEffect(() => {
    const hearing = new AbortController();
    const { signal } = hearing;
    addEventListener("keydown", (event) => onKey(event), { signal });
    addEventListener("keyup", (event) => onRelease(event), { signal });
    addEventListener("blur", () => onLeaving(), { signal });
    return () => hearing.abort();
  }, []);
}

function withControl(event: KeyboardEvent, { step }: Actions): boolean {
  if (event.key.toLowerCase() !== "z") return false;
  step(event.shiftKey ? "redo" : "undo");
  return true;
}

function plain(event: KeyboardEvent, actions: Actions): boolean {
  const { frame, setFrame, flickGround, walkLadder, hold } = actions;
  const held = HELD[event.key];
  const arrow = ARROWS[event.key];
  if (arrow) {
    if (!atStage(event.target)) return false;
    const reach = event.shiftKey ? 10 : 1;
    const [dx, dy] = [arrow[0] * reach, arrow[1] * reach];
    setFrame(event.altKey ? grown(frame, dx - dy) : moved(frame, dx, dy));
  } else if (event.key.toLowerCase() === "g") flickGround();
  else if (event.key === "[") walkLadder(-1);
  else if (event.key === "]") walkLadder(1);
  else if (held) hold(held);
  else return false;
  return true;
}

/** Whether arrows mean the frame: on the stage, and where nothing else is focused that they would move or scroll. */
const atStage = (target: EventTarget | null) =>
  target === document.body ||
  (target instanceof Element && target.closest("[role=application], h1") !== null);
