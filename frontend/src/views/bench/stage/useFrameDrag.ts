import { type PointerEvent, useState } from "react";

import type { Artwork, Frame } from "../../../api/client";
import {
  drawn,
  type Grip,
  type Guides,
  moved,
  NO_GUIDES,
  resized,
  snapped,
  snappedSide,
} from "../frameGeometry";
import type { Point } from "./useStageView";

/** How near, in CSS px, an edge or centre must come to be caught. */
const SNAP = 6;

/** What is being dragged: the frame or a grip of it from where it was, or a new frame from a point of the artwork. */
export type Drag = { from: Frame; start: Point; grip: Grip | undefined } | { anew: Point };

type View = { scale: number; pointOf: (event: PointerEvent) => Point };

/** Dragging the frame, one of its grips, or a new one, in whole px of the artwork. */
export function useFrameDrag(
  [drag, setDrag]: [Drag | undefined, (drag: Drag | undefined) => void],
  { scale, pointOf }: View,
  artwork: Artwork["facts"],
  frame: Frame,
  setFrame: (frame: Frame) => void,
) {
  const [guides, setGuides] = useState<Guides>(NO_GUIDES);
  const release = () => {
    setDrag(undefined);
    setGuides(NO_GUIDES);
  };
  const begin = (event: PointerEvent, what: "frame" | "anew" | Grip) => {
    if (event.button !== 0) return;
    if (!event.isPrimary) {
      release(); // a second finger: both zoom
      return;
    }
    event.stopPropagation();
    getSelection()?.removeAllRanges(); // else the browser would drag what is selected
    event.currentTarget.setPointerCapture(event.pointerId);
    const start = pointOf(event);
    setDrag(
      what === "anew" ? { anew: start } : { from: frame, start, grip: what === "frame" ? undefined : what },
    );
  };
  const follow = (event: PointerEvent) => {
    if (!drag) return;
    const point = pointOf(event);
    if ("anew" in drag) {
      const reach = Math.max(Math.abs(point.x - drag.anew.x), Math.abs(point.y - drag.anew.y));
      if (reach * scale > SNAP) setFrame(drawn(drag.anew, point)); // less is a click, not a frame
      return;
    }
    const [dx, dy] = [point.x - drag.start.x, point.y - drag.start.y];
    const wanted = drag.grip ? resized(drag.from, drag.grip, dx, dy) : moved(drag.from, dx, dy);
    const reach = event.altKey ? 0 : SNAP / scale; // Alt held: nothing is caught
    const snap = drag.grip ? snappedSide(wanted, drag.grip, artwork, reach) : snapped(wanted, artwork, reach);
    setGuides(snap.guides);
    setFrame(snap.frame);
  };
  return { guides, begin, follow, release };
}
