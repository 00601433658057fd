import { App, Button, Empty } from "antd";
import { Link } from "react-router";

import type { Build, BuiltFile } from "../../api/client";
import { useBuilds, usePlannedFiles } from "../../api/queries";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import { TrueSizeInPart } from "../../app/TrueSize";
import { bytes, when } from "../../app/units";
import styles from "./set.module.css";

const ROOM = 192;
const SMALL = 48;

/** Which files, why each is there, how each looks and what it weighs. */
export function SetView() {
  const site = useSite();
  const builds = useBuilds(site.id);
  const planned = usePlannedFiles();
  if (builds.isPending || planned.isPending) return <Loading what="Reading the builds" />;
  const problem = builds.error ?? planned.error;
  if (problem) return <ProblemNotice problem={problem} retry={() => void builds.refetch()} />;
  const latest = builds.data?.[0];
  if (!latest) return <NothingBuilt siteId={site.id} />;
  return (
    <main className={styles.view}>
      <section className={styles.files} aria-label={`Files of build ${latest.number}`}>
        {latest.files.map((file) => (
          <FileCard key={file.name} build={latest} file={file} />
        ))}
      </section>
      <aside className={styles.side}>
        <h1>Build {latest.number}</h1>
        <p className="reading">
          {when(latest.created)}, engine {latest.engine}
        </p>
        <p>
          {latest.files.length} files, {bytes(latest.files.reduce((sum, file) => sum + file.size, 0))}. Every
          icon was read back by a second decoder and matched pixel for pixel.
        </p>
        {!latest.current && (
          <p className={styles.behind}>
            The draft on the bench has changed since this build. Build the set again to catch up.
          </p>
        )}
        <div className={styles.actions}>
          <Link to={`/sites/${site.id}/install`}>
            <Button className="main-action">Install it</Button>
          </Link>
          <Button href={`/api/builds/${latest.id}/set.zip`} download>
            Download ZIP
          </Button>
        </div>
        <HeadLines lines={latest.head} />
        {builds.data && builds.data.length > 1 && <EarlierBuilds builds={builds.data.slice(1)} />}
      </aside>
    </main>
  );
}

function NothingBuilt({ siteId }: { siteId: number }) {
  const planned = usePlannedFiles();
  return (
    <main className={styles.empty}>
      <Empty description="Nothing is built yet. Set the square on the bench, then build the set.">
        <Link to={`/sites/${siteId}/bench`}>
          <Button type="primary">Go to the bench</Button>
        </Link>
      </Empty>
      <h2>What the set will hold</h2>
      <dl>
        {planned.data?.map((file) => (
          <div key={file.name}>
            <dt>
              <code>{file.name}</code>
            </dt>
            <dd>{file.why}</dd>
          </div>
        ))}
      </dl>
    </main>
  );
}

function Pictures({ file, address }: { file: BuiltFile; address: string }) {
  const largest = Math.max(...file.sizes);
  if (!file.sizes.length) {
    return (
      <div className={styles.picture} data-small="true">
        <a href={address} target="_blank" rel="noreferrer">
          Open the text
        </a>
      </div>
    );
  }
  return (
    <div className={`${styles.picture} ${file.opaque ? "" : "clear-ground"}`} data-small={largest <= SMALL}>
      {file.sizes.map((size) => (
        <TrueSizeInPart
          key={size}
          src={file.sizes.length > 1 ? `${address}/frames/${size}` : address}
          size={size}
          room={ROOM}
          alt={`${file.name}, ${size} px`}
        />
      ))}
    </div>
  );
}

function FileCard({ build, file }: { build: Build; file: BuiltFile }) {
  const size = file.sizes.at(-1);
  const address = `/api/builds/${build.id}/files/${file.name}`;
  return (
    <article className={styles.card}>
      <Pictures file={file} address={address} />
      <h2>
        <a href={address} target="_blank" rel="noreferrer">
          {file.name}
        </a>
      </h2>
      <p className="reading">
        {[sizes(file), bytes(file.size), size && size / devicePixelRatio > ROOM ? "middle part" : ""]
          .filter(Boolean)
          .join(" · ")}
      </p>
      <p>{file.why}</p>
      <p className={styles.source}>Source: {file.source}</p>
    </article>
  );
}

const sizes = (file: BuiltFile) =>
  file.sizes.length ? `${file.sizes.join(", ")} px${file.opaque ? ", opaque" : ""}` : "text";

function HeadLines({ lines }: { lines: string[] }) {
  const { message } = App.useApp();
  const copy = () =>
    navigator.clipboard.writeText(lines.join("\n")).then(
      () => message.success("The lines are on the clipboard."),
      () => message.error("The browser does not allow copying here. Select the lines and copy them by hand."),
    );
  return (
    <section className={styles.head}>
      <h2>Lines for the head of each page</h2>
      <pre tabIndex={0}>{lines.join("\n")}</pre>
      <Button onClick={() => void copy()}>Copy the lines</Button>
    </section>
  );
}

function EarlierBuilds({ builds }: { builds: Build[] }) {
  return (
    <section className={styles.head}>
      <h2>Earlier builds</h2>
      <ul className={styles.earlier}>
        {builds.map((build) => (
          <li key={build.id}>
            Build {build.number} <span className="reading">{when(build.created)}</span>{" "}
            <a href={`/api/builds/${build.id}/set.zip`} download>
              ZIP<span className="unseen"> of build {build.number}</span>
            </a>
          </li>
        ))}
      </ul>
    </section>
  );
}
