import { Link, useMatch } from "react-router";

import type { Site } from "../api/client";
import styles from "./nextStep.module.css";
import { STATES } from "../views/sites/states";

/** What comes next for the icons of this site, on every view but the one where it is done. */
export function NextStep({ site }: { site: Site }) {
  const { next, view } = STATES[site.state];
  const isThere = useMatch(`/sites/:siteId/${view}/*`) !== null;
  if (isThere || site.state === "verified") return null;
  return (
    <Link to={`/sites/${site.id}/${view}`} className={styles.nextStep} title={next}>
      Next<span>{`: ${next[0]?.toLowerCase()}${next.slice(1)}`}</span>
    </Link>
  );
}
