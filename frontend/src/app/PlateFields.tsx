import { Segmented } from "antd";

import type { Plate } from "../api/client";
import { ColourField } from "./ColourField";
import { Percent } from "./Percent";

const SHAPES: { value: Plate["shape"]; label: string }[] = [
  { value: "none", label: "None" },
  { value: "square", label: "Square" },
  { value: "rounded", label: "Round" },
  { value: "disc", label: "Disc" },
];

type Props = {
  plate: Plate;
  set: (plate: Plate) => void;
  /** What the margin is called here; shown without a plate, too, when it means the ink's own room. */
  marginLabel: "Inset" | "Margin";
  colours: string[];
};

/** A shape of its own colour under the ink. */
export function PlateFields({ plate, set, marginLabel, colours }: Props) {
  const { shape, colour, radius, margin } = plate;
  return (
    <>
      <Segmented
        block
        aria-label="Plate"
        value={shape}
        options={SHAPES}
        onChange={(next) => set({ ...plate, shape: next })}
      />
      {shape !== "none" && (
        <ColourField
          label="Plate colour"
          value={colour}
          suggested={colours}
          against={colours[0]}
          set={(next) => set({ ...plate, colour: next })}
        />
      )}
      {shape === "rounded" && (
        <Percent label="Rounding" value={radius} most={50} set={(next) => set({ ...plate, radius: next })} />
      )}
      {(shape !== "none" || marginLabel === "Margin") && (
        <Percent
          label={marginLabel}
          value={margin}
          most={40}
          set={(next) => set({ ...plate, margin: next })}
        />
      )}
    </>
  );
}
