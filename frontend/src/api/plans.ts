/** Set plans, and what upload fields ask for. */

import {
  keepPreviousData,
  type QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useSyncExternalStore } from "react";

import { site, useChange } from "./asking";
import { answer, client, type PlanChoices, type Requirement } from "./client";
import { newUnkept, type Unkept } from "./unkept";

export const useCatalogue = () =>
  useQuery({
    queryKey: ["catalogue"],
    queryFn: () => answer(client.GET("/api/catalogue")),
    staleTime: Infinity,
  });

export const useReadyPlans = () =>
  useQuery({
    queryKey: ["ready-plans"],
    queryFn: () => answer(client.GET("/api/plans")),
    staleTime: Infinity,
  });

export const useSetPlan = (siteId: number) =>
  useQuery({
    queryKey: ["set-plan", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/plan", site(siteId))),
  });

/** What every file of the catalogue would take, made from the draft; the last known while it is made anew. */
export const useCosts = (siteId: number, enabled: boolean) =>
  useQuery({
    queryKey: ["costs", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/costs", site(siteId))),
    enabled,
    retry: false,
    placeholderData: keepPreviousData,
  });

export const useRequirements = () =>
  useQuery({ queryKey: ["requirements"], queryFn: () => answer(client.GET("/api/requirements")) });

const unkeptPlans = new Map<number, Unkept<PlanChoices>>();

function unkeptPlan(siteId: number, queries: QueryClient): Unkept<PlanChoices> {
  const known = unkeptPlans.get(siteId);
  if (known) return known;
  const made = newUnkept(async (body: PlanChoices, isLast: () => boolean) => {
    const stored = await answer(client.PUT("/api/sites/{site_id}/plan", { ...site(siteId), body }));
    if (!isLast()) return;
    await queries.cancelQueries({ queryKey: ["set-plan", siteId] });
    queries.setQueryData(["set-plan", siteId], stored);
    void queries.invalidateQueries();
  });
  unkeptPlans.set(siteId, made);
  return made;
}

/** The plan of a site as the screen has it: each change shows at once, and is made from the one before. */
export function usePlanChoices(siteId: number) {
  const plan = useSetPlan(siteId).data;
  const queries = useQueryClient();
  const unkept = unkeptPlan(siteId, queries);
  const { value, problem } = useSyncExternalStore(unkept.subscribe, unkept.state);
  const kept = plan?.plan as PlanChoices | undefined;
  const change = (update: (choices: PlanChoices) => Partial<PlanChoices>) => {
    const now = unkept.state().value ?? kept;
    if (now) unkept.change({ ...now, ...update(now) });
  };
  /** Back to what the server has, which may be a change whose answer was lost. */
  const drop = () => {
    unkept.drop();
    void queries.invalidateQueries({ queryKey: ["set-plan", siteId] });
  };
  return { plan, choices: value ?? kept, change, problem, retry: unkept.retry, drop };
}

export const useFit = (siteId: number) =>
  useMutation({
    mutationFn: (body: Requirement) =>
      answer(client.POST("/api/sites/{site_id}/fit", { ...site(siteId), body })),
  });

export const useKeepRequirement = () =>
  useChange((body: { name: string; requirement: Requirement }) =>
    answer(client.POST("/api/requirements", { body })),
  );

export const useForgetRequirement = () =>
  useChange((id: number) =>
    answer(client.DELETE("/api/requirements/{requirement_id}", { params: { path: { requirement_id: id } } })),
  );
