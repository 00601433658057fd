import { Segmented } from "antd";

import type { Artwork, Plate } from "../../api/client";
import { ColourField } from "../../app/ColourField";
import styles from "./bench.module.css";
import { Percent } from "./Percent";

const SHAPES: { value: NonNullable<Plate["shape"]>; label: string }[] = [
  { value: "none", label: "None" },
  { value: "square", label: "Square" },
  { value: "rounded", label: "Round" },
  { value: "disc", label: "Disc" },
];

type Props = { artwork: Artwork; plate: Plate; set: (plate: Plate) => void };

/** A shape of its own colour under the artwork, to which the artwork is cut. */
export function PlateControls({ artwork, plate, set }: Props) {
  const colours = artwork.facts.colours.map((one) => one.colour);
  const { shape = "none", colour = "#ffffff", radius = 20, margin = 0 } = plate;
  return (
    <fieldset className={styles.group}>
      <legend>Plate</legend>
      <Segmented
        block
        aria-label="Plate"
        value={shape}
        options={SHAPES}
        onChange={(next) => set({ ...plate, shape: next })}
      />
      {shape !== "none" && (
        <>
          <ColourField
            suggested={colours}
            against={colours[0]}
            label="Plate colour"
            value={colour}
            set={(next) => set({ ...plate, colour: next })}
          />
          {shape === "rounded" && (
            <Percent
              label="Rounding"
              value={radius}
              most={50}
              set={(next) => set({ ...plate, radius: next })}
            />
          )}
          <Percent label="Inset" value={margin} most={40} set={(next) => set({ ...plate, margin: next })} />
        </>
      )}
    </fieldset>
  );
}
