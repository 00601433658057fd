import { Button, Progress } from "antd";

import type { Install } from "../../api/client";
import { useStopInstall } from "../../api/installs";
import styles from "./install.module.css";

/** How far an installation or undoing is; it can be left and come back to, and stopped. */
export function UnderWay({ install }: { install: Install }) {
  const stop = useStopInstall();
  const { begun, total, current, undoes, build_number, stop_asked } = install;
  return (
    <section className={styles.plan} aria-label="Under way">
      <h1>{undoes === null ? `Installing build ${build_number}` : `Undoing build ${build_number}`}</h1>
      <div role="status" className={styles.progress}>
        <Progress
          percent={total ? Math.round((100 * begun) / total) : 0}
          aria-label="Steps begun"
          status="normal"
        />
        <p className="reading">{begun ? `Step ${begun} of ${total}: ${current}` : "Waiting to begin"}</p>
      </div>
      <p>You may leave this page. If it is stopped or anything fails, everything is put back as it was.</p>
      <div>
        <Button loading={stop_asked} onClick={() => stop.mutate(install.id)}>
          Stop and put back
        </Button>
      </div>
    </section>
  );
}
