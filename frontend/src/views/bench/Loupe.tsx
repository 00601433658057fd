import { type PointerEvent, useEffect, useRef, useState } from "react";

import styles from "./ladder.module.css";
import { pngOf, type Step } from "./useLadder";

const ROOM = 192;
/** At most so many image px along the side, so that each is seen as a square. */
const MOST_SHOWN = 48;

/** One rung enlarged to squares with a grid, and the colour of the px under the pointer. */
export function Loupe({ rung }: { rung: Step }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shown = Math.min(rung.size, MOST_SHOWN);
  const factor = Math.floor(ROOM / shown);
  const offset = Math.floor((rung.size - shown) / 2);
  const [pixels, setPixels] = useState<ImageData>();
  const [at, setAt] = useState({ x: Math.floor(shown / 2), y: Math.floor(shown / 2) });
  const source = pngOf(rung);

  useEffect(() => {
    let current = true;
    const image = new Image();
    image.src = source;
    void image.decode().then(() => {
      if (!current || !canvas.current) return;
      setPixels(pixelsOf(image, offset, shown));
      draw(canvas.current, image, offset, shown, factor);
    });
    return () => {
      current = false;
    };
  }, [source, offset, shown, factor]);

  const follow = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const cell = (position: number, length: number) =>
      Math.max(0, Math.min(shown - 1, Math.floor((position / length) * shown)));
    setAt({ x: cell(event.clientX - box.left, box.width), y: cell(event.clientY - box.top, box.height) });
  };
  return (
    <figure
      className={styles.loupe}
      data-outdated={rung.outdated || undefined}
      aria-label={`Loupe on the icon at ${rung.size} px`}
    >
      <canvas
        ref={canvas}
        className="clear-ground"
        width={shown * factor}
        height={shown * factor}
        onPointerMove={follow}
      />
      <figcaption className="reading">
        {rung.size} px,{" "}
        {rung.outdated ? "being made" : `${factor} × enlarged${shown < rung.size ? ", middle part" : ""}`}
        <br />
        {pixels && <Reading pixels={pixels} x={at.x} y={at.y} shift={offset} />}
      </figcaption>
    </figure>
  );
}

type ReadingProps = { pixels: ImageData; x: number; y: number; shift: number };

function Reading({ pixels, x, y, shift }: ReadingProps) {
  const start = 4 * (y * pixels.width + x);
  const [red = 0, green = 0, blue = 0, alpha = 0] = pixels.data.slice(start, start + 4);
  const colour = `#${[red, green, blue].map((value) => value.toString(16).padStart(2, "0")).join("")}`;
  return (
    <>
      {x + shift}, {y + shift}: {alpha === 0 ? "clear" : colour}
      {alpha > 0 && alpha < 255 ? ` ${Math.round(alpha / 2.55)} %` : ""}
    </>
  );
}

function pixelsOf(image: HTMLImageElement, offset: number, shown: number): ImageData | undefined {
  const pen = new OffscreenCanvas(shown, shown).getContext("2d", { willReadFrequently: true });
  pen?.drawImage(image, -offset, -offset);
  return pen?.getImageData(0, 0, shown, shown);
}

function draw(
  canvas: HTMLCanvasElement,
  image: HTMLImageElement,
  offset: number,
  shown: number,
  factor: number,
) {
  const pen = canvas.getContext("2d");
  if (!pen) return;
  const side = shown * factor;
  pen.clearRect(0, 0, side, side);
  pen.imageSmoothingEnabled = false;
  pen.drawImage(image, offset, offset, shown, shown, 0, 0, side, side);
  pen.fillStyle = "rgb(120 130 125 / 35%)";
  for (let line = factor; line < side; line += factor) {
    pen.fillRect(line, 0, 1, side);
    pen.fillRect(0, line, side, 1);
  }
}
