/** What is done at several sites at once. */

import { useQuery } from "@tanstack/react-query";

import { site } from "./asking";
import { type Activity, answer, client } from "./client";

const EVERY_MS = 700;
/** Sites whose numbers fit into one address. */
const ASKED_AT_ONCE = 100;

/** What goes on at these sites, watched as long as something does. */
export const useActivity = (ids: number[]) =>
  useQuery({
    queryKey: ["activity", ids],
    queryFn: async () => {
      const parts = Array.from({ length: Math.ceil(ids.length / ASKED_AT_ONCE) }, (_, part) =>
        ids.slice(part * ASKED_AT_ONCE, (part + 1) * ASKED_AT_ONCE),
      );
      const told = await Promise.all(
        parts.map((site) => answer(client.GET("/api/activity", { params: { query: { site } } }))),
      );
      return told.flat();
    },
    enabled: ids.length > 0,
    refetchInterval: ({ state }) => (state.data?.some(isBusy) ? EVERY_MS : false),
  });

const UNDER_WAY = ["waiting", "running", "reading", "started", "looking"];

export const isGoingOn = (work: { state: string; lost?: boolean } | null | undefined) =>
  !!work && !work.lost && UNDER_WAY.includes(work.state);

const isBusy = ({ build, planning, install, check }: Activity) =>
  [build, planning, install, check].some(isGoingOn);

export const check = (siteId: number) => answer(client.POST("/api/sites/{site_id}/checks", site(siteId)));

/** Nothing is entered: the secret that is kept is taken. */
const KEPT = { secret: "", place: "" };

/** Plan an installation, with the secret that is kept. */
export const plan = (siteId: number) =>
  answer(
    client.POST("/api/sites/{site_id}/plannings", {
      ...site(siteId),
      body: { ...KEPT, pages: "*", rules: false },
    }),
  );

export const install = (siteId: number, planningId: number) =>
  answer(
    client.POST("/api/sites/{site_id}/installs", {
      ...site(siteId),
      body: { ...KEPT, removes: [], planning_id: planningId },
    }),
  );

export const undo = (installId: number) =>
  answer(
    client.POST("/api/installs/{install_id}/undo", {
      params: { path: { install_id: installId } },
      body: { ...KEPT, over: [], leave: [] },
    }),
  );

export const takeOver = (siteId: number, from: number, what: { recipe: boolean; plan: boolean }) =>
  answer(
    client.POST("/api/sites/{site_id}/take-over", { ...site(siteId), body: { from_site_id: from, ...what } }),
  );

export const stopBuild = (runId: number) =>
  answer(client.POST("/api/build-runs/{run_id}/stop", { params: { path: { run_id: runId } } }));

export const stopPlanning = (planningId: number) =>
  answer(client.POST("/api/plannings/{planning_id}/stop", { params: { path: { planning_id: planningId } } }));

export const stopInstall = (installId: number) =>
  answer(client.POST("/api/installs/{install_id}/stop", { params: { path: { install_id: installId } } }));

export const stopCheck = (checkId: number) =>
  answer(client.POST("/api/checks/{check_id}/stop", { params: { path: { check_id: checkId } } }));

const AT_ONCE = 4;

/** Do something at each site, a few at a time; tells of each that refused why. */
export async function atEach(
  ids: number[],
  act: (id: number) => Promise<unknown>,
): Promise<Map<number, string>> {
  const refused = new Map<number, string>();
  const left = [...ids];
  const next = async () => {
    for (let id = left.shift(); id !== undefined; id = left.shift()) {
      try {
        await act(id);
      } catch (cause) {
        refused.set(id, (cause as Error).message);
      }
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, next));
  return refused;
}
