import type { Artwork, Frame } from "../../api/client";

type Facts = Artwork["facts"];

/** Where artwork px lie on the stage: stage = origin + artwork × scale, in CSS px. */
export type StageView = { scale: number; x: number; y: number };
export type Size = { width: number; height: number };
export type Corner = "nw" | "ne" | "se" | "sw";

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

/** The frame with one corner dragged by (dx, dy): always square, the opposite corner stays. */
export function resized(frame: Frame, corner: Corner, dx: number, dy: number): Frame {
  const west = corner.endsWith("w");
  const north = corner.startsWith("n");
  const across = frame.side + (west ? -dx : dx);
  const down = frame.side + (north ? -dy : dy);
  const side = clampedSide(Math.max(across, down));
  return {
    x: west ? frame.x + frame.side - side : frame.x,
    y: north ? frame.y + frame.side - side : frame.y,
    side,
  };
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
