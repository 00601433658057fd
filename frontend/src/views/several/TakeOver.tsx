import { Button, Checkbox, Select } from "antd";
import { useState } from "react";

import type { Site } from "../../api/client";
import styles from "./takeOver.module.css";
import shared from "./several.module.css";

type Props = {
  sites: Site[];
  busy: boolean;
  takeOver: (from: number, what: { recipe: boolean; plan: boolean }) => Promise<void>;
};

/** Gives all chosen sites what one has: its artwork and framings, its choice of files, or both. */
export function TakeOver({ sites, busy, takeOver }: Props) {
  const [from, setFrom] = useState<number>();
  const [recipe, setRecipe] = useState(true);
  const [plan, setPlan] = useState(true);
  return (
    <details className={styles.takeOver}>
      <summary>Take over what another site has</summary>
      <div className={shared.actions}>
        <Select
          aria-label="The site to take from"
          placeholder="The site to take from"
          showSearch={{ optionFilterProp: "label" }}
          {...(from ? { value: from } : {})}
          options={sites.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setFrom}
          popupMatchSelectWidth={false}
        />
        <Checkbox checked={recipe} onChange={(event) => setRecipe(event.target.checked)}>
          Artwork and framings
        </Checkbox>
        <Checkbox checked={plan} onChange={(event) => setPlan(event.target.checked)}>
          Which files the set has
        </Checkbox>
        <Button
          loading={busy}
          disabled={!from || !(recipe || plan)}
          onClick={() => from && void takeOver(from, { recipe, plan })}
        >
          Take over
        </Button>
      </div>
      <p>Each bench keeps what it had before: Undo there brings it back.</p>
    </details>
  );
}
