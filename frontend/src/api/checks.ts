/** What visitors get. */

import { useQuery } from "@tanstack/react-query";

import { site, useChange } from "./asking";
import { answer, client } from "./client";

export const useCheck = (siteId: number) =>
  useQuery({
    queryKey: ["check", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/check", site(siteId))),
  });

export const useCheckSite = (siteId: number) =>
  useChange(() => answer(client.POST("/api/sites/{site_id}/check", site(siteId))));
