import { Button, Checkbox } from "antd";
import { useState } from "react";

import type { Site } from "../../api/client";
import { SitePicker } from "../../app/SitePicker";
import styles from "./takeOver.module.css";
import shared from "./several.module.css";

type Props = {
  busy: boolean;
  takeOver: (from: number, what: { recipe: boolean; plan: boolean }) => Promise<void>;
};

/** Gives all chosen sites what one has: its artwork and framings, its choice of files, or both. */
export function TakeOver({ busy, takeOver }: Props) {
  const [from, setFrom] = useState<Site>();
  const [recipe, setRecipe] = useState(true);
  const [plan, setPlan] = useState(true);
  return (
    <details className={styles.takeOver}>
      <summary>Copy settings from another site</summary>
      <div className={shared.actions}>
        <SitePicker label="The site to copy from" chosen={from} choose={setFrom} />
        <Checkbox checked={recipe} onChange={(event) => setRecipe(event.target.checked)}>
          Artwork and framings
        </Checkbox>
        <Checkbox checked={plan} onChange={(event) => setPlan(event.target.checked)}>
          Which files the set has
        </Checkbox>
        <Button
          loading={busy}
          disabled={!from || !(recipe || plan)}
          onClick={() => from && void takeOver(from.id, { recipe, plan })}
        >
          Copy
        </Button>
      </div>
      <p>Each bench keeps what it had before: Undo restores it.</p>
    </details>
  );
}
