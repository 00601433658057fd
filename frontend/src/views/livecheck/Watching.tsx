import { Alert, Button, Input, Select } from "antd";
import { useState } from "react";

import { useSetWatch, useWatch } from "../../api/watching";
import type { Site, WatchInput } from "../../api/client";
import styles from "./watching.module.css";
import shared from "./livecheck.module.css";

const NEVER = "never";
const EVERY = [
  { value: NEVER, label: "Off" },
  { value: "day", label: "Every day" },
  { value: "week", label: "Every week" },
];

/** Whether the site is looked at by itself, and who is told when it got worse. */
export function Watching({ site }: { site: Site }) {
  const watch = useWatch(site.id);
  if (watch.data === undefined) return null;
  const { every = NEVER, webhook = "", mail = "", troubled = "" } = watch.data ?? {};
  return (
    <section aria-label="Automatic checks" className={shared.panel}>
      <h2>Automatic checks</h2>
      {troubled && <Alert type="warning" showIcon title={troubled} />}
      <Form key={`${every} ${webhook} ${mail}`} site={site} initial={{ every, webhook, mail }} />
    </section>
  );
}

type Wanted = { every: string; webhook: string; mail: string };

function Form({ site, initial }: { site: Site; initial: Wanted }) {
  const [wanted, setWanted] = useState(initial);
  const save = useSetWatch(site.id);
  const changed = JSON.stringify(wanted) !== JSON.stringify(initial);
  const watched = wanted.every !== NEVER;
  return (
    <form
      className={styles.watch}
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(watched ? (wanted as WatchInput) : null);
      }}
    >
      <Select
        aria-label="How often"
        value={wanted.every}
        options={EVERY}
        onChange={(every) => setWanted({ ...wanted, every })}
      />
      {watched && (
        <>
          <label>
            Tell by mail when it gets worse
            <Input
              value={wanted.mail}
              placeholder="harbour@merrowmouth.example"
              onChange={(event) => setWanted({ ...wanted, mail: event.target.value })}
            />
          </label>
          <label>
            Tell a program (webhook)
            <Input
              value={wanted.webhook}
              placeholder="https://"
              onChange={(event) => setWanted({ ...wanted, webhook: event.target.value })}
            />
          </label>
        </>
      )}
      {save.error && <Alert type="error" showIcon title={save.error.message} />}
      {changed && (
        <Button htmlType="submit" loading={save.isPending}>
          Save
        </Button>
      )}
    </form>
  );
}
