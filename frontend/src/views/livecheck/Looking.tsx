import { Button, Progress } from "antd";

import { useStopCheck } from "../../api/checks";
import type { CheckSummary } from "../../api/client";
import styles from "./looking.module.css";

/** How far a check is; it can be left and come back to, and stopped. */
export function Looking({ check }: { check: CheckSummary }) {
  const stop = useStopCheck();
  const { done, total } = check;
  return (
    <div className={styles.looking} role="status">
      <Progress
        percent={total ? Math.round((100 * done) / total) : 0}
        aria-label="Pages checked"
        size="small"
      />
      <span className="reading">{done ? `${done} pages checked, at most ${total}` : "Waiting to begin"}</span>
      <Button size="small" loading={stop.isPending} onClick={() => stop.mutate(check.id)}>
        Stop
      </Button>
    </div>
  );
}
