import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { answer, client, type Draft, Problem, type Recipe } from "../../api/client";
import { passes } from "./outage";
import { forgetUnsaved, keepUnsaved, unsavedOf } from "./unsaved";

const PAUSE_MS = 300;
/** Between attempts to save again, the last one again and again. */
const RETRY_MS = [1000, 3000, 10_000, 30_000];

export const isOvertaken = (problem: Error | undefined) =>
  problem instanceof Problem && problem.code === "draft-changed-elsewhere";

/** The recipe on the bench, kept on the server by itself shortly after each change; every change can be undone. */
export function useDraftRecipe(draft: Draft) {
  const queries = useQueryClient();
  const [left] = useState(() => unsavedOf(draft));
  const [recipe, setRecipe] = useState(left?.recipe ?? draft.recipe);
  const [problem, setProblem] = useState<Error>();
  const [pending, setPending] = useState(left !== undefined);
  const [steps, setSteps] = useState({ canUndo: draft.can_undo, canRedo: draft.can_redo });
  const latest = useRef(left?.recipe ?? draft.recipe);
  const kept = useRef(draft.recipe);
  const revision = useRef(left?.revision ?? draft.revision);
  const running = useRef(Promise.resolve(true));
  const timer = useRef(0);
  const attempts = useRef(0);
  const saveLater = useRef<() => void>(() => undefined);
  const path = { params: { path: { draft_id: draft.id } } };

  const note = (stored: Draft) => {
    revision.current = stored.revision;
    attempts.current = 0;
    setSteps({ canUndo: stored.can_undo, canRedo: stored.can_redo });
    setProblem(undefined);
    queries.setQueryData(["draft-by-id", stored.id], stored);
    queries.setQueryData<Draft | null>(["draft", stored.site_id], (known) =>
      known?.id === stored.id ? stored : known,
    );
    void queries.invalidateQueries({ queryKey: ["sites"] });
    void queries.invalidateQueries({ queryKey: ["builds", stored.site_id] });
  };

  /** One request after the other, so that each is made from the revision before it; tells whether it went well. */
  const inTurn = (work: () => Promise<void>): Promise<boolean> => {
    clearTimeout(timer.current);
    running.current = running.current.then(async () => {
      try {
        await work();
        return true;
      } catch (cause) {
        setProblem(cause as Error);
        if (passes(cause as Error)) {
          const pause = RETRY_MS[Math.min(attempts.current, RETRY_MS.length - 1)];
          attempts.current += 1;
          timer.current = window.setTimeout(() => saveLater.current(), pause);
        }
        return false;
      }
    });
    return running.current;
  };

  /** Saves what is not saved; false when it could not be, so that nothing may be built upon it. */
  const save = (): Promise<boolean> =>
    inTurn(async () => {
      const sent = latest.current;
      if (sent === kept.current) return;
      const body = { artwork_id: draft.artwork_id, recipe: sent, revision: revision.current };
      const stored = await answer(client.PUT("/api/drafts/{draft_id}", { ...path, body }));
      kept.current = sent;
      if (latest.current === sent) {
        setPending(false);
        forgetUnsaved(draft.id);
      } else
        keepUnsaved(draft.id, {
          revision: stored.revision,
          artworkId: draft.artwork_id,
          recipe: latest.current,
        });
      note(stored);
    });

  const change = useCallback(
    (update: (recipe: Recipe) => Recipe) => {
      latest.current = update(latest.current);
      keepUnsaved(draft.id, {
        revision: revision.current,
        artworkId: draft.artwork_id,
        recipe: latest.current,
      });
      setRecipe(latest.current);
      setPending(true);
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => saveLater.current(), PAUSE_MS);
    },
    [draft.id, draft.artwork_id],
  );

  /** Puts what is here over what another window kept since; that can be undone. */
  const saveOver = async () => {
    const now = await answer(client.GET("/api/drafts/{draft_id}", path));
    revision.current = now.revision;
    return save();
  };

  const step = async (direction: "undo" | "redo") => {
    if (!(await save())) return;
    await inTurn(async () => {
      const request = { ...path, body: { revision: revision.current } };
      const stored = await answer(
        direction === "undo"
          ? client.POST("/api/drafts/{draft_id}/undo", request)
          : client.POST("/api/drafts/{draft_id}/redo", request),
      );
      latest.current = stored.recipe;
      kept.current = stored.recipe;
      setRecipe(stored.recipe);
      note(stored);
    });
  };

  useEffect(() => {
    saveLater.current = () => void save();
  });
  useEffect(() => {
    if (left) saveLater.current(); // what an earlier window left behind
    return () => saveLater.current(); // leaving the bench keeps the last change, too
  }, [left]);

  return {
    recipe,
    change,
    save,
    saveOver,
    savedRevision: () => revision.current,
    step,
    pending,
    problem,
    restored: left !== undefined,
    ...steps,
    canUndo: steps.canUndo || pending,
  };
}
