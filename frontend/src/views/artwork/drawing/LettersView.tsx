import { Input, Segmented, Select, Slider } from "antd";

import type { Letters } from "../../../api/client";
import { useFaces, useInitials } from "../../../api/artwork";
import { useTyped } from "../../../app/typed";
import styles from "./drawing.module.css";
import { DrawingBench } from "./DrawingBench";
import { InkAndPlate } from "./InkAndPlate";
import { useDrawn } from "./useDrawn";

const FIRST: Letters = {
  kind: "letters",
  text: "",
  face: "rubik",
  weight: 800,
  tracking: 0,
  ink: "#f2b84b",
  plate: { shape: "rounded", colour: "#16302a", radius: 20, margin: 10 },
};

/** One to three letters on a plate. */
export function LettersView() {
  const { changed, site, ready } = useDrawn("letters");
  const initials = useInitials(site.name);
  if (!ready || initials.isPending) return null;
  const offered = initials.data ?? [];
  const text = offered[0] ?? "";
  const first = changed?.drawing?.kind === "letters" ? changed.drawing : { ...FIRST, text };
  return (
    <Maker
      key={changed?.id ?? "new"}
      siteId={site.id}
      first={first}
      offered={offered}
      changedId={changed?.id}
    />
  );
}

type Props = { siteId: number; first: Letters; offered: string[]; changedId: number | undefined };

function Maker({ siteId, first, offered, changedId }: Props) {
  const faces = useFaces();
  const { value: letters, type, forget } = useTyped(`letters-${siteId}-${changedId ?? "new"}`, first);
  const change = (part: Partial<Letters>) => type({ ...letters, ...part });
  const face = faces.data?.find((one) => one.key === letters.face);
  return (
    <DrawingBench
      title="Letters"
      drawing={letters}
      complete={letters.text.trim() !== ""}
      changedId={changedId}
      done={forget}
    >
      <label>
        One to three letters
        <Input
          size="large"
          value={letters.text}
          maxLength={8}
          onChange={(event) => change({ text: event.target.value })}
        />
      </label>
      {offered.length > 1 && (
        <div className={styles.field}>
          <span>From the site’s name</span>
          <Segmented
            block
            aria-label="From the site’s name"
            value={letters.text}
            options={offered}
            onChange={(text) => change({ text })}
          />
        </div>
      )}
      <label>
        Font
        <Select
          value={letters.face}
          options={faces.data?.map((one) => ({ value: one.key, label: one.name })) ?? []}
          onChange={(key) => {
            const weights = faces.data?.find((one) => one.key === key)?.weights ?? [];
            change({ face: key, weight: nearest(weights, letters.weight) });
          }}
        />
      </label>
      <div className={styles.field}>
        <span>Weight</span>
        <Segmented
          block
          aria-label="Weight"
          value={letters.weight}
          options={face?.weights ?? [letters.weight]}
          onChange={(weight) => change({ weight })}
        />
      </div>
      <div className={styles.field}>
        <span>Tracking {letters.tracking}</span>
        <Slider
          ariaLabelForHandle="Tracking"
          min={-20}
          max={50}
          value={letters.tracking ?? 0}
          tooltip={{ open: false }}
          onChange={(tracking) => change({ tracking })}
        />
      </div>
      <InkAndPlate ink={letters.ink} plate={letters.plate} change={change} />
    </DrawingBench>
  );
}

const nearest = (weights: number[], wanted: number) =>
  weights.reduce(
    (best, one) => (Math.abs(one - wanted) < Math.abs(best - wanted) ? one : best),
    weights[0] ?? wanted,
  );
