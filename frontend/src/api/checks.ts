/** What visitors get. */

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { WATCHED_EVERY_MS, site, useChange } from "./asking";
import { answer, client, type CheckSummary } from "./client";

const check = (checkId: number) => ({ params: { path: { check_id: checkId } } });

export const isLooking = ({ state, lost }: CheckSummary) =>
  !lost && (state === "waiting" || state === "looking");

const LOST = "The program that checks in the background has stopped. Start Bexi again, then check again.";
const STOPPED = "You stopped the check.";

/** Why a check that is over has found nothing out; empty where it has. */
export function troubleOf({ state, lost, problem }: CheckSummary): string {
  if (lost) return LOST;
  return state === "stopped" ? STOPPED : problem;
}

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

/** One check; the one before stays in view until it is there. */
export const useCheck = (checkId: number | undefined) =>
  useQuery({
    queryKey: ["check", checkId],
    queryFn: () => answer(client.GET("/api/checks/{check_id}", check(checkId ?? 0))),
    enabled: checkId !== undefined,
    placeholderData: keepPreviousData,
  });

export const useOrderCheck = (siteId: number) =>
  useChange(() => answer(client.POST("/api/sites/{site_id}/checks", site(siteId))));

export const useStopCheck = () =>
  useChange((checkId: number) => answer(client.POST("/api/checks/{check_id}/stop", check(checkId))));
