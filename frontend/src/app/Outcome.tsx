import { Button } from "antd";
import { useEffect, useState } from "react";
import { Link, useMatch } from "react-router";

import type { BuildRun } from "../api/client";
import styles from "./shell.module.css";

/** How the last build ended, until it is read: also after a reload, and for who was somewhere else meanwhile. */
export function Outcome({ run, siteId }: { run: BuildRun; siteId: number }) {
  const key = `bexi-read-run-${siteId}`;
  const [read, setRead] = useState(() => localStorage.getItem(key));
  const atSet = useMatch("/sites/:siteId/set") !== null;
  const id = String(run.id);
  const markRead = () => {
    localStorage.setItem(key, id);
    setRead(id);
  };
  const isRead = read === id || (atSet && run.state === "done");
  useEffect(() => {
    if (isRead) localStorage.setItem(key, id);
  }, [isRead, id, key]);
  if (isRead) return null;
  return (
    <span className={styles.outcome} role="status">
      {run.state === "done" ? (
        <Link to={`/sites/${siteId}/set`} onClick={markRead}>
          The set is built: look at it
        </Link>
      ) : (
        <>
          {run.state === "stopped" ? "Stopped. Nothing of this build was kept." : run.problem}
          <Button size="small" className={styles.quiet ?? ""} onClick={markRead}>
            I have read it
          </Button>
        </>
      )}
    </span>
  );
}
