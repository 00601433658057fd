/** What visitors get. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { WATCHED_EVERY_MS, site, useChange } from "./asking";
import { answer, client, type CheckSummary } from "./client";

const check = (checkId: number) => ({ params: { path: { check_id: checkId } } });

export const isLooking = ({ state, lost }: CheckSummary) =>
  !lost && (state === "waiting" || state === "looking");

/** The checks of a site, the latest first; watched while one is under way, and then all is asked for again. */
export function useChecks(siteId: number, enabled = true) {
  const queries = useQueryClient();
  const checks = useQuery({
    queryKey: ["checks", siteId],
    enabled,
    queryFn: () => answer(client.GET("/api/sites/{site_id}/checks", site(siteId))),
    refetchInterval: ({ state }) => (state.data?.some(isLooking) ? WATCHED_EVERY_MS : false),
  });
  const looking = checks.data?.some(isLooking) ?? false;
  useEffect(() => {
    if (!looking) return;
    return () => void queries.invalidateQueries();
  }, [looking, queries]);
  return checks;
}

export const useCheck = (checkId: number | undefined) =>
  useQuery({
    queryKey: ["check", checkId],
    queryFn: () => answer(client.GET("/api/checks/{check_id}", check(checkId ?? 0))),
    enabled: checkId !== undefined,
  });

export const useOrderCheck = (siteId: number) =>
  useChange(() => answer(client.POST("/api/sites/{site_id}/checks", site(siteId))));

export const useStopCheck = () =>
  useChange((checkId: number) => answer(client.POST("/api/checks/{check_id}/stop", check(checkId))));
