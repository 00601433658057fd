import type { QueryClient } from "@tanstack/react-query";

import { answer, client, type Draft, Problem, type Recipe } from "../../api/client";
import { tellDraft } from "../../api/drafts";
import { onItsWay } from "../../api/saving";
import { forgetUnsaved, keepUnsaved, unsavedOf } from "../../app/unsaved";
import { begin, type DraftEvent, isPending, reduce } from "./draftState";
import { passes } from "./outage";

const PAUSE_MS = 300;
/** Between attempts to save again, the last one again and again. */
const RETRY_MS = [1000, 3000, 10_000, 30_000];
/** Longer than the server itself waits for its database; what is not answered by then is sent again. */
const ANSWERED_WITHIN_MS = 30_000;

/** For whoever waits for this change: it did not get there. */
const refuseUnsaved = (isSaved: boolean) => (isSaved ? undefined : Promise.reject(new Error("Not saved")));

export const isOvertaken = (problem: Error | undefined) =>
  problem instanceof Problem && problem.code === "draft-changed-elsewhere";

type Keeper = ReturnType<typeof newKeeper>;
const keepers = new Map<number, Keeper>();

/** The keeper of a draft: the one before, as long as it has something to send, so that nothing is sent twice. */
export function keeperOf(draft: Draft, queries: QueryClient): Keeper {
  const before = keepers.get(draft.id);
  if (before?.artworkId === draft.artwork_id && isPending(before.state())) return before;
  const keeper = newKeeper(draft, queries);
  keepers.set(draft.id, keeper);
  return keeper;
}

/** Drop what the server does not have yet of a draft. */
export const dropChanges = (draftId: number) => keepers.get(draftId)?.drop();

/** Has the server keep a draft shortly after each change, also once its bench is left. */
function newKeeper(draft: Draft, queries: QueryClient) {
  let state = begin(draft, unsavedOf(draft));
  let running = Promise.resolve(true);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const hearers = new Set<() => void>();
  const path = { params: { path: { draft_id: draft.id } } };
  const inTime = () => ({ ...path, signal: AbortSignal.timeout(ANSWERED_WITHIN_MS) });

  /** Takes an event in, and keeps in the browser what the server does not have yet. */
  const tell = (event: DraftEvent) => {
    state = reduce(state, event);
    const { recipe, revision } = state;
    if (isPending(state)) keepUnsaved(draft.id, { revision, artworkId: draft.artwork_id, recipe });
    else forgetUnsaved(draft.id);
    for (const hear of hearers) hear();
  };

  const saveIn = (pause: number | undefined) => {
    clearTimeout(timer);
    timer = setTimeout(() => void save(), pause);
  };

  /** One request after the other, so that each is made from the revision before it; tells whether it went well. */
  const inTurn = (work: () => Promise<void>): Promise<boolean> => {
    clearTimeout(timer);
    running = running.then(async () => {
      try {
        await work();
        return true;
      } catch (cause) {
        const pause = RETRY_MS[Math.min(state.failures, RETRY_MS.length - 1)];
        tell({ kind: "failed", problem: cause as Error });
        if (passes(cause as Error)) saveIn(pause);
        return false;
      }
    });
    void onItsWay(running.then(refuseUnsaved)).catch(() => undefined); // told on the bench
    return running;
  };

  /** Saves what is not saved; false when it could not be, so that nothing may be built upon it. */
  const save = (): Promise<boolean> =>
    inTurn(async () => {
      const { recipe: sent, revision } = state;
      if (!isPending(state)) return;
      const body = { artwork_id: draft.artwork_id, recipe: sent, revision };
      const stored = await answer(client.PUT("/api/drafts/{draft_id}", { ...inTime(), body }));
      tell({ kind: "saved", sent, stored });
      tellDraft(queries, stored);
    });

  const change = (update: (recipe: Recipe) => Recipe) => {
    tell({ kind: "changed", update });
    saveIn(PAUSE_MS);
  };

  /** Puts what is here over what another window kept since; that can be undone. */
  const saveOver = async () => {
    const { revision } = await answer(client.GET("/api/drafts/{draft_id}", path));
    tell({ kind: "caught-up", revision });
    return save();
  };

  const step = async (direction: "undo" | "redo") => {
    if (!(await save())) return;
    await inTurn(async () => {
      const request = { ...inTime(), body: { revision: state.revision } };
      const stored = await answer(
        direction === "undo"
          ? client.POST("/api/drafts/{draft_id}/undo", request)
          : client.POST("/api/drafts/{draft_id}/redo", request),
      );
      tell({ kind: "put", stored });
      tellDraft(queries, stored);
    });
  };

  /** Follows what was made of the draft elsewhere, as long as nothing was changed here. */
  const follow = (stored: Draft) => {
    if (!isPending(state) && stored.revision > state.revision) tell({ kind: "put", stored });
  };

  const subscribe = (hear: () => void) => {
    hearers.add(hear);
    return () => void hearers.delete(hear);
  };

  return {
    artworkId: draft.artwork_id,
    state: () => state,
    subscribe,
    change,
    save,
    saveOver,
    step,
    follow,
    drop: () => {
      clearTimeout(timer);
      tell({ kind: "dropped" });
    },
  };
}
