import { Button } from "antd";
import { useState } from "react";
import { Link, useMatch } from "react-router";

import type { BuildRun, Site } from "../api/client";
import { NextStep } from "./NextStep";
import styles from "./outcome.module.css";
import shared from "./bar.module.css";

export const STOPPED = "Stopped. Nothing of this build was kept.";

/** How the last build ended, until it is read, also after a reload and for who was elsewhere; then what comes next. */
export function Outcome({ run, site }: { run: BuildRun; site: Site }) {
  const key = `bexi-read-run-${site.id}`;
  const [read, setRead] = useState(() => localStorage.getItem(key));
  const atSet = useMatch("/sites/:siteId/set") !== null;
  const id = String(run.id);
  const markRead = () => {
    localStorage.setItem(key, id);
    setRead(id);
  };
  // Whoever sees the set has read that it is built.
  if (read !== id && atSet && run.state === "done") markRead();
  if (read === id) return <NextStep site={site} />;
  return (
    <span className={styles.outcome}>
      {run.state === "done" ? (
        <Link to={`/sites/${site.id}/set`} onClick={markRead}>
          The set is built: look at it
        </Link>
      ) : (
        <>
          {run.state === "stopped" ? STOPPED : run.problem}
          <Button size="small" className={shared.quiet ?? ""} onClick={markRead}>
            Dismiss
          </Button>
        </>
      )}
    </span>
  );
}
