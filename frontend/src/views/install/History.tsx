import { Alert, App, Button } from "antd";

import type { Install, Site } from "../../api/client";
import { useInstalls, useUndoInstall } from "../../api/queries";
import { when } from "../../app/units";
import styles from "./install.module.css";

const STATES: Record<Install["state"], string> = {
  started: "interrupted on the way",
  done: "installed",
  "put-back": "failed and was put back",
  undone: "undone",
};

/** What was installed when; the latest can be taken back. */
export function History({ site }: { site: Site }) {
  const installs = useInstalls(site.id);
  const undo = useUndoInstall();
  const { message } = App.useApp();
  const standing = installs.data?.find((install) => install.state === "done" || install.state === "started");
  return (
    <section className={styles.history}>
      <h2>History</h2>
      {installs.data?.length === 0 && <p>Nothing was installed here yet.</p>}
      {undo.error && <Alert type="error" showIcon title={undo.error.message} />}
      <ol>
        {installs.data?.map((install) => (
          <li key={install.id}>
            <div>
              <strong>Build {install.build_number}</strong> {STATES[install.state]}
              <br />
              <span className="reading">
                {when(install.changed)}, {install.files.length} files
              </span>
            </div>
            {install === standing && (
              <Button
                loading={undo.isPending}
                onClick={() =>
                  undo.mutate(install.id, {
                    onSuccess: () => void message.success("Undone: every file is as it was before."),
                  })
                }
              >
                Undo
              </Button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
