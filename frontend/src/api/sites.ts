/** Sites. */

import { useQuery } from "@tanstack/react-query";

import { site, useChange } from "./asking";
import { answer, client, type SiteInput } from "./client";

export const useSites = () =>
  useQuery({ queryKey: ["sites"], queryFn: () => answer(client.GET("/api/sites")) });

export const useAddSite = () => useChange((body: SiteInput) => answer(client.POST("/api/sites", { body })));

export const useChangeSite = (siteId: number) =>
  useChange((body: SiteInput) => answer(client.PUT("/api/sites/{site_id}", { ...site(siteId), body })));
