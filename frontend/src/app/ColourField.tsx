import { AimOutlined } from "@ant-design/icons";
import { Button, Input } from "antd";
import { useState } from "react";

import { contrast, GRAPHICS_NEED, HEX, recentColours, rememberColour, standsOut } from "./colour";
import styles from "./colourField.module.css";
import { afterPress } from "./pressing";

type Props = {
  label: string;
  value: string;
  set: (colour: string) => void;
  /** Colours that are near at hand, those of the artwork, say. */
  suggested?: string[];
  /** A colour that should stand out from this one. */
  against?: string | undefined;
};

/** Chromium's picker of a colour anywhere on the screen; other browsers have none. */
type EyeDropper = { open: () => Promise<{ sRGBHex: string }> };
const dropper = (window as { EyeDropper?: new () => EyeDropper }).EyeDropper;

/** A colour to pick, type, drop or choose among those near at hand. Only whole values are passed on. */
export function ColourField({ label, value, set, suggested = [], against }: Props) {
  const [typed, setTyped] = useState<string>();
  const [open, setOpen] = useState(false);
  const shown = typed ?? value;
  const wrong = !HEX.test(shown);
  const drop = async () => {
    try {
      if (dropper) set((await new dropper().open()).sRGBHex);
    } catch {
      // The person pressed Escape: nothing was chosen.
    }
  };
  const swatches = open
    ? [...new Set([...suggested, ...recentColours()])].filter((one) => one !== value)
    : [];
  return (
    <div
      className={styles.field}
      onFocus={() => setOpen(true)}
      onBlur={(event) => {
        if (event.currentTarget.contains(event.relatedTarget)) return;
        setTyped(undefined);
        afterPress(() => {
          setOpen(false);
          rememberColour(value);
        });
      }}
    >
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
          />
        </label>
        {dropper && (
          <Button
            aria-label={`${label}, from the screen`}
            title="Pick from the screen"
            onClick={() => void drop()}
            icon={<AimOutlined />}
          />
        )}
      </div>
      {swatches.length > 0 && (
        <div className={styles.swatches}>
          {swatches.map((colour) => (
            <button
              key={colour}
              type="button"
              title={colour}
              aria-label={`${label}: ${colour}`}
              style={{ background: colour }}
              onClick={() => {
                setTyped(undefined);
                set(colour);
              }}
            />
          ))}
        </div>
      )}
      {against && against !== value && <Contrast ratio={contrast(value, against)} against={against} />}
    </div>
  );
}

const Contrast = ({ ratio, against }: { ratio: number; against: string }) => (
  <span className={`reading ${styles.contrast}`} data-tone={standsOut(ratio) ? "good" : "caution"}>
    {ratio.toFixed(1)} : 1 to the ink {against}
    {!standsOut(ratio) && `, ${GRAPHICS_NEED}`}
  </span>
);
