/** Set plans, and what upload fields ask for. */

import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";

import { site, useChange } from "./asking";
import { answer, client, type PlanChoices, type Requirement } from "./client";

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

const onTheirWay = new Set<Promise<unknown>>();

/** Resolves once no change of a plan is on its way any more: it belongs to what is built next. */
export const plansSaved = () => Promise.allSettled(onTheirWay);

export const useChangePlan = (siteId: number) =>
  useChange(async (body: PlanChoices) => {
    const sent = answer(client.PUT("/api/sites/{site_id}/plan", { ...site(siteId), body }));
    onTheirWay.add(sent);
    try {
      return await sent;
    } finally {
      onTheirWay.delete(sent);
    }
  });

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
