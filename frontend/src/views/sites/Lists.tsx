import { Alert, Button } from "antd";
import { useRef, useState } from "react";

import { useImportSites, useRemoved, useRestoreSite } from "../../api/siteChanges";
import { useRefusal } from "../../api/me";
import { when } from "../../app/units";
import styles from "./lists.module.css";
import shared from "./sites.module.css";

/** Sites as a list in a file, in and out, and those that were removed. */
export function Lists() {
  const bring = useImportSites();
  const [open, setOpen] = useState(false);
  const removed = useRemoved(open);
  const restore = useRestoreSite();
  const refusal = useRefusal("edits");
  const picker = useRef<HTMLInputElement>(null);
  return (
    <footer className={styles.lists}>
      <div className={styles.actions}>
        <input
          ref={picker}
          type="file"
          accept=".csv,text/csv"
          hidden
          aria-label="A list of sites"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) bring.mutate(file);
            event.target.value = "";
          }}
        />
        <Button
          disabled={refusal !== undefined}
          loading={bring.isPending}
          onClick={() => picker.current?.click()}
        >
          Import list (CSV)
        </Button>
        <a href="/api/sites.csv" download>
          Export list (CSV)
        </a>
        <span className={shared.none}>CSV with the columns name, address, place, labels</span>
      </div>
      {bring.error && <Alert type="error" showIcon closable title={bring.error.message} />}
      {bring.data && (
        <Alert
          type="success"
          showIcon
          closable
          title={`${bring.data.added} added, ${bring.data.here_already} here already.`}
        />
      )}
      <details onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary>Removed sites</summary>
        {removed.data?.length === 0 && <p>None.</p>}
        <ul className={styles.removed}>
          {removed.data?.map(({ id, name, removed: at }) => (
            <li key={id}>
              <span>{name}</span>
              <span className="reading">{when(at)}</span>
              <Button size="small" disabled={refusal !== undefined} onClick={() => restore.mutate(id)}>
                Restore<span className="unseen"> {name}</span>
              </Button>
            </li>
          ))}
        </ul>
      </details>
    </footer>
  );
}
