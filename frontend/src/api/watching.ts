/** Sites that are looked at by themselves, and lines for their web servers. */

import { useQuery } from "@tanstack/react-query";

import { site, useChange } from "./asking";
import { answer, client, type WatchInput } from "./client";

export const useServerLines = (siteId: number) =>
  useQuery({
    queryKey: ["server-lines", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/server-lines", site(siteId))),
  });

export const useWatch = (siteId: number) =>
  useQuery({
    queryKey: ["watch", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/watch", site(siteId))),
  });

export const useSetWatch = (siteId: number) =>
  useChange((body: WatchInput | null) =>
    body
      ? answer(client.PUT("/api/sites/{site_id}/watch", { ...site(siteId), body }))
      : answer(client.DELETE("/api/sites/{site_id}/watch", site(siteId))),
  );
