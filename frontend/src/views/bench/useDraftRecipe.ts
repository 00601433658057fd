import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";

import type { Draft } from "../../api/client";
import { isPending } from "./draftState";
import { keeperOf } from "./keeper";

/** The recipe on the bench, kept on the server by itself; every change can be undone. */
export function useDraftRecipe(draft: Draft) {
  const queries = useQueryClient();
  const [keeper] = useState(() => keeperOf(draft, queries));
  const state = useSyncExternalStore(keeper.subscribe, keeper.state);
  useEffect(() => {
    void keeper.save(); // what an earlier window left behind
    return () => void keeper.save(); // leaving the bench keeps the last change, too
  }, [keeper]);

  useEffect(() => keeper.follow(draft), [keeper, draft]);

  const { change, save, saveOver, step } = keeper;
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
