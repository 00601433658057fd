import type { Plate } from "../../../api/client";
import { ColourField } from "../../../app/ColourField";
import { PlateFields } from "../../../app/PlateFields";
import styles from "./drawing.module.css";

type Props = { ink: string; plate: Plate; change: (part: { ink?: string; plate?: Plate }) => void };

export function InkAndPlate({ ink, plate, change }: Props) {
  return (
    <>
      <ColourField label="Ink" value={ink} set={(colour) => change({ ink: colour })} />
      <div className={styles.field}>
        <span>Plate</span>
        <PlateFields
          plate={plate}
          set={(next) => change({ plate: next })}
          marginLabel="Margin"
          colours={[ink]}
        />
      </div>
    </>
  );
}
