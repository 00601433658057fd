import { Segmented, Slider } from "antd";

import type { Plate } from "../../../api/client";
import { ColourField } from "../../../app/ColourField";
import styles from "./drawing.module.css";

const SHAPES: { value: NonNullable<Plate["shape"]>; label: string }[] = [
  { value: "none", label: "None" },
  { value: "square", label: "Square" },
  { value: "rounded", label: "Rounded" },
  { value: "disc", label: "Disc" },
];

type Props = { ink: string; plate: Plate; change: (part: { ink?: string; plate?: Plate }) => void };

export function InkAndPlate({ ink, plate, change }: Props) {
  const set = (part: Partial<Plate>) => change({ plate: { ...plate, ...part } });
  const shape = plate.shape ?? "none";
  return (
    <>
      <ColourField label="Ink" value={ink} set={(colour) => change({ ink: colour })} />
      <div className={styles.field}>
        <span>Plate</span>
        <Segmented
          block
          aria-label="Plate"
          value={shape}
          options={SHAPES}
          onChange={(next) => set({ shape: next })}
        />
      </div>
      {shape !== "none" && (
        <ColourField
          label="Plate colour"
          value={plate.colour ?? "#ffffff"}
          set={(colour) => set({ colour })}
        />
      )}
      {shape === "rounded" && (
        <Percent label="Rounding" value={plate.radius ?? 20} most={50} set={(radius) => set({ radius })} />
      )}
      <Percent label="Margin" value={plate.margin ?? 8} most={40} set={(margin) => set({ margin })} />
    </>
  );
}

type PercentProps = { label: string; value: number; most: number; set: (value: number) => void };

function Percent({ label, value, most, set }: PercentProps) {
  return (
    <div className={styles.field}>
      <span>
        {label} {value} %
      </span>
      <Slider ariaLabelForHandle={label} max={most} value={value} tooltip={{ open: false }} onChange={set} />
    </div>
  );
}
