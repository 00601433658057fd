import { type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState } from "react";

import type { Artwork, Frame } from "../../api/client";
import { pictureAddress } from "../artwork/ArtworkPicture";
import styles from "./bench.module.css";
import { type Corner, fitView, moved, resized, type Size } from "./frameGeometry";

const CORNERS: Corner[] = ["nw", "ne", "se", "sw"];

type Props = {
  artwork: Artwork;
  frame: Frame;
  ground: string;
  setFrame: (frame: Frame) => void;
  status: string;
  notice: ReactNode;
};
type Drag = { from: Frame; x: number; y: number; corner: Corner | undefined };

/** The artwork with the square frame over it, dragged and resized in whole artwork px. */
export function Stage({ artwork, frame, ground, setFrame, status, notice }: Props) {
  const [stage, size] = useSize();
  const [drag, setDrag] = useState<Drag>();
  const [settled, setSettled] = useState(frame);
  const { width, height } = artwork.facts;
  // While dragging the view keeps still; it follows a frame that was set otherwise.
  const shown = drag ? settled : frame;
  const view = useMemo(() => fitView(size, { width, height }, shown), [size, width, height, shown]);

  const begin = (event: PointerEvent, corner?: Corner) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    setSettled(frame);
    setDrag({ from: frame, x: event.clientX, y: event.clientY, corner });
  };
  const follow = (event: PointerEvent) => {
    if (!drag) return;
    const dx = (event.clientX - drag.x) / view.scale;
    const dy = (event.clientY - drag.y) / view.scale;
    setFrame(drag.corner ? resized(drag.from, drag.corner, dx, dy) : moved(drag.from, dx, dy));
  };
  const place = (x: number, y: number, across: number, down: number) => ({
    left: view.x + x * view.scale,
    top: view.y + y * view.scale,
    width: across * view.scale,
    height: down * view.scale,
  });
  const side = frame.side * view.scale;
  return (
    <section className={styles.stage} aria-label="Stage">
      <div className={styles.tools}>
        <span className="reading" role="status">
          {status}
        </span>
        <span className="reading">{Math.round(view.scale * 100)} % of the artwork</span>
      </div>
      {notice && <div className={styles.notice}>{notice}</div>}
      <div className={styles.field} ref={stage}>
        <div className={styles.paper} style={place(0, 0, width, height)} />
        <div
          className={`${styles.underFrame} ${ground === "clear" ? "clear-ground" : ""}`}
          style={{
            ...place(frame.x, frame.y, frame.side, frame.side),
            background: ground === "clear" ? "" : ground,
          }}
        />
        <img
          className={styles.artwork}
          src={pictureAddress(artwork, 1600)}
          alt={artwork.title}
          draggable={false}
          style={place(0, 0, width, height)}
        />
        <div
          className={styles.frame}
          style={place(frame.x, frame.y, frame.side, frame.side)}
          tabIndex={0}
          role="application"
          aria-roledescription="square frame"
          aria-label={`Frame, ${frame.side} px at ${frame.x}, ${frame.y}. Arrows move it, Alt and arrows change its side.`}
          onPointerDown={begin}
          onPointerMove={follow}
          onPointerUp={() => setDrag(undefined)}
          onPointerCancel={() => setDrag(undefined)}
        >
          {CORNERS.map((corner) => (
            <span
              key={corner}
              className={styles.handle}
              data-corner={corner}
              onPointerDown={(event) => begin(event, corner)}
            />
          ))}
          <span className={styles.readout} data-inside={side > 260 && frame.y + frame.side > height}>
            {frame.side} × {frame.side} px at {frame.x}, {frame.y}
          </span>
        </div>
      </div>
    </section>
  );
}

function useSize() {
  const element = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Size>({ width: 600, height: 400 });
  useEffect(() => {
    if (!element.current) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, []);
  return [element, size] as const;
}
