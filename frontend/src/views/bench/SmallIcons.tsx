import { Checkbox, Segmented } from "antd";

import type { Framing, HandStep } from "../../api/client";
import styles from "./controls.module.css";
import type { Picked } from "./scope";

/** Tab icons of so many px can be drawn by hand. */
const BY_HAND = [16, 24, 32, 48];
const STEPS: { value: HandStep; label: string }[] = [
  { value: "thin out", label: "Draw fewer bars" },
  { value: "widen", label: "Widen thin strokes" },
  { value: "leave out", label: "Leave out the smallest parts" },
  { value: "set off", label: "Make colours stand out" },
];

type Props = { framing: Framing; picked: Picked | undefined; change: (part: Partial<Framing>) => void };

/** Whether small tab icons are drawn by hand or reduced plainly: the picked one, or all of them. */
export function SmallIcons({ framing, picked, change }: Props) {
  if (picked && (picked.purpose !== "tab" || !BY_HAND.includes(picked.size))) return null;
  const drawn = framing.by_hand ?? [];
  const sizes = picked ? [picked.size] : BY_HAND;
  const some = sizes.filter((size) => drawn.includes(size)).length;
  const value = some === sizes.length ? "by hand" : some ? "" : "plain";
  const others = drawn.filter((size) => !sizes.includes(size));
  return (
    <fieldset className={styles.group}>
      <legend>{picked ? `Icon at ${picked.size} px` : "Small icons, 16 to 48 px"}</legend>
      <Segmented
        block
        aria-label={picked ? `How the icon at ${picked.size} px is drawn` : "How small icons are drawn"}
        value={value}
        options={[
          { value: "by hand", label: "By hand" },
          { value: "plain", label: "Plain" },
        ]}
        onChange={(next) =>
          change({ by_hand: next === "by hand" ? [...others, ...sizes].sort((a, b) => a - b) : others })
        }
      />
      <span className={styles.hint}>
        By hand, straight edges lie on whole pixels. Hold P to see the plain icons.
      </span>
      {value === "by hand" && <Steps steps={framing.steps ?? []} sizes={sizes} change={change} />}
    </fieldset>
  );
}

type StepsProps = {
  steps: NonNullable<Framing["steps"]>;
  sizes: number[];
  change: (part: Partial<Framing>) => void;
};

/** What a hand does to the drawing before: ticked where it is done to all of the sizes, half where to some. */
function Steps({ steps, sizes, change }: StepsProps) {
  const doneAt = (step: HandStep) =>
    sizes.filter((size) => steps.some((one) => one.size === size && one.step === step));
  const set = (step: HandStep, done: boolean) => {
    const others = steps.filter((one) => one.step !== step || !sizes.includes(one.size));
    change({ steps: done ? [...others, ...sizes.map((size) => ({ size, step }))] : others });
  };
  return STEPS.map(({ value, label }) => {
    const count = doneAt(value).length;
    return (
      <Checkbox
        key={value}
        checked={count === sizes.length}
        indeterminate={count > 0 && count < sizes.length}
        onChange={(event) => set(value, event.target.checked)}
      >
        {label}
      </Checkbox>
    );
  });
}
