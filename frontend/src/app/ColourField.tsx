import { Input } from "antd";
import { useState } from "react";

import styles from "./colourField.module.css";

const HEX = /^#[0-9a-f]{6}$/i;

type Props = { label: string; value: string; set: (colour: string) => void };

/** A colour as a swatch to pick from and a hex value to type. Only whole values are passed on. */
export function ColourField({ label, value, set }: Props) {
  const [typed, setTyped] = useState<string>();
  const shown = typed ?? value;
  const wrong = !HEX.test(shown);
  return (
    <div className={styles.colour}>
      <input
        type="color"
        aria-label={`${label}, pick`}
        value={value}
        onChange={(event) => set(event.target.value)}
      />
      <label>
        {label}
        <Input
          value={shown}
          maxLength={7}
          status={wrong ? "error" : ""}
          aria-invalid={wrong}
          onChange={(event) => {
            setTyped(event.target.value);
            if (HEX.test(event.target.value)) set(event.target.value.toLowerCase());
          }}
          onBlur={() => setTyped(undefined)}
        />
      </label>
    </div>
  );
}
