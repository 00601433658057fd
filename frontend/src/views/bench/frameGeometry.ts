import type { Artwork, Frame } from "../../api/client";

type Facts = Artwork["facts"];

/** Where artwork px lie on the stage: stage = origin + artwork × scale, in CSS px. */
export type StageView = { scale: number; x: number; y: number };
export type Size = { width: number; height: number };
/** What is dragged to resize: a corner or the middle of an edge. */
export type Grip = "nw" | "n" | "ne" | "e" | "se" | "s" | "sw" | "w";

const MARGIN = 44;
export const LARGEST_SIDE = 100_000;

/** The view in which the whole artwork and the whole frame are seen, centred. */
export function fitView(stage: Size, artwork: Size, frame: Frame): StageView {
  const left = Math.min(0, frame.x);
  const top = Math.min(0, frame.y);
  const width = Math.max(artwork.width, frame.x + frame.side) - left;
  const height = Math.max(artwork.height, frame.y + frame.side) - top;
  const room = {
    width: Math.max(stage.width - 2 * MARGIN, 40),
    height: Math.max(stage.height - 2 * MARGIN, 40),
  };
  const scale = Math.min(room.width / width, room.height / height);
  return {
    scale,
    x: Math.round((stage.width - width * scale) / 2 - left * scale),
    y: Math.round((stage.height - height * scale) / 2 - top * scale),
  };
}

export const moved = (frame: Frame, dx: number, dy: number): Frame => ({
  ...frame,
  x: frame.x + Math.round(dx),
  y: frame.y + Math.round(dy),
});

/** The frame with a grip dragged by (dx, dy): always square; the opposite corner, or middle of the edge, stays. */
export function resized(frame: Frame, grip: Grip, dx: number, dy: number): Frame {
  const [west, east, north, south] = ["w", "e", "n", "s"].map((letter) => grip.includes(letter));
  const across = west ? -dx : east ? dx : -Infinity;
  const down = north ? -dy : south ? dy : -Infinity;
  const side = clampedSide(frame.side + Math.max(across, down));
  const place = (start: number, low: boolean | undefined, high: boolean | undefined) =>
    low ? start + frame.side - side : high ? start : Math.round(start + (frame.side - side) / 2);
  return { x: place(frame.x, west, east), y: place(frame.y, north, south), side };
}

/** The frame around the same middle with a margin of so many % of its own side. */
export function withMargin(frame: Frame, margin: number): Frame {
  const side = clampedSide(frame.side / (1 - (2 * margin) / 100));
  const shift = Math.round((frame.side - side) / 2);
  return { x: frame.x + shift, y: frame.y + shift, side };
}

/** A frame drawn from one point of the artwork to another, square by its longer extent. */
export function drawn(from: { x: number; y: number }, to: { x: number; y: number }): Frame {
  const side = clampedSide(Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y)));
  return {
    x: Math.round(to.x < from.x ? from.x - side : from.x),
    y: Math.round(to.y < from.y ? from.y - side : from.y),
    side,
  };
}

/** The view enlarged by `factor` around a point of the stage that keeps its place. */
export function zoomed(view: StageView, factor: number, x: number, y: number): StageView {
  const scale = Math.min(Math.max(view.scale * factor, 0.01), 64);
  const grown = scale / view.scale;
  return { scale, x: x - (x - view.x) * grown, y: y - (y - view.y) * grown };
}

/** Lines in artwork px that a moved frame was caught by. */
export type Guides = { x?: number; y?: number };
export const NO_GUIDES: Guides = {};

/** A moved frame whose edges or centre are caught by those of the artwork or its ink, when within `reach` artwork px. */
export function snapped(frame: Frame, facts: Pick<Facts, "width" | "height" | "ink">, reach: number) {
  const { width, height, ink } = facts;
  const x = caught(frame.x, frame.side, lines(width, ink?.left, ink?.right), reach);
  const y = caught(frame.y, frame.side, lines(height, ink?.top, ink?.bottom), reach);
  const guides: Guides = {};
  if (x.line !== undefined) guides.x = x.line;
  if (y.line !== undefined) guides.y = y.line;
  return { frame: { ...frame, x: x.start, y: y.start }, guides };
}

/** A resized frame whose dragged edges are caught: its side changes by at most `reach`, what stays in place stays. */
export function snappedSide(
  frame: Frame,
  grip: Grip,
  facts: Pick<Facts, "width" | "height" | "ink">,
  reach: number,
) {
  const { width, height, ink } = facts;
  const along = [
    { axis: "x", low: "w", high: "e", candidates: lines(width, ink?.left, ink?.right) },
    { axis: "y", low: "n", high: "s", candidates: lines(height, ink?.top, ink?.bottom) },
  ] as const;
  let best: { change: number; guides: Guides } = { change: reach, guides: NO_GUIDES };
  for (const { axis, low, high, candidates } of along) {
    if (!grip.includes(low) && !grip.includes(high)) continue;
    const edge = grip.includes(high) ? frame[axis] + frame.side : frame[axis];
    for (const line of candidates) {
      const change = Math.round(grip.includes(high) ? line - edge : edge - line);
      if (Math.abs(change) < Math.abs(best.change)) best = { change, guides: { [axis]: line } };
    }
  }
  if (best.guides === NO_GUIDES) return { frame, guides: NO_GUIDES };
  const outward = (letter: string) => (grip.includes(letter) ? best.change : 0);
  const [dx, dy] = [outward("e") - outward("w"), outward("s") - outward("n")];
  return { frame: resized(frame, grip, dx, dy), guides: best.guides };
}

/** The edges and centres along one direction. */
const lines = (length: number, inkStart = 0, inkEnd = length) => [
  0,
  length / 2,
  length,
  inkStart,
  (inkStart + inkEnd) / 2,
  inkEnd,
];

function caught(start: number, side: number, candidates: number[], reach: number) {
  let best: { start: number; line?: number; distance: number } = { start, distance: reach };
  for (const line of candidates) {
    for (const offset of [0, side / 2, side]) {
      const distance = Math.abs(start + offset - line);
      if (distance < best.distance) best = { start: Math.round(line - offset), line, distance };
    }
  }
  return best;
}

/** The frame grown by `step` on its right and lower sides. */
export const grown = (frame: Frame, step: number): Frame => ({
  ...frame,
  side: clampedSide(frame.side + step),
});

const clampedSide = (side: number) => Math.min(Math.max(Math.round(side), 1), LARGEST_SIDE);

export const sameFrame = (one: Frame, other: Frame | null | undefined) =>
  !!other && one.x === other.x && one.y === other.y && one.side === other.side;
