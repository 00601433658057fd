import { type PointerEvent, useEffect, useEffectEvent, useRef, useState } from "react";

import styles from "./ladder.module.css";
import { plainOf, pngOf, type Step } from "./useLadder";

const ROOM = 192;
/** At most so many image px along the side, so that each is seen as a square. */
const MOST_SHOWN = 48;
const TABS = ["light", "dark"] as const;
/** The picture that no plain one stands beside. */
const ALONE = "Enlarged";

/** The px that was pointed at, in the picture of that label. */
type Pointed = { label: string; x: number; y: number };

/** One rung enlarged to squares with a grid, and the colour of the px under the pointer; beside it the plain one. */
export function Loupe({ rung }: { rung: Step }) {
  const plain = plainOf(rung);
  const shown = Math.min(rung.size, MOST_SHOWN);
  const middle = Math.floor(shown / 2);
  const [seen, setSeen] = useState<Record<string, ImageData>>({});
  const [pointed, point] = useState<Pointed>();
  const factor = Math.floor(ROOM / (plain ? 2 : 1) / shown);
  const offset = Math.floor((rung.size - shown) / 2);
  const at = pointed ?? { label: ALONE, x: middle, y: middle };
  const pixels = plain && at.label === ALONE ? undefined : seen[plain ? at.label : ALONE];
  const enlarged = {
    ...{ shown, offset, factor, point },
    drawn: (label: string, its: ImageData) => setSeen((now) => ({ ...now, [label]: its })),
  };
  const pictures = [["By hand", pngOf(rung)] as const, ...(plain ? [["Plain", plain] as const] : [])];
  return (
    <figure
      className={styles.loupe}
      data-outdated={rung.outdated || undefined}
      data-pairs={plain !== undefined || undefined}
      aria-label={`Loupe on the icon at ${rung.size} px`}
    >
      {plain ? (
        <div className={styles.pairs}>
          {pictures.map(([name]) => (
            <span key={name} className="reading">
              {name}
            </span>
          ))}
          {TABS.flatMap((tab) =>
            pictures.map(([name, src]) => (
              <Enlarged
                key={`${tab} ${name}`}
                src={src}
                tab={tab}
                label={`${name}, on ${tab}`}
                {...enlarged}
              />
            )),
          )}
        </div>
      ) : (
        <Enlarged src={pngOf(rung)} label={ALONE} {...enlarged} />
      )}
      <figcaption className="reading">
        {rung.size} px,{" "}
        {rung.outdated ? "being made" : `${factor} × enlarged${shown < rung.size ? ", middle part" : ""}`}
        <br />
        {pixels ? readingOf(pixels, at.x, at.y, offset) : !rung.outdated && byHand(rung)}
      </figcaption>
    </figure>
  );
}

/** What was done by hand, in one line. */
function byHand({ edges, done }: Step): string {
  const moved = edges === 1 ? "1 edge on a pixel" : `${edges} edges on pixels`;
  const all = [...(edges ? [moved] : []), ...done].join("; ");
  return all.charAt(0).toUpperCase() + all.slice(1);
}

type EnlargedProps = {
  src: string;
  label: string;
  tab?: (typeof TABS)[number];
  shown: number;
  offset: number;
  factor: number;
  drawn: (label: string, pixels: ImageData) => void;
  point: (at: Pointed) => void;
};

function Enlarged({ src, label, tab, shown, offset, factor, drawn, point }: EnlargedProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const tell = useEffectEvent((pixels: ImageData | undefined) => pixels && drawn(label, pixels));
  useEffect(() => {
    let current = true;
    const image = new Image();
    image.src = src;
    void image.decode().then(() => {
      if (!current || !canvas.current) return;
      tell(pixelsOf(image, offset, shown));
      draw(canvas.current, image, offset, shown, factor);
    });
    return () => {
      current = false;
    };
  }, [src, offset, shown, factor]);

  const follow = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const cell = (position: number, length: number) =>
      Math.max(0, Math.min(shown - 1, Math.floor((position / length) * shown)));
    point({
      label,
      x: cell(event.clientX - box.left, box.width),
      y: cell(event.clientY - box.top, box.height),
    });
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      className={tab ? styles.onTab : "clear-ground"}
      data-tab={tab}
      width={shown * factor}
      height={shown * factor}
      onPointerMove={follow}
    />
  );
}

function readingOf(pixels: ImageData, x: number, y: number, shift: number): string {
  const start = 4 * (y * pixels.width + x);
  const [red = 0, green = 0, blue = 0, alpha = 0] = pixels.data.slice(start, start + 4);
  const colour = `#${[red, green, blue].map((value) => value.toString(16).padStart(2, "0")).join("")}`;
  const seen = alpha > 0 && alpha < 255 ? ` ${Math.round(alpha / 2.55)} %` : "";
  return `${x + shift}, ${y + shift}: ${alpha === 0 ? "clear" : colour}${seen}`;
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
