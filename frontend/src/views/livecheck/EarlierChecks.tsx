import { Link } from "react-router";

import type { CheckSummary } from "../../api/client";
import { when } from "../../app/units";
import styles from "./earlierChecks.module.css";
import shared from "./livecheck.module.css";

const KEPT_IN_SIGHT = 8;

/** The checks made so far; each can be looked at again. */
export function EarlierChecks({ checks, shown }: { checks: CheckSummary[]; shown: number | undefined }) {
  const done = checks.filter(({ state }) => state === "done");
  if (done.length < 2) return null;
  return (
    <section aria-label="Checks" className={shared.panel}>
      <h2>Checks</h2>
      <ul className={styles.checks}>
        {done.slice(0, KEPT_IN_SIGHT).map(({ id, created, problem_count }) => (
          <li key={id}>
            <Link to={`?check=${id}`} aria-current={id === shown}>
              {when(created)}
            </Link>
            <span data-tone={problem_count ? "bad" : "good"}>
              {problem_count
                ? problem_count === 1
                  ? "1 problem"
                  : `${problem_count} problems`
                : "no problems"}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
