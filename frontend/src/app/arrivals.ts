/** When what the server answered is shown, and what was answered too early asked for again. */

import type { notifyManager, QueryClient } from "@tanstack/react-query";

import { afterPress } from "./pressing";

/** Both are given, not imported: they are part of the first screen, this is not. */
export function arrange(manager: typeof notifyManager, queries: QueryClient): void {
  // What arrives moves what is below it: not while something is being pressed.
  manager.setScheduler((notify) => setTimeout(() => afterPress(notify)));

  // Asking everything anew passes by what is being asked for the first time; its answer may be from before the change.
  const overtaken = new WeakSet();
  queries.getQueryCache().subscribe((event) => {
    if (event.type !== "updated") return;
    const { query, action } = event;
    if (
      action.type === "invalidate" &&
      query.state.fetchStatus === "fetching" &&
      query.state.data === undefined
    )
      overtaken.add(query);
    if (action.type === "success" && overtaken.delete(query))
      void queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
  });
}
