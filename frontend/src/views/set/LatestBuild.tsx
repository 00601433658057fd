import { Button } from "antd";

import type { Build } from "../../api/client";
import { bytes, when } from "../../app/units";
import styles from "./latestBuild.module.css";
import shared from "./set.module.css";
import { LinkButton } from "../../app/LinkButton";

/** What a person will not see well of this set, or what nobody can say; it may be installed all the same. */
function NotWell({ build: { verdicts } }: { build: Build }) {
  const unjudged = verdicts.filter(({ verdict }) => verdict === null);
  const unclear = verdicts.filter(({ verdict }) => verdict !== null && verdict !== "well");
  const [smallest] = [...unclear, ...unjudged];
  if (!verdicts.length) return null;
  if (!smallest) return <p>Every size was judged and is clear.</p>;
  return (
    <details className={styles.behind}>
      <summary>
        {unclear.length
          ? `${unclear.length} of ${verdicts.length} sizes are not clear, the smallest: ${smallest.size} px`
          : `${unjudged.length} of ${verdicts.length} sizes`}{" "}
        {smallest.says}
      </summary>
      <ul>
        {[...unclear, ...unjudged].map(({ size, purpose, says, files }) => (
          <li key={`${size} ${purpose}`}>
            {size} px {says} <span className="reading">{files.join(", ")}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** What the latest build is, whether the draft has moved on, and where it goes from here. */
export function LatestBuild({ build, siteId }: { build: Build; siteId: number }) {
  const total = build.files.reduce((sum, file) => sum + file.size, 0);
  return (
    <section className={shared.block}>
      <h1>Build {build.number}</h1>
      <p className="reading">
        {when(build.created)}, engine {build.engine}
      </p>
      <p>
        {build.files.length} files, {bytes(total)}. Each was read back by a second decoder and compared with
        the picture it should hold.
      </p>
      {!build.current && (
        <p className={styles.behind}>
          The draft or its plan has changed since this build. Build the set again to include that.
        </p>
      )}
      <NotWell build={build} />
      <div className={styles.actions}>
        <LinkButton to={`/sites/${siteId}/install`} className="main-action">
          Install it
        </LinkButton>
        <Button href={`/api/builds/${build.id}/set.zip`} download>
          Download ZIP
        </Button>
      </div>
    </section>
  );
}
