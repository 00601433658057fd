import { Alert, Button, Select, Slider, Switch } from "antd";
import { useState } from "react";

import type { Artwork, Treatment } from "../../api/client";
import { useChangeTreatment } from "../../api/artwork";
import { ColourField } from "../../app/ColourField";
import styles from "./reading.module.css";

const USUAL = "usual";
const USUAL_TOLERANCE = 0.08;

/** How the original is read: which of its pictures, its ground lifted, its ink recoloured. All can be taken back. */
export function Reading({ artwork }: { artwork: Artwork }) {
  const { facts, treatment } = artwork;
  const change = useChangeTreatment(artwork.id);
  const set = (part: Partial<Treatment>) => change.mutate({ ...treatment, ...part });
  const liftable = ["solid", "checkered"].includes(facts.ground) || treatment.lift !== null;
  const recolourable = facts.one_colour || treatment.recolour !== null;
  if (facts.frames.length < 2 && !liftable && !recolourable) return null;
  return (
    <fieldset className={styles.reading} disabled={change.isPending}>
      <legend>How it is read</legend>
      {facts.frames.length > 1 && (
        <label>
          Picture in the file
          <Select
            value={treatment.frame?.toString() ?? USUAL}
            options={[
              { value: USUAL, label: facts.animated ? "First" : "Largest" },
              ...facts.frames.map(({ width, height }, index) => ({
                value: index.toString(),
                label: `${index + 1}: ${width} × ${height} px`,
              })),
            ]}
            onChange={(frame) => set({ frame: frame === USUAL ? null : Number(frame) })}
          />
        </label>
      )}
      {liftable && <Lift drawn={facts.vector} treatment={treatment} set={set} />}
      {recolourable && <Recolour artwork={artwork} set={(recolour) => set({ recolour })} />}
      {change.error && <Alert type="error" showIcon title={change.error.message} />}
    </fieldset>
  );
}

type LiftProps = { drawn: boolean; treatment: Treatment; set: (part: Partial<Treatment>) => void };

/** Of a drawing the background is a shape of its own, so nothing has to be told apart. */
function Lift({ drawn, treatment, set }: LiftProps) {
  const lift = treatment.lift ?? null;
  const [tolerance, setTolerance] = useState(lift ?? USUAL_TOLERANCE);
  return (
    <>
      <label className={styles.switch}>
        <Switch checked={lift !== null} onChange={(on) => set({ lift: on ? tolerance : null })} />
        Remove the background
      </label>
      {lift !== null && !drawn && (
        <label className={styles.switch}>
          <Switch checked={treatment.lift_inside ?? false} onChange={(lift_inside) => set({ lift_inside })} />
          Also inside the mark
        </label>
      )}
      {lift !== null && !drawn && (
        <div>
          Tolerance {Math.round(tolerance * 100)}
          <Slider
            ariaLabelForHandle="Tolerance"
            min={0.01}
            max={0.3}
            step={0.01}
            value={tolerance}
            tooltip={{ open: false }}
            onChange={setTolerance}
            onChangeComplete={(lift) => set({ lift })}
          />
        </div>
      )}
    </>
  );
}

function Recolour({ artwork, set }: { artwork: Artwork; set: (colour: string | null) => void }) {
  const { treatment, facts } = artwork;
  const own = facts.colours[0]?.colour ?? "#000000";
  return (
    <div className={styles.recolour}>
      <ColourField label="Colour of the ink" value={treatment.recolour ?? own} set={set} />
      {treatment.recolour && <Button onClick={() => set(null)}>Its own colour</Button>}
    </div>
  );
}
