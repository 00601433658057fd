import { Button, Progress } from "antd";
import type { ReactNode } from "react";
import { Link } from "react-router";

import { useChange } from "../../api/asking";
import type { Activity, Site } from "../../api/client";
import { isGoingOn, stopBuild, stopCheck, stopInstall, stopPlanning, undo } from "../../api/several";
import { stateOf } from "../install/states";
import styles from "./siteAtWork.module.css";

type Props = { site: Site; at: Activity | undefined; refused: string | undefined };

/** One site: how far each work on it is, how it ended, and the way back. */
export function SiteAtWork({ site, at, refused }: Props) {
  return (
    <li className={styles.site}>
      <Link to={`/sites/${site.id}/bench`} className={styles.name} title={site.name}>
        {site.name}
      </Link>
      <div className={styles.works}>
        {refused && <p data-tone="bad">{refused}</p>}
        {at?.build && <Build run={at.build} site={site} />}
        {at?.planning && (at.planning.is_current || at.planning.state !== "done") && (
          <Plan planning={at.planning} site={site} />
        )}
        {at?.install && <Install install={at.install} site={site} />}
        {at?.check && <Check check={at.check} site={site} />}
        {at && !at.build && !at.planning && !at.install && !at.check && (
          <p>Nothing has been done here yet.</p>
        )}
      </div>
    </li>
  );
}

type WorkProps = {
  what: string;
  work: { state: string; lost?: boolean; problem: string };
  done: number;
  total: number;
  stop: () => Promise<unknown>;
  site: Site;
  children: ReactNode;
};

/** A work under way with its progress and a way to stop it, else what came of it. */
function Work({ what, work, done, total, stop, site, children }: WorkProps) {
  const asked = useChange(stop);
  if (isGoingOn(work)) {
    return (
      <div className={styles.work}>
        <span>{what}</span>
        <Progress
          percent={total ? Math.round((100 * done) / total) : 0}
          size="small"
          aria-label={`${what}, ${site.name}`}
        />
        <Button size="small" loading={asked.isPending} onClick={() => asked.mutate(undefined)}>
          Stop<span className="unseen"> it at {site.name}</span>
        </Button>
      </div>
    );
  }
  return (
    <div className={styles.work}>
      <span>{what}</span>
      <div>{work.problem ? <span data-tone="caution">{work.problem}</span> : children}</div>
    </div>
  );
}

type Of<Name extends keyof Activity> = NonNullable<Activity[Name]>;

const Build = ({ run, site }: { run: Of<"build">; site: Site }) => (
  <Work what="Build" work={run} {...run} stop={() => stopBuild(run.id)} site={site}>
    {run.state === "done" ? <Link to={`/sites/${site.id}/set`}>built</Link> : "stopped"}
  </Work>
);

function Plan({ planning, site }: { planning: Of<"planning">; site: Site }) {
  const { added, replaced, edited, warning, not_well, state } = planning;
  const changes = added + replaced + edited;
  return (
    <Work what="Plan" work={planning} {...planning} stop={() => stopPlanning(planning.id)} site={site}>
      {state === "stopped" && "stopped; nothing has been changed"}
      {state === "done" && (
        <>
          <Link to={`/sites/${site.id}/install`}>
            {changes
              ? `${added} new, ${replaced} replaced, ${edited} pages edited`
              : "everything is in place already"}
          </Link>
          {warning && <p data-tone="caution">{warning}</p>}
          {not_well && <p data-tone="caution">Not clear: {not_well}.</p>}
        </>
      )}
    </Work>
  );
}

function Install({ install, site }: { install: Of<"install">; site: Site }) {
  const back = useChange(() => undo(install.id));
  const isUndoing = install.undoes !== null;
  const standing = install.state === "done" && !isUndoing;
  return (
    <Work
      what={isUndoing ? "Undo" : "Install"}
      work={install}
      done={install.begun}
      total={install.total}
      stop={() => stopInstall(install.id)}
      site={site}
    >
      <span data-tone={install.state === "done" ? "good" : undefined}>{stateOf(install)}</span>
      {standing && (
        <Button size="small" loading={back.isPending} onClick={() => back.mutate(undefined)}>
          Undo<span className="unseen"> at {site.name}</span>
        </Button>
      )}
      {back.error && <p data-tone="bad">{back.error.message}</p>}
    </Work>
  );
}

const Check = ({ check, site }: { check: Of<"check">; site: Site }) => (
  <Work what="Check" work={check} {...check} stop={() => stopCheck(check.id)} site={site}>
    <Link to={`/sites/${site.id}/live-check`}>
      {check.state === "stopped"
        ? "stopped"
        : check.problem_count
          ? `${check.problem_count} ${check.problem_count === 1 ? "problem" : "problems"}`
          : "no problems"}
    </Link>
  </Work>
);
