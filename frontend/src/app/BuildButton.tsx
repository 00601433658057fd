import { useQueryClient } from "@tanstack/react-query";
import { App, Button, Progress } from "antd";
import { use, useEffect, useEffectEvent, useRef } from "react";
import { useLocation, useMatch, useNavigate } from "react-router";

import type { Site } from "../api/client";
import { isUnderWay, useBuildRun, useBuildSite, useStopRun } from "../api/builds";
import { useDraft, useDraftById } from "../api/drafts";
import { useRefusal } from "../api/me";
import { plansSaved } from "../api/plans";
import { NextStep } from "./NextStep";
import { Outcome } from "./Outcome";
import { DraftSaving, NOT_SAVED } from "./draftSaving";
import styles from "./buildButton.module.css";
import shared from "./bar.module.css";

/** Builds the draft in the background: shows how far it is, can stop it, and leads to the finished set. */
export function BuildButton({ site }: { site: Site }) {
  const atBench = useMatch("/sites/:siteId/bench/:draftId");
  const onBench = atBench !== null;
  const chosen = useDraft(site.id);
  const opened = useDraftById(atBench ? Number(atBench.params.draftId) : undefined);
  const draft = onBench ? opened : chosen;
  const run = useBuildRun(site.id);
  const build = useBuildSite(site.id);
  const stop = useStopRun();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const draftSaving = use(DraftSaving);
  const { pathname } = useLocation();
  const awaited = useRef<{ id: number; from: string }>(undefined);
  const queries = useQueryClient();
  const refusal = useRefusal("edits");
  const busy = isUnderWay(run.data) || build.isPending;

  const start = async () => {
    if (!draft.data || busy || refusal) return;
    if (!(await draftSaving.now())) {
      void message.error(NOT_SAVED, 8);
      return;
    }
    await plansSaved();
    const { id, revision } = draft.data;
    build.mutate(
      { draft_id: id, revision: draftSaving.revision() ?? revision },
      {
        onSuccess: (begun) => {
          awaited.current = { id: begun.id, from: pathname };
          queries.setQueryData(["build-run", site.id], begun); // watched from here on
        },
        onError: (problem) => void message.error(problem.message, 8),
      },
    );
  };
  const onEnd = useEffectEvent(() => {
    if (!run.data || run.data.id !== awaited.current?.id || isUnderWay(run.data)) return;
    // Who went on to something else is left there; the bench may open only while the build is under way.
    const stayed = onBench || awaited.current.from === pathname;
    awaited.current = undefined;
    void queries.invalidateQueries();
    if (run.data.state === "done" && stayed) void navigate(`/sites/${site.id}/set`);
  });
  useEffect(() => onEnd(), [run.data]);
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    const inField = event.target instanceof Element && event.target.closest("input, textarea, [role=dialog]");
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey) && !inField) void start();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, []);

  if (!draft.data) return null;
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
        loading={build.isPending}
        disabled={refusal !== undefined}
        title={refusal ?? ""}
        onClick={() => void start()}
      >
        Build the set
      </Button>
    </>
  );
}
