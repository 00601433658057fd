import { Button, Progress } from "antd";

import type { Planning } from "../../api/client";
import { useStopPlanning } from "../../api/plannings";
import styles from "./install.module.css";

/** How far the site is read for the plan; it can be left and come back to, and stopped. */
export function Reading({ planning }: { planning: Planning | undefined }) {
  const stop = useStopPlanning();
  const { id, done, total } = planning ?? { id: 0, done: 0, total: 0 };
  return (
    <section className={styles.plan} aria-label="Planning">
      <h1>Reading the site and planning</h1>
      <div role="status" className={styles.progress}>
        <Progress
          percent={total ? Math.round((100 * done) / total) : 0}
          aria-label="Pages read"
          status="normal"
        />
        <p className="reading">{total ? `${done} of ${total} pages read` : "Looking for the pages"}</p>
      </div>
      <p>Nothing is changed while this goes on. You may leave this page.</p>
      <div>
        <Button
          disabled={!planning}
          loading={stop.isPending || stop.isSuccess}
          onClick={() => stop.mutate(id)}
        >
          Stop planning
        </Button>
      </div>
    </section>
  );
}
