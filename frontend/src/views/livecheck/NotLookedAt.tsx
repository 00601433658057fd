import type { Report } from "../../api/client";
import { pathOf } from "./Findings";
import styles from "./livecheck.module.css";

/** What was checked, and what was not. */
export function NotLookedAt({ report }: { report: Report }) {
  const { pages, files, examples } = report.not_looked_at;
  const read = `${report.pages.length} ${report.pages.length === 1 ? "page" : "pages"} and ${report.files.length} files were checked.`;
  return (
    <section aria-label="What was checked" className={styles.panel}>
      <h2>What was checked</h2>
      <p className={styles.left}>
        {read} Icons that a script puts in are not seen.
        {files > 0 && ` ${files} more files were not checked.`}
      </p>
      {pages > 0 && (
        <details className={styles.left}>
          <summary>{pages === 1 ? "1 more page was" : `${pages} more pages were`} not checked</summary>
          <code>{examples.map(pathOf).join(", ")}</code>
        </details>
      )}
      <details className={styles.left}>
        <summary>Every page and file</summary>
        <ul>
          {report.pages.map(({ address, problem, title }) => (
            <li key={address}>
              <code>{pathOf(address)}</code> {problem || title}
            </li>
          ))}
          {report.files.map(({ address, problem, content, type, fresh_why, as_installed }) => (
            <li key={address}>
              <code>{pathOf(address)}</code>{" "}
              {problem ||
                [content, type, fresh_why, as_installed ? "as installed" : ""].filter(Boolean).join("; ")}
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}
