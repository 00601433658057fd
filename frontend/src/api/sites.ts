/** Sites. */

import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { answer, client } from "./client";

/** The first of what a list or a search holds: for the rest a person searches. */
const FIRST = 20;

export const useSite = (siteId: number, enabled = true) =>
  useQuery({
    queryKey: ["sites", "one", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}", { params: { path: { site_id: siteId } } })),
    enabled,
  });

/** The first sites with these words; without words the first of all. */
export const useFoundSites = (search: string, most = FIRST) =>
  useQuery({
    queryKey: ["sites", "found", search, most],
    queryFn: () => answer(client.GET("/api/sites", { params: { query: { search, most } } })),
    placeholderData: keepPreviousData,
  });

export const useSites = (enabled = true) =>
  useQuery({ queryKey: ["sites"], queryFn: () => answer(client.GET("/api/sites")), enabled });
