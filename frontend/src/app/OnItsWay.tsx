import { useQuery } from "@tanstack/react-query";
import { Alert, Progress } from "antd";

import { answer, client } from "../api/client";
import styles from "./takeIn.module.css";
import type { Sending } from "./takingIn";

/** A picture on its way to the shelf, or why it did not get there. */
export function OnItsWay({ one: { name, share, problem }, close }: { one: Sending; close: () => void }) {
  const waiting = useWaiting(share >= 1 && !problem);
  if (problem) {
    return <Alert type="error" showIcon closable={{ onClose: close }} title={`${name}: ${problem}`} />;
  }
  return (
    <div className={styles.onItsWay}>
      {share < 1 ? `Sending ${name}` : `Measuring ${name}`}
      {waiting > 0 && ` (${waiting === 1 ? "1 picture waits" : `${waiting} pictures wait`} for its turn)`}
      <Progress percent={Math.round(share * 100)} status="active" aria-label={`Sending ${name}`} />
    </div>
  );
}

const ASKED_EVERY_MS = 1500;

/** How many pictures wait for their turn to be read; asked while one's own is among them. */
function useWaiting(enabled: boolean): number {
  const reading = useQuery({
    queryKey: ["reading"],
    queryFn: () => answer(client.GET("/api/reading")),
    enabled,
    refetchInterval: ASKED_EVERY_MS,
    retry: false,
  });
  return reading.data?.waiting ?? 0;
}
