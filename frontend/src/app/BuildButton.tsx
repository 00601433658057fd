import { useQueryClient } from "@tanstack/react-query";
import { App, Button, Progress } from "antd";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { useLocation, useMatch, useNavigate } from "react-router";

import type { BuildRun, Draft, Site } from "../api/client";
import { isUnderWay, useBuildRun, useBuildSite, useStopRun } from "../api/builds";
import { chosenDraft, draftById, useDraft } from "../api/drafts";
import { useRefusal } from "../api/me";
import { allSaved, NOT_SAVED } from "../api/saving";
import { useOutcome } from "./telling";
import { takesKeys } from "./keys";
import { NextStep } from "./NextStep";
import { Outcome, STOPPED } from "./Outcome";
import styles from "./buildButton.module.css";
import { unsavedOf } from "./unsaved";
import shared from "./bar.module.css";

function outcomeOf(run: BuildRun | null): string {
  if (!run || isUnderWay(run)) return "";
  if (run.state === "done") return "The set is built.";
  return run.state === "stopped" ? STOPPED : `The set could not be built. ${run.problem}`;
}

/** Builds the draft in the background: shows how far it is, can stop it, and leads to the finished set. */
export function BuildButton({ site }: { site: Site }) {
  const atBench = useMatch("/sites/:siteId/bench/:draftId");
  const onBench = atBench !== null;
  const chosen = useDraft(site.id);
  const run = useBuildRun(site.id);
  const build = useBuildSite(site.id);
  const stop = useStopRun();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const { pathname } = useLocation();
  const awaited = useRef<{ id: number; from: string }>(undefined);
  const queries = useQueryClient();
  const refusal = useRefusal("edits");
  const [starting, setStarting] = useState(false);
  const busy = isUnderWay(run.data) || build.isPending || starting;

  const askedFor = atBench ? draftById(Number(atBench.params.draftId)) : chosenDraft(site.id);

  const savedDraft = async () => {
    await queries.ensureQueryData<Draft | null>(askedFor); // a press while the bench opens counts, too
    const isSaved = await allSaved();
    // As it is once all is saved, whichever view made the change.
    const latest = queries.getQueryData<Draft | null>(askedFor.queryKey);
    return isSaved && latest && !unsavedOf(latest) ? latest : Promise.reject(new Error(NOT_SAVED));
  };
  const start = async () => {
    if (!chosen.data || busy || refusal) return;
    setStarting(true);
    const latest = await savedDraft()
      .catch((problem: Error) => void message.error(problem.message, 8))
      .finally(() => setStarting(false));
    if (!latest) return;
    build.mutate(
      { draft_id: latest.id, revision: latest.revision },
      {
        onSuccess: (begun) => {
          awaited.current = { id: begun.id, from: pathname };
          queries.setQueryData(["build-run", site.id], begun); // watched from here on
          end(begun); // its end may have been told before its beginning
        },
        onError: (problem) => void message.error(problem.message, 8),
      },
    );
  };
  useOutcome(
    run.data === undefined
      ? undefined
      : { key: `${run.data?.id} ${run.data?.state}`, told: outcomeOf(run.data) },
  );
  const end = (ended: BuildRun) => {
    if (ended.id !== awaited.current?.id || isUnderWay(ended)) return;
    // Who went on to something else is left there; the bench may open only while the build is under way.
    const stayed = onBench || awaited.current.from === pathname;
    awaited.current = undefined;
    void queries.invalidateQueries();
    if (ended.state === "done" && stayed) void navigate(`/sites/${site.id}/set`);
  };
  const onEnd = useEffectEvent(() => run.data && end(run.data));
  useEffect(() => void onEnd(), [run.data]);
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    const inField = takesKeys(event.target);
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey) && !inField) void start();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, []);

  if (!chosen.data) return null;
  if (run.data && isUnderWay(run.data)) {
    const { id, done, total, current, stop_asked, has_no_worker } = run.data;
    return (
      <div className={styles.running} role="status" aria-label="Build under way">
        <span className="reading">
          {has_no_worker
            ? "Waiting: no worker answers. Start Bexi again."
            : total
              ? `${done} of ${total} files`
              : "Waiting to begin"}
          {current && <span className="unseen">, last {current}</span>}
        </span>
        <Progress
          percent={total ? (100 * done) / total : 0}
          showInfo={false}
          size="small"
          aria-label="Files built"
        />
        <Button className={shared.quiet ?? ""} loading={stop_asked} onClick={() => stop.mutate(id)}>
          Stop
        </Button>
      </div>
    );
  }
  return (
    <>
      {run.data ? <Outcome run={run.data} site={site} /> : <NextStep site={site} />}
      <Button
        className={onBench ? "main-action" : (shared.quiet ?? "")}
        loading={build.isPending || starting}
        disabled={refusal !== undefined}
        title={refusal ?? ""}
        onClick={() => void start()}
      >
        Build the set
      </Button>
    </>
  );
}
