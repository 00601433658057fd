import type { Frame, Plate } from "../../../api/client";
import styles from "./stage.module.css";
import type { PlaceOf } from "./useStageView";

type Props = {
  plate: Plate;
  frame: Frame;
  place: PlaceOf;
};

/** Where the plate lies; the artwork is cut to it only in the icons, so that it can be seen whole here. */
export function PlateUnder({ plate, frame, place }: Props) {
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
