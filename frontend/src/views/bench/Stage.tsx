import { Button } from "antd";
import {
  type CSSProperties,
  type PointerEvent,
  type ReactNode,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
} from "react";

import type { Artwork, Frame, Framing, Plate } from "../../api/client";
import { pictureAddress } from "../artwork/ArtworkPicture";
import styles from "./bench.module.css";
import {
  drawn,
  fitView,
  type Grip,
  type Guides,
  moved,
  NO_GUIDES,
  resized,
  type Size,
  snapped,
  snappedSide,
  type StageView,
  zoomed,
} from "./frameGeometry";
import { type Overlay, OverlayChoice, OverlayShape } from "./Overlays";

/** How near, in CSS px, an edge or centre must come to be caught. */
const SNAP = 6;
const GRIPS: Grip[] = ["nw", "n", "ne", "e", "se", "s", "sw", "w"];

type Props = {
  artwork: Artwork;
  framing: Framing;
  setFrame: (frame: Frame) => void;
  tools: ReactNode;
  notice: ReactNode;
};
type Point = { x: number; y: number };
/** What is being dragged: the frame or a grip of it from where it was, or a new frame from a point of the artwork. */
type Drag = { from: Frame; start: Point; grip: Grip | undefined } | { anew: Point };

/** The artwork with the square frame over it, dragged and resized in whole artwork px. */
export function Stage({ artwork, framing, setFrame, tools, notice }: Props) {
  const { frame, ground = "clear", plate, cut } = framing;
  const [stage, size] = useSize();
  const [drag, setDrag] = useState<Drag>();
  const [own, setOwn] = useState<StageView>();
  const [settled, setSettled] = useState(frame);
  const [overlay, setOverlay] = useState<Overlay>("none");
  const [guides, setGuides] = useState<Guides>(NO_GUIDES);
  const { width, height } = artwork.facts;
  // While dragging the view keeps still; it follows a frame that was set otherwise.
  const shown = drag ? settled : frame;
  const fitted = useMemo(() => fitView(size, { width, height }, shown), [size, width, height, shown]);
  const view = own ?? fitted;

  const pointOf = (event: PointerEvent): Point => {
    const box = stage.current?.getBoundingClientRect();
    return {
      x: (event.clientX - (box?.left ?? 0) - view.x) / view.scale,
      y: (event.clientY - (box?.top ?? 0) - view.y) / view.scale,
    };
  };
  const begin = (event: PointerEvent, what: "frame" | "anew" | Grip) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    getSelection()?.removeAllRanges(); // else the browser would drag what is selected
    event.currentTarget.setPointerCapture(event.pointerId);
    setSettled(frame);
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
      if (reach * view.scale > SNAP) setFrame(drawn(drag.anew, point)); // less is a click, not a frame
      return;
    }
    const [dx, dy] = [point.x - drag.start.x, point.y - drag.start.y];
    const wanted = drag.grip ? resized(drag.from, drag.grip, dx, dy) : moved(drag.from, dx, dy);
    const reach = event.altKey ? 0 : SNAP / view.scale; // Alt held: nothing is caught
    const snap = drag.grip
      ? snappedSide(wanted, drag.grip, artwork.facts, reach)
      : snapped(wanted, artwork.facts, reach);
    setGuides(snap.guides);
    setFrame(snap.frame);
  };
  const release = () => {
    setDrag(undefined);
    setGuides(NO_GUIDES);
  };
  const zoom = (factor: number, x = size.width / 2, y = size.height / 2) =>
    setOwn(zoomed(view, factor, x, y));
  const onWheel = useEffectEvent((event: WheelEvent) => {
    event.preventDefault();
    const box = stage.current?.getBoundingClientRect();
    if (event.ctrlKey || event.metaKey) {
      zoom(Math.exp(-event.deltaY / 200), event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0));
    } else setOwn({ ...view, x: view.x - event.deltaX, y: view.y - event.deltaY });
  });
  useEffect(() => {
    const field = stage.current;
    const listen = (event: WheelEvent) => onWheel(event);
    field?.addEventListener("wheel", listen, { passive: false }); // React's own cannot keep the page from scrolling
    return () => field?.removeEventListener("wheel", listen);
  }, [stage]);
  const place = (x: number, y: number, across: number, down: number) => ({
    left: view.x + x * view.scale,
    top: view.y + y * view.scale,
    width: across * view.scale,
    height: down * view.scale,
  });
  return (
    <section className={styles.stage} aria-label="Stage">
      <div className={styles.tools}>
        {tools}
        <OverlayChoice artwork={artwork} frame={frame} overlay={overlay} choose={setOverlay} />
        <span className={styles.zoom}>
          <Button size="small" aria-label="Zoom out" onClick={() => zoom(0.8)}>
            −
          </Button>
          <span className="reading">{Math.round(view.scale * 100)} %</span>
          <Button size="small" aria-label="Zoom in" onClick={() => zoom(1.25)}>
            +
          </Button>
          <Button size="small" disabled={!own} onClick={() => setOwn(undefined)}>
            Fit
          </Button>
        </span>
      </div>
      {notice && <div className={styles.notice}>{notice}</div>}
      <div
        className={styles.field}
        ref={stage}
        onDragStart={(event) => event.preventDefault()}
        onPointerDown={(event) => begin(event, "anew")}
        onPointerMove={follow}
        onPointerUp={release}
        onPointerCancel={release}
      >
        <div className={styles.paper} style={place(0, 0, width, height)} />
        <div
          className={`${styles.underFrame} ${ground === "clear" ? "clear-ground" : ""}`}
          style={{
            ...place(frame.x, frame.y, frame.side, frame.side),
            background: ground === "clear" ? "" : ground,
          }}
        />
        <PlateUnder plate={plate ?? {}} place={place} frame={frame} />
        {cut && (
          <img
            className={styles.leftOut}
            src={pictureAddress(artwork, 1600)}
            alt=""
            draggable={false}
            style={place(0, 0, width, height)}
          />
        )}
        <img
          className={styles.artwork}
          src={pictureAddress(artwork, 1600)}
          alt={artwork.title}
          draggable={false}
          style={{ ...place(0, 0, width, height), ...(cut ? shownOnly(cut, width, height) : {}) }}
        />
        {guides.x !== undefined && (
          <i
            className={styles.guide}
            style={{ ...place(guides.x, 0, 0, 0), top: 0, width: 1, height: "100%" }}
          />
        )}
        {guides.y !== undefined && (
          <i
            className={styles.guide}
            style={{ ...place(0, guides.y, 0, 0), left: 0, width: "100%", height: 1 }}
          />
        )}
        <div
          className={styles.frame}
          style={place(frame.x, frame.y, frame.side, frame.side)}
          tabIndex={0}
          role="application"
          aria-roledescription="square frame"
          aria-label={`Frame, ${frame.side} px at ${frame.x}, ${frame.y}. Arrows move it, Alt and arrows change its side.`}
          onKeyDown={(event) => {
            if (event.key === "+") zoom(1.25);
            else if (event.key === "-") zoom(0.8);
            else if (event.key === "0") setOwn(undefined);
          }}
          onPointerDown={(event) => begin(event, "frame")}
        >
          <OverlayShape overlay={overlay} />
          {GRIPS.map((grip) => (
            <span
              key={grip}
              className={styles.handle}
              data-grip={grip}
              onPointerDown={(event) => begin(event, grip)}
            />
          ))}
          <span className={styles.readout}>
            {frame.side} × {frame.side} px at {frame.x}, {frame.y}
          </span>
        </div>
      </div>
    </section>
  );
}

type PlateUnderProps = {
  plate: Plate;
  frame: Frame;
  place: (x: number, y: number, across: number, down: number) => CSSProperties;
};

/** Where the plate lies; the artwork is cut to it only in the icons, so that it can be seen whole here. */
function PlateUnder({ plate, frame, place }: PlateUnderProps) {
  const { shape = "none", colour, radius = 20, margin = 0 } = plate;
  if (shape === "none") return null;
  const inset = (frame.side * margin) / 100;
  const side = frame.side - 2 * inset;
  const borderRadius = shape === "disc" ? "50%" : shape === "rounded" ? `${radius}%` : 0;
  return (
    <div
      className={styles.underFrame}
      style={{ ...place(frame.x + inset, frame.y + inset, side, side), background: colour, borderRadius }}
    />
  );
}

/** Clips a picture to a box of the artwork. */
function shownOnly({ left, top, right, bottom }: NonNullable<Framing["cut"]>, width: number, height: number) {
  const share = (length: number, whole: number) => `${(100 * Math.max(0, length)) / whole}%`;
  const sides = [
    share(top, height),
    share(width - right, width),
    share(height - bottom, height),
    share(left, width),
  ];
  return { clipPath: `inset(${sides.join(" ")})` };
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
