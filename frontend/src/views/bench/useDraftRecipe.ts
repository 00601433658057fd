import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { answer, client, type Draft, Problem, type Recipe } from "../../api/client";
import { tellDraft } from "../../api/drafts";
import { onItsWay } from "../../api/saving";
import { begin, type DraftEvent, isPending, reduce } from "./draftState";
import { passes } from "./outage";
import { forgetUnsaved, keepUnsaved, unsavedOf } from "../../app/unsaved";

const PAUSE_MS = 300;
/** Between attempts to save again, the last one again and again. */
const RETRY_MS = [1000, 3000, 10_000, 30_000];

/** For whoever waits for this change: it did not get there. */
const refuseUnsaved = (isSaved: boolean) => (isSaved ? undefined : Promise.reject(new Error("Not saved")));

export const isOvertaken = (problem: Error | undefined) =>
  problem instanceof Problem && problem.code === "draft-changed-elsewhere";

/** The recipe on the bench, kept on the server by itself shortly after each change; every change can be undone. */
export function useDraftRecipe(draft: Draft) {
  const queries = useQueryClient();
  const [left] = useState(() => unsavedOf(draft));
  const [state, show] = useState(() => begin(draft, left));
  const now = useRef(state); // for work that waits for an answer
  const running = useRef(Promise.resolve(true));
  const timer = useRef(0);
  const saveLater = useRef<() => void>(() => undefined);
  const path = { params: { path: { draft_id: draft.id } } };

  /** Takes an event in, and keeps in the browser what the server does not have yet. */
  const tell = useCallback(
    (event: DraftEvent) => {
      now.current = reduce(now.current, event);
      show(now.current);
      const { recipe, revision } = now.current;
      if (isPending(now.current)) keepUnsaved(draft.id, { revision, artworkId: draft.artwork_id, recipe });
      else forgetUnsaved(draft.id);
    },
    [draft.id, draft.artwork_id],
  );

  /** One request after the other, so that each is made from the revision before it; tells whether it went well. */
  const inTurn = (work: () => Promise<void>): Promise<boolean> => {
    clearTimeout(timer.current);
    running.current = running.current.then(async () => {
      try {
        await work();
        return true;
      } catch (cause) {
        const pause = RETRY_MS[Math.min(now.current.failures, RETRY_MS.length - 1)];
        tell({ kind: "failed", problem: cause as Error });
        if (passes(cause as Error)) timer.current = window.setTimeout(() => saveLater.current(), pause);
        return false;
      }
    });
    void onItsWay(running.current.then(refuseUnsaved)).catch(() => undefined); // told on the bench
    return running.current;
  };

  /** Saves what is not saved; false when it could not be, so that nothing may be built upon it. */
  const save = (): Promise<boolean> =>
    inTurn(async () => {
      const { recipe: sent, revision } = now.current;
      if (!isPending(now.current)) return;
      const body = { artwork_id: draft.artwork_id, recipe: sent, revision };
      const stored = await answer(client.PUT("/api/drafts/{draft_id}", { ...path, body }));
      tell({ kind: "saved", sent, stored });
      tellDraft(queries, stored);
    });

  const change = useCallback(
    (update: (recipe: Recipe) => Recipe) => {
      tell({ kind: "changed", update });
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => saveLater.current(), PAUSE_MS);
    },
    [tell],
  );

  /** Puts what is here over what another window kept since; that can be undone. */
  const saveOver = async () => {
    const { revision } = await answer(client.GET("/api/drafts/{draft_id}", path));
    tell({ kind: "caught-up", revision });
    return save();
  };

  const step = async (direction: "undo" | "redo") => {
    if (!(await save())) return;
    await inTurn(async () => {
      const request = { ...path, body: { revision: now.current.revision } };
      const stored = await answer(
        direction === "undo"
          ? client.POST("/api/drafts/{draft_id}/undo", request)
          : client.POST("/api/drafts/{draft_id}/redo", request),
      );
      tell({ kind: "stepped", stored });
      tellDraft(queries, stored);
    });
  };

  useEffect(() => {
    saveLater.current = () => void save();
  });
  useEffect(() => {
    if (left) saveLater.current(); // what an earlier window left behind
    return () => saveLater.current(); // leaving the bench keeps the last change, too
  }, [left]);

  const pending = isPending(state);
  return {
    recipe: state.recipe,
    change,
    save,
    saveOver,
    step,
    pending,
    problem: state.problem,
    canUndo: state.canUndo || pending,
    canRedo: state.canRedo,
  };
}
