import { Button, Checkbox, InputNumber, Select } from "antd";
import { useState } from "react";

import type { Cost, PlanChoices } from "../../../api/client";
import { ColourField } from "../../../app/ColourField";
import { KeptInput } from "../../../app/KeptInput";
import { bytes } from "../../../app/units";
import { Fold } from "./Fold";
import styles from "./planOptions.module.css";
import shared from "./plan.module.css";

const FRAMES = [16, 24, 32, 48, 64, 128, 256];
const PALE = "#ffffff";

type Props = {
  choices: PlanChoices;
  costs: Cost[] | undefined;
  change: (update: (choices: PlanChoices) => Partial<PlanChoices>) => void;
};

/** How the files of a plan are written and named. */
export function PlanOptions({ choices, costs, change }: Props) {
  const { base, stamped } = choices.addresses;
  const set = (part: Partial<PlanChoices>) => change(() => part);
  const setAddresses = (part: Partial<PlanChoices["addresses"]>) =>
    change((now) => ({ addresses: { ...now.addresses, ...part } }));
  return (
    <>
      <Fold
        title="Sizes of your own"
        chosen={choices.extra.length ? `${choices.extra.join(", ")} px` : "none"}
      >
        <ExtraSizes choices={choices} costs={costs} change={change} />
      </Fold>
      <Fold title="Root favicon" chosen={`${choices.frames.join(", ")} px`}>
        <label>
          Frames
          <Select
            mode="multiple"
            size="small"
            value={choices.frames}
            options={FRAMES.map((size) => ({ value: size, label: `${size} px` }))}
            onChange={(frames) => {
              if (frames.length) set({ frames });
            }}
          />
        </label>
        <label>
          Stored as
          <Select
            size="small"
            value={choices.frame_kind}
            options={[
              { value: "bitmap", label: "32-bit bitmaps, read everywhere" },
              { value: "compact", label: "smallest lossless bitmaps" },
              { value: "png", label: "PNG, since 2007" },
            ]}
            onChange={(frame_kind) => set({ frame_kind })}
          />
        </label>
      </Fold>
      <Fold title="Addresses" chosen={base === "/" ? "from the top" : base || "relative"}>
        <Base base={base} set={(next) => setAddresses({ base: next })} />
        <Checkbox checked={stamped} onChange={(event) => setAddresses({ stamped: event.target.checked })}>
          Change with the file, against stale caches
        </Checkbox>
      </Fold>
      <Fold
        title="SVG icon and PNG"
        chosen={[choices.dark ? "own dark colour" : "", choices.palette_error ? "fewer colours" : "lossless"]
          .filter(Boolean)
          .join(", ")}
      >
        <Checkbox
          checked={choices.dark !== null}
          onChange={(event) => set({ dark: event.target.checked ? PALE : null })}
        >
          Own colour of the ink in dark schemes
        </Checkbox>
        {choices.dark && (
          <ColourField label="In dark schemes" value={choices.dark} set={(dark) => set({ dark })} />
        )}
        <label>
          Fewer colours in PNG
          <Select
            size="small"
            value={choices.palette_error}
            options={[
              { value: 0, label: "never, lossless" },
              { value: 0.5, label: "if the mean error is at most 0.5 of 255" },
              { value: 2, label: "if the mean error is at most 2 of 255" },
            ]}
            onChange={(palette_error) => set({ palette_error })}
          />
        </label>
      </Fold>
    </>
  );
}

function ExtraSizes({ choices, costs, change }: Props) {
  const [size, setSize] = useState<number | null>(64);
  const add = () => {
    if (!size) return;
    change(({ extra }) => ({ extra: [...new Set([...extra, size])].sort((one, other) => one - other) }));
  };
  return (
    <>
      {choices.extra.map((one) => {
        const cost = costs?.find(({ name }) => name === `icon-${one}.png`)?.bytes;
        return (
          <div key={one} className={shared.choice}>
            <Checkbox
              checked
              onChange={() => change(({ extra }) => ({ extra: extra.filter((other) => other !== one) }))}
            >
              icon-{one}.png
            </Checkbox>
            <span className="reading">{cost ? bytes(cost) : ""}</span>
          </div>
        );
      })}
      <div className={styles.inline}>
        <InputNumber
          size="small"
          aria-label="Size in px"
          min={1}
          max={1024}
          precision={0}
          value={size}
          onChange={setSize}
          onPressEnter={add}
          suffix="px"
        />
        <Button size="small" onClick={add} disabled={!size}>
          Add this size
        </Button>
      </div>
    </>
  );
}

const RELATIVE = "relative";
const ELSEWHERE = "elsewhere";

function Base({ base, set }: { base: string; set: (base: string) => void }) {
  const kind = base === "/" ? "/" : base === "" ? RELATIVE : ELSEWHERE;
  const [elsewhere, setElsewhere] = useState(kind === ELSEWHERE);
  return (
    <>
      <label>
        In pages
        <Select
          size="small"
          value={elsewhere ? ELSEWHERE : kind}
          options={[
            { value: "/", label: "from the top, like /favicon.ico" },
            { value: RELATIVE, label: "relative to each page" },
            { value: ELSEWHERE, label: "a path or another host" },
          ]}
          onChange={(next) => {
            setElsewhere(next === ELSEWHERE);
            if (next !== ELSEWHERE) set(next === RELATIVE ? "" : next);
          }}
        />
      </label>
      {elsewhere && (
        <label>
          Path or address, ending in /
          <KeptInput value={kind === ELSEWHERE ? base : ""} placeholder="https://" keep={set} />
        </label>
      )}
    </>
  );
}
