import { Alert, Progress } from "antd";

import styles from "./onItsWay.module.css";
import type { Sending } from "./takingIn";

/** A picture on its way to the shelf, or why it did not get there. */
export function OnItsWay({ one: { name, share, problem }, close }: { one: Sending; close: () => void }) {
  if (problem) {
    return <Alert type="error" showIcon closable={{ onClose: close }} title={`${name}: ${problem}`} />;
  }
  return (
    <div className={styles.onItsWay}>
      {share < 1 ? `Sending ${name}` : `Measuring ${name}`}
      <Progress percent={Math.round(share * 100)} status="active" aria-label={`Sending ${name}`} />
    </div>
  );
}
