import { Button, Checkbox } from "antd";
import { useState } from "react";

import type { Activity, Site } from "../../api/client";
import { Dialog } from "../../app/Dialog";
import { ago } from "../../app/units";
import styles from "./undoAll.module.css";

type Props = { sites: Site[]; at: Activity[]; busy: boolean; undoAt: (ids: number[]) => void };

/** Undoes what stands installed at several sites, after a look at which. */
export function UndoAll({ sites, at, busy, undoAt }: Props) {
  const [open, setOpen] = useState(false);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const standing = at.filter(isStanding);
  if (standing.length < 2) return null;
  const chosen = standing.map(({ site_id }) => site_id).filter((id) => !left.has(id));
  const go = () => {
    setOpen(false);
    undoAt(chosen);
  };
  return (
    <>
      <Button loading={busy} onClick={() => setOpen(true)}>
        Undo for all …
      </Button>
      {open && (
        <Dialog
          title="Undo on several sites"
          close={() => setOpen(false)}
          foot={
            <Button type="primary" disabled={!chosen.length} onClick={go}>
              {chosen.length === 1 ? "Undo on 1 site" : `Undo on ${chosen.length} sites`}
            </Button>
          }
        >
          <p>Each of these goes back to how it was before its last installation.</p>
          <ul className={styles.sites}>
            {standing.map(({ site_id, install }) => (
              <li key={site_id}>
                <Checkbox
                  checked={!left.has(site_id)}
                  onChange={({ target }) => {
                    const rest = [...left].filter((id) => id !== site_id);
                    setLeft(new Set(target.checked ? rest : [...rest, site_id]));
                  }}
                >
                  {sites.find(({ id }) => id === site_id)?.name}
                </Checkbox>{" "}
                <span className="reading">
                  build {install?.build_number}, {install && ago(install.created)}
                </span>
              </li>
            ))}
          </ul>
        </Dialog>
      )}
    </>
  );
}

const isStanding = ({ install }: Activity) => install?.state === "done" && install.undoes === null;
