/** What an installation would do. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { WATCHED_EVERY_MS, site } from "./asking";
import { answer, client, isRefusal, type Planning, Problem } from "./client";
import type { Given } from "./installs";

export type PlanQuestion = { pages: string; rules: boolean };

/**
 * The plan of the latest build, made in the background: ordered anew for each question and each `attempt`, then
 * watched. What was given to get in is part of no key: those are kept, and shown by tools.
 */
export function usePlanning(
  siteId: number,
  question: PlanQuestion,
  given: Given,
  attempt: number,
  enabled: boolean,
) {
  const [overtaken, setOvertaken] = useState(false); // once: two windows must not overtake each other for ever
  const ordered = useQuery({
    queryKey: ["planning-ordered", siteId, question, attempt, overtaken],
    queryFn: () =>
      answer(
        client.POST("/api/sites/{site_id}/plannings", {
          ...site(siteId),
          body: { ...question, ...given },
        }),
      ),
    enabled,
    retry: false,
    gcTime: 0, // a plan is about the site as it is now
    staleTime: Infinity, // but it is not made anew because somebody looks at another window
  });
  const id = ordered.data?.id ?? 0;
  const watched = useQuery({
    queryKey: ["planning", id],
    queryFn: () => answer(client.GET("/api/plannings/{planning_id}", planning(id))),
    enabled: id > 0 && !ordered.isFetching,
    initialData: ordered.data,
    refetchInterval: ({ state }) => (state.data && isPlanning(state.data) ? WATCHED_EVERY_MS : false),
  });
  if (!overtaken && isOutdated(watched.error)) setOvertaken(true);
  const stands = watched.data?.plan && !isRefusal(watched.error); // though its server is not heard just now
  return {
    planning: ordered.isFetching ? undefined : watched.data,
    error: ordered.error ?? (stands ? null : watched.error),
    again: () => void ordered.refetch(),
  };
}

/** A later order came first to the server, from this window or another. */
const isOutdated = (error: unknown) => error instanceof Problem && error.code === "plan-outdated";

export const isPlanning = ({ state, lost }: Planning) =>
  !lost && (state === "waiting" || state === "reading");

const planning = (planningId: number) => ({ params: { path: { planning_id: planningId } } });

export const useStopPlanning = () =>
  useMutation({
    mutationFn: (planningId: number) =>
      answer(client.POST("/api/plannings/{planning_id}/stop", planning(planningId))),
  });

export const useDifference = (planningId: number, path: string, given: Given, enabled: boolean) =>
  useQuery({
    queryKey: ["difference", planningId, path],
    queryFn: () =>
      answer(
        client.POST("/api/plannings/{planning_id}/difference", {
          ...planning(planningId),
          body: { path, ...given },
        }),
      ),
    enabled,
    retry: false,
    staleTime: Infinity,
  });
