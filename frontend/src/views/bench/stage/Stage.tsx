import { Button } from "antd";
import { type ReactNode, useState } from "react";

import type { Artwork, Frame, Framing } from "../../../api/client";
import { pictureAddress } from "../../artwork/ArtworkPicture";
import type { Grip } from "../frameGeometry";
import { type Overlay, OverlayChoice, OverlayShape } from "./Overlays";
import { PlateUnder } from "./PlateUnder";
import styles from "./stage.module.css";
import { type Drag, useFrameDrag } from "./useFrameDrag";
import { useStageView } from "./useStageView";

const GRIPS: Grip[] = ["nw", "n", "ne", "e", "se", "s", "sw", "w"];

type Props = {
  artwork: Artwork;
  framing: Framing;
  setFrame: (frame: Frame) => void;
  tools: ReactNode;
  notice: ReactNode;
};

/** The artwork with the square frame over it, dragged and resized in whole artwork px. */
export function Stage({ artwork, framing, setFrame, tools, notice }: Props) {
  const { frame, ground, plate, cut, lift, lift_inside } = framing;
  const ink = framing.finish?.recolour;
  const [drag, setDrag] = useState<Drag>();
  const [settled, setSettled] = useState(frame);
  const [anew, setAnew] = useState(false);
  const [overlay, setOverlay] = useState<Overlay>("none");
  const { width, height } = artwork.facts;
  // While dragging the view keeps still; it follows a frame that was set otherwise.
  if (!drag && settled !== frame) setSettled(frame);
  const [field, view] = useStageView(artwork.facts, settled);
  const { place, zoom } = view;
  const dragging = useFrameDrag([drag, setDrag], view, artwork.facts, frame, setFrame);
  const { guides, begin } = dragging;
  return (
    <section className={styles.stage} aria-label="Stage">
      <div className={styles.tools}>
        {tools}
        <Button className={styles.anew ?? ""} size="small" aria-pressed={anew} onClick={() => setAnew(!anew)}>
          {anew ? "Drag over the artwork" : "New frame"}
        </Button>
        <OverlayChoice artwork={artwork} frame={frame} overlay={overlay} choose={setOverlay} />
        <span className={styles.zoom}>
          <Button size="small" aria-label="Zoom out" onClick={() => zoom(0.8)}>
            −
          </Button>
          <span className="reading">{Math.round(view.scale * 100)} %</span>
          <Button size="small" aria-label="Zoom in" onClick={() => zoom(1.25)}>
            +
          </Button>
          <Button size="small" disabled={!view.isOwn} onClick={view.fit}>
            Fit
          </Button>
        </span>
      </div>
      {notice && <div className={styles.notice}>{notice}</div>}
      <div
        className={styles.field}
        ref={field}
        onDragStart={(event) => event.preventDefault()}
        data-anew={anew || undefined}
        onPointerDown={(event) => {
          if (anew || event.pointerType !== "touch") begin(event, "anew"); // one finger scrolls the page
        }}
        onPointerMove={dragging.follow}
        onPointerUp={() => {
          dragging.release();
          setAnew(false);
        }}
        onPointerCancel={dragging.release}
      >
        <div className={styles.paper} style={place(0, 0, width, height)} />
        <div
          className={`${styles.underFrame} ${ground ? "" : "clear-ground"}`}
          style={{
            ...place(frame.x, frame.y, frame.side, frame.side),
            background: ground ?? "",
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
        {ink && <InOneColour ink={ink} />}
        <img
          className={styles.artwork}
          src={pictureAddress(artwork, 1600, lift, lift_inside)}
          alt={artwork.title}
          draggable={false}
          style={{
            ...place(0, 0, width, height),
            ...(cut ? shownOnly(cut, width, height) : {}),
            ...(ink ? { filter: `url(#${INK})` } : {}),
          }}
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
            else if (event.key === "0") view.fit();
          }}
          onPointerDown={(event) => begin(event, anew ? "anew" : "frame")}
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

const INK = "stage-ink";

/** A filter that gives everything one colour, as the icons have it. */
const InOneColour = ({ ink }: { ink: string }) => (
  <svg width="0" height="0" aria-hidden style={{ position: "absolute" }}>
    <filter id={INK} colorInterpolationFilters="sRGB">
      <feFlood floodColor={ink} />
      <feComposite operator="in" in2="SourceAlpha" />
    </filter>
  </svg>
);

/** Clips a picture to a box of the artwork, or to a shape in it. */
function shownOnly(cut: NonNullable<Framing["cut"]>, width: number, height: number) {
  const { left, top, right, bottom, outline } = cut;
  const share = (length: number, whole: number) => `${(100 * Math.max(0, length)) / whole}%`;
  if (outline?.length) {
    const corners = outline.map(({ x, y }) => `${share(x, width)} ${share(y, height)}`);
    return { clipPath: `polygon(${corners.join(", ")})` };
  }
  const sides = [
    share(top, height),
    share(width - right, width),
    share(height - bottom, height),
    share(left, width),
  ];
  return { clipPath: `inset(${sides.join(" ")})` };
}
