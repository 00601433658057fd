import { Button, Segmented } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import { useServerLines } from "../../api/watching";
import type { Site } from "../../api/client";
import styles from "./serverLines.module.css";
import shared from "./livecheck.module.css";

const ELSEWHERE = "Others";

/** What gives icons a right type and a sensible freshness, for the server programs people have. */
export function ServerLines({ site }: { site: Site }) {
  const lines = useServerLines(site.id);
  const [program, setProgram] = useState("Apache");
  const shown = lines.data?.find((one) => (one.program || ELSEWHERE) === program);
  if (!lines.data || !shown) return null;
  const text = shown.lines.join("\n");
  return (
    <section id="server-lines" aria-label="Server settings" className={shared.panel} tabIndex={-1}>
      <h2>Server settings: content types and caching</h2>
      <Segmented
        size="small"
        aria-label="Server program"
        value={program}
        options={lines.data.map((one) => one.program || ELSEWHERE)}
        onChange={setProgram}
      />
      <p className={shared.left}>For {shown.where}:</p>
      {shown.program ? (
        <>
          <pre className={styles.lines} tabIndex={0} aria-label={`Lines for ${shown.program}`}>
            {text}
          </pre>
          <Button size="small" onClick={() => void navigator.clipboard.writeText(text)}>
            Copy the lines
          </Button>
          {shown.program === "Apache" && (
            <p className={shared.left}>
              Where the place has a <code>.htaccess</code>,{" "}
              <Link to={`/sites/${site.id}/install`}>the installation can put them in</Link>.
            </p>
          )}
        </>
      ) : (
        <ul className={styles.words}>
          {shown.lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
