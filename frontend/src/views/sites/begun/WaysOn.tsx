import { Alert } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import { useChange } from "../../../api/asking";
import { buildToTheEnd } from "../../../api/builds";
import type { BuildRun, Draft, Site } from "../../../api/client";
import { download } from "../../../app/download";
import { later } from "../../../app/later";
import styles from "./begun.module.css";
import { FilesBuilt } from "./FilesBuilt";
import { OneFile } from "./OneFile";

const PutOnSite = later(async () => (await import("./PutOnSite")).PutOnSite);

type Props = { site: Site; draft: Draft; waiting: boolean };

/** What may be done with a picture that was begun with. */
export function WaysOn({ site, draft, waiting }: Props) {
  const [open, setOpen] = useState<"site" | "file">();
  return (
    <div className={styles.ways}>
      <button type="button" className={styles.main} disabled={waiting} onClick={() => setOpen("site")}>
        <strong>Put it on a site</strong>
        <span>address or name, then the plan</span>
      </button>
      <button
        type="button"
        disabled={waiting}
        aria-expanded={open === "file"}
        onClick={() => setOpen(open === "file" ? undefined : "file")}
      >
        <strong>One file for an upload field</strong>
        <span>32 px PNG, 512 px, ICO, 180 px</span>
      </button>
      {open === "file" && <OneFile site={site} />}
      <OnlyFiles site={site} waiting={waiting} />
      <Link to={`/sites/${site.id}/bench/${draft.id}`} state={{ proposals: waiting }}>
        <strong>Work on it</strong>
        <span>frame, background, every size</span>
      </Link>
      {open === "site" && <PutOnSite beginning={site} close={() => setOpen(undefined)} />}
    </div>
  );
}

type FilesProps = { site: Site; waiting: boolean };

/** Builds the set and has the browser save it as a ZIP. */
function OnlyFiles({ site, waiting }: FilesProps) {
  const [run, setRun] = useState<BuildRun>();
  const build = useChange((siteId: number) => buildToTheEnd(siteId, setRun));
  const start = () =>
    build.mutate(site.id, { onSuccess: (buildId) => download(`/api/builds/${buildId}/set.zip`, "") });
  return (
    <>
      <button type="button" disabled={waiting || build.isPending} onClick={start}>
        <strong>Only the files</strong>
        <span>all of them and the lines for your pages, as a ZIP</span>
      </button>
      {build.isPending && run && <FilesBuilt run={run} />}
      {build.data !== undefined && !build.isPending && (
        <p role="status" className={styles.made}>
          The ZIP is in your downloads. <a href={`/api/builds/${build.data}/set.zip`}>Save it again</a>, or{" "}
          <Link to={`/sites/${site.id}/set`}>see each file</Link>.
        </p>
      )}
      {build.error && <Alert type="error" showIcon title={build.error.message} />}
    </>
  );
}
