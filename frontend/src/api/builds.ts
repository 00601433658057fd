/** Builds and the work on one. */

import { useMutation, useQuery } from "@tanstack/react-query";

import { WATCHED_EVERY_MS, site, useChange } from "./asking";
import { unsavedOf } from "../app/unsaved";
import { answer, type BuildRun, client } from "./client";
import { allSaved, NOT_SAVED } from "./saving";

/** The latest build run of a site, watched while it is under way. */
export const useBuildRun = (siteId: number) =>
  useQuery({
    queryKey: ["build-run", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/build-run", site(siteId))),
    refetchInterval: ({ state }) => (isUnderWay(state.data) ? WATCHED_EVERY_MS : false),
  });

export const isUnderWay = (run: BuildRun | null | undefined) =>
  run?.state === "waiting" || run?.state === "running";

export const useComparison = (buildId: number, earlierId: number) =>
  useQuery({
    queryKey: ["comparison", buildId, earlierId],
    queryFn: () =>
      answer(
        client.GET("/api/builds/{build_id}/compared-with/{earlier_id}", {
          params: { path: { build_id: buildId, earlier_id: earlierId } },
        }),
      ),
    staleTime: Infinity,
  });

export const useBuilds = (siteId: number) =>
  useQuery({
    queryKey: ["builds", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/builds", site(siteId))),
  });

export const useBuildSite = (siteId: number) =>
  useMutation({
    mutationFn: (body: { draft_id: number; revision: number }) =>
      answer(client.POST("/api/sites/{site_id}/builds", { ...site(siteId), body })),
  });

/** Build what is on the bench of a site, once all that was changed is saved. */
export async function buildAsItIs(siteId: number): Promise<BuildRun> {
  const isSaved = await allSaved();
  const draft = await answer(client.GET("/api/sites/{site_id}/draft", site(siteId)));
  if (!draft) throw new Error("Nothing is on its bench yet.");
  if (!isSaved || unsavedOf(draft)) throw new Error(NOT_SAVED);
  const body = { draft_id: draft.id, revision: draft.revision };
  return answer(client.POST("/api/sites/{site_id}/builds", { ...site(siteId), body }));
}

/** Build what is on the bench of a site and wait for the end; the id of the build. */
export async function buildToTheEnd(siteId: number, tell: (run: BuildRun) => void): Promise<number> {
  const { id } = await buildAsItIs(siteId);
  for (;;) {
    const run = await answer(client.GET("/api/sites/{site_id}/build-run", site(siteId)));
    if (run) tell(run);
    if (run?.id !== id || !isUnderWay(run)) {
      if (run?.id === id && run.build_id !== null) return run.build_id;
      throw new Error(run?.problem || "The set was not built: the build was stopped. Try again.");
    }
    await new Promise((go) => setTimeout(go, WATCHED_EVERY_MS));
  }
}

export const useStopRun = () =>
  useChange((runId: number) =>
    answer(client.POST("/api/build-runs/{run_id}/stop", { params: { path: { run_id: runId } } })),
  );

export const useBuildAgain = () =>
  useMutation({
    mutationFn: (buildId: number) =>
      answer(client.POST("/api/builds/{build_id}/again", { params: { path: { build_id: buildId } } })),
  });

const build = (buildId: number) => ({ path: { build_id: buildId } });

/** Remove a build; `although` when somebody knows that it stands installed. */
export const useRemoveBuild = () =>
  useChange(({ id, although }: { id: number; although: boolean }) =>
    answer(
      client.DELETE("/api/builds/{build_id}", {
        params: { ...build(id), query: { although_installed: although } },
      }),
    ),
  );

export const useRestoreBuild = () =>
  useChange((id: number) => answer(client.POST("/api/builds/{build_id}/restore", { params: build(id) })));
