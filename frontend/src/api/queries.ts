import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type SiteInput } from "./client";

const site = (siteId: number) => ({ params: { path: { site_id: siteId } } });

export const useSites = () =>
  useQuery({ queryKey: ["sites"], queryFn: () => answer(client.GET("/api/sites")) });

export const useArtworks = () =>
  useQuery({ queryKey: ["artwork"], queryFn: () => answer(client.GET("/api/artwork")) });

export const useDraft = (siteId: number) =>
  useQuery({
    queryKey: ["draft", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/draft", site(siteId))),
  });

export const usePlannedFiles = () =>
  useQuery({ queryKey: ["plan"], queryFn: () => answer(client.GET("/api/plan")), staleTime: Infinity });

export const useBuilds = (siteId: number) =>
  useQuery({
    queryKey: ["builds", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/builds", site(siteId))),
  });

export const useInstallPlan = (siteId: number, enabled: boolean) =>
  useQuery({
    queryKey: ["install-plan", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/install-plan", site(siteId))),
    enabled,
    retry: false,
    gcTime: 0, // a plan is about the site as it is now
  });

export const useInstalls = (siteId: number) =>
  useQuery({
    queryKey: ["installs", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/installs", site(siteId))),
  });

export const useCheck = (siteId: number) =>
  useQuery({
    queryKey: ["check", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/check", site(siteId))),
  });

/** A change after which everything shown is asked for again. */
function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries() });
}

export const useAddSite = () => useChange((body: SiteInput) => answer(client.POST("/api/sites", { body })));

export const useChangeSite = (siteId: number) =>
  useChange((body: SiteInput) => answer(client.PUT("/api/sites/{site_id}", { ...site(siteId), body })));

export const useBuildSite = (siteId: number) =>
  useChange(() => answer(client.POST("/api/sites/{site_id}/builds", site(siteId))));

export const useInstall = (siteId: number) =>
  useChange((fingerprint: string) =>
    answer(client.POST("/api/sites/{site_id}/installs", { ...site(siteId), body: { fingerprint } })),
  );

export const useUndoInstall = () =>
  useChange((installId: number) =>
    answer(client.POST("/api/installs/{install_id}/undo", { params: { path: { install_id: installId } } })),
  );

export const useCheckSite = (siteId: number) =>
  useChange(() => answer(client.POST("/api/sites/{site_id}/check", site(siteId))));
