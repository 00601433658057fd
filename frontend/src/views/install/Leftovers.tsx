import { Checkbox } from "antd";

import type { InstallStep } from "../../api/client";
import { bytes } from "../../app/units";
import styles from "./leftovers.module.css";
import shared from "./install.module.css";

type Props = {
  steps: InstallStep[];
  chosen: ReadonlySet<string>;
  choose: (paths: ReadonlySet<string>) => void;
};

/** Icons of before that no page names any more; those that are ticked are removed with the installation. */
export function Leftovers({ steps, chosen, choose }: Props) {
  if (!steps.length) return null;
  const toggle = (paths: string[], on: boolean) => {
    const rest = [...chosen].filter((path) => !paths.includes(path));
    choose(new Set(on ? [...rest, ...paths] : rest));
  };
  const all = steps.map(({ path }) => path);
  return (
    <section aria-labelledby="old-icons">
      <div className={styles.head}>
        <h2 id="old-icons">Old icons you can remove</h2>
        {steps.length > 1 && (
          <Checkbox
            checked={chosen.size === steps.length}
            indeterminate={chosen.size > 0 && chosen.size < steps.length}
            onChange={(event) => toggle(all, event.target.checked)}
          >
            All {steps.length}
          </Checkbox>
        )}
      </div>
      <p className={shared.note}>Tick the ones to remove. A copy of each is kept, and undo brings it back.</p>
      <ul className={shared.steps}>
        {steps.map(({ path, notes, bytes_before }) => (
          <li key={path}>
            <Checkbox checked={chosen.has(path)} onChange={(event) => toggle([path], event.target.checked)}>
              Remove <code>{path}</code> <span className="reading">{bytes(bytes_before ?? 0)}</span>
            </Checkbox>
            {notes.map((note) => (
              <p key={note} className={shared.note}>
                {note}
              </p>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
