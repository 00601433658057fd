import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { answer, client, type Draft, type Recipe } from "../../api/client";

const PAUSE_MS = 300;

/** The recipe on the bench, kept on the server by itself shortly after each change. */
export function useDraftRecipe(siteId: number, draft: Draft) {
  const queries = useQueryClient();
  const [recipe, setRecipe] = useState(draft.recipe);
  const [problem, setProblem] = useState<Error>();
  const [pending, setPending] = useState(false);
  const latest = useRef(draft.recipe);
  const kept = useRef(draft.recipe);
  const revision = useRef(draft.revision);
  const saving = useRef(Promise.resolve());
  const timer = useRef(0);

  const save = useCallback(() => {
    clearTimeout(timer.current);
    // One after the other, so that each save is made from the revision before it.
    saving.current = saving.current.then(async () => {
      const sent = latest.current;
      if (sent === kept.current) return;
      try {
        const saved = await answer(
          client.PUT("/api/sites/{site_id}/draft", {
            params: { path: { site_id: siteId } },
            body: { artwork_id: draft.artwork_id, recipe: sent, revision: revision.current },
          }),
        );
        revision.current = saved.revision;
        kept.current = sent;
        setProblem(undefined);
        if (latest.current === sent) setPending(false);
        queries.setQueryData(["draft", siteId], saved);
        void queries.invalidateQueries({ queryKey: ["sites"] });
        void queries.invalidateQueries({ queryKey: ["builds", siteId] });
      } catch (cause) {
        setProblem(cause as Error);
      }
    });
    return saving.current;
  }, [queries, siteId, draft.artwork_id]);

  const change = useCallback(
    (part: Partial<Recipe>) => {
      latest.current = { ...latest.current, ...part };
      setRecipe(latest.current);
      setPending(true);
      clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void save(), PAUSE_MS);
    },
    [save],
  );

  useEffect(() => () => void save(), [save]); // leaving the bench keeps the last change, too

  return { recipe, change, save, pending, problem };
}
