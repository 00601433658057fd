import type { Found } from "../../api/client";
import styles from "./thereAlready.module.css";
import shared from "./install.module.css";

/** The icons a site has before the installation, and what is wrong with them. */
export function ThereAlready({ found }: { found: Found[] }) {
  const problems = found.reduce((count, { problems }) => count + problems.length, 0);
  if (found.length === 0) return <p className={shared.note}>The site has no icon and declares none.</p>;
  return (
    <details className={styles.there} open={problems > 0}>
      <summary>
        <h2>What the site has now</h2>{" "}
        <span>{problems === 0 ? "no problems" : problems === 1 ? "1 problem" : `${problems} problems`}</span>
      </summary>
      <ul className={shared.steps}>
        {found.map((one) => (
          <li key={`${one.path} ${one.kind} ${one.evidence}`}>
            <div className={`${shared.line} ${styles.has}`}>
              {one.path ? <code>{one.path}</code> : <span>{pages(one.pages)}</span>}
              <span>
                {one.kind && `${one.kind} on ${pages(one.pages)}: `}
                {one.evidence}
              </span>
            </div>
            {one.problems.map((problem) => (
              <p key={problem} className={styles.problem}>
                {problem}
              </p>
            ))}
          </li>
        ))}
      </ul>
    </details>
  );
}

const pages = (count: number) => (count === 1 ? "1 page" : `${count} pages`);
