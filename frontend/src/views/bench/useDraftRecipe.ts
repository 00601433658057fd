import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { answer, client, type Draft, type Recipe } from "../../api/client";

const PAUSE_MS = 300;

/** The recipe on the bench, kept on the server by itself shortly after each change; every change can be undone. */
export function useDraftRecipe(siteId: number, draft: Draft) {
  const queries = useQueryClient();
  const [recipe, setRecipe] = useState(draft.recipe);
  const [problem, setProblem] = useState<Error>();
  const [pending, setPending] = useState(false);
  const [steps, setSteps] = useState({ canUndo: draft.can_undo, canRedo: draft.can_redo });
  const latest = useRef(draft.recipe);
  const kept = useRef(draft.recipe);
  const revision = useRef(draft.revision);
  const running = useRef(Promise.resolve());
  const timer = useRef(0);

  const note = useCallback(
    (stored: Draft) => {
      revision.current = stored.revision;
      setSteps({ canUndo: stored.can_undo, canRedo: stored.can_redo });
      setProblem(undefined);
      queries.setQueryData(["draft", siteId], stored);
      void queries.invalidateQueries({ queryKey: ["sites"] });
      void queries.invalidateQueries({ queryKey: ["builds", siteId] });
    },
    [queries, siteId],
  );

  /** One request after the other, so that each is made from the revision before it. */
  const inTurn = useCallback((work: () => Promise<void>) => {
    clearTimeout(timer.current);
    running.current = running.current.then(work).catch((cause: unknown) => setProblem(cause as Error));
    return running.current;
  }, []);

  const save = useCallback(
    () =>
      inTurn(async () => {
        const sent = latest.current;
        if (sent === kept.current) return;
        const body = { artwork_id: draft.artwork_id, recipe: sent, revision: revision.current };
        const stored = await answer(
          client.PUT("/api/sites/{site_id}/draft", { params: { path: { site_id: siteId } }, body }),
        );
        kept.current = sent;
        if (latest.current === sent) setPending(false);
        note(stored);
      }),
    [inTurn, note, siteId, draft.artwork_id],
  );

  const change = useCallback(
    (update: (recipe: Recipe) => Recipe) => {
      latest.current = update(latest.current);
      setRecipe(latest.current);
      setPending(true);
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void save(), PAUSE_MS);
    },
    [save],
  );

  const step = useCallback(
    async (direction: "undo" | "redo") => {
      await save();
      await inTurn(async () => {
        const request = { params: { path: { site_id: siteId } }, body: { revision: revision.current } };
        const stored = await answer(
          direction === "undo"
            ? client.POST("/api/sites/{site_id}/draft/undo", request)
            : client.POST("/api/sites/{site_id}/draft/redo", request),
        );
        latest.current = stored.recipe;
        kept.current = stored.recipe;
        setRecipe(stored.recipe);
        note(stored);
      });
    },
    [save, inTurn, note, siteId],
  );

  useEffect(() => () => void save(), [save]); // leaving the bench keeps the last change, too

  return { recipe, change, save, step, pending, problem, ...steps, canUndo: steps.canUndo || pending };
}
