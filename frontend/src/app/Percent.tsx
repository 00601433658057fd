import { Slider } from "antd";

import styles from "./percent.module.css";

type Props = { label: string; value: number; least?: number; most: number; set: (value: number) => void };

/** A share of the side, set by a slider. */
export function Percent({ label, value, least = 0, most, set }: Props) {
  return (
    <div className={styles.percent}>
      <span>
        {label} {value} %
      </span>
      <Slider
        ariaLabelForHandle={label}
        min={least}
        max={most}
        value={value}
        tooltip={{ open: false }}
        onChange={set}
      />
    </div>
  );
}
