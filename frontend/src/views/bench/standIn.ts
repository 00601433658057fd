import { createContext, useEffect, useState } from "react";

import type { Artwork, Framing, Recipe } from "../../api/client";
import { pictureAddress } from "../artwork/ArtworkPicture";
import type { Step } from "./useLadder";

/** Draws what a rung will about look like, from the picture that is here already; undefined when it cannot. */
export type DrawStandIn = ((canvas: HTMLCanvasElement) => void) | undefined;

export const StandIn = createContext<(rung: Step) => DrawStandIn>(() => undefined);

/** Larger than the picture on the stage is never needed. */
const LONGEST = 1600;

export function useStandIns(artwork: Artwork, recipe: Recipe): (rung: Step) => DrawStandIn {
  const image = useImage(pictureAddress(artwork, LONGEST, recipe.framing.lift, recipe.framing.lift_inside));
  return (rung) => {
    const own = rung.own === null ? undefined : recipe.own?.[rung.own];
    const framing = own?.framing ?? recipe.framing;
    const isPlain = rung.purpose === "tab" || rung.purpose === "home";
    if (!image || !isPlain || liftOf(framing) !== liftOf(recipe.framing)) return undefined;
    if ((framing.artwork ?? String(artwork.id)) !== String(artwork.id)) return undefined;
    return (canvas) => draw(canvas, image, artwork, framing, rung.opaque);
  };
}

const liftOf = ({ lift, lift_inside }: Framing) => (lift ? `${lift} ${lift_inside ?? false}` : "");

function draw(
  canvas: HTMLCanvasElement,
  image: HTMLImageElement,
  artwork: Artwork,
  framing: Framing,
  opaque: boolean,
) {
  const pen = canvas.getContext("2d");
  if (!pen) return;
  const { frame, ground, plate } = framing;
  const size = canvas.width;
  const scale = size / frame.side;
  pen.reset();
  pen.imageSmoothingQuality = "high";
  const below = ground ?? (opaque ? framing.home_ground : undefined);
  if (below) {
    pen.fillStyle = below;
    pen.fillRect(0, 0, size, size);
  }
  if (plate?.shape && plate.shape !== "none") {
    const inset = (size * (plate.margin ?? 0)) / 100;
    const side = size - 2 * inset;
    const rounding = { square: 0, rounded: (side * (plate.radius ?? 20)) / 100, disc: side / 2 }[plate.shape];
    pen.beginPath();
    pen.roundRect(inset, inset, side, side, rounding);
    pen.fillStyle = plate.colour ?? "#ffffff";
    pen.fill();
    pen.clip();
  }
  const { width, height } = artwork.facts;
  if (framing.cut) clip(pen, framing.cut, frame, scale);
  const at = [-frame.x * scale, -frame.y * scale, width * scale, height * scale] as const;
  const ink = framing.finish?.recolour;
  if (ink) pen.drawImage(inOneColour(image, ink, size, at), 0, 0);
  else pen.drawImage(image, ...at);
}

function inOneColour(
  image: HTMLImageElement,
  ink: string,
  size: number,
  at: readonly [number, number, number, number],
): OffscreenCanvas {
  const canvas = new OffscreenCanvas(size, size);
  const pen = canvas.getContext("2d");
  if (!pen) return canvas;
  pen.imageSmoothingQuality = "high";
  pen.drawImage(image, ...at);
  pen.globalCompositeOperation = "source-in";
  pen.fillStyle = ink;
  pen.fillRect(0, 0, size, size);
  return canvas;
}

function clip(
  pen: CanvasRenderingContext2D,
  cut: NonNullable<Framing["cut"]>,
  frame: Framing["frame"],
  scale: number,
) {
  const { left, top, right, bottom } = cut;
  const corners = cut.outline?.length
    ? cut.outline
    : [
        { x: left, y: top },
        { x: right, y: top },
        { x: right, y: bottom },
        { x: left, y: bottom },
      ];
  pen.beginPath();
  for (const { x, y } of corners) pen.lineTo((x - frame.x) * scale, (y - frame.y) * scale);
  pen.clip();
}

function useImage(address: string): HTMLImageElement | undefined {
  const [image, setImage] = useState<HTMLImageElement>();
  useEffect(() => {
    const loading = new Image();
    let current = true;
    loading.src = address;
    loading.decode().then(
      () => current && setImage(loading),
      () => current && setImage(undefined), // the stage says that the picture is not there
    );
    return () => {
      current = false;
    };
  }, [address]);
  return image;
}
