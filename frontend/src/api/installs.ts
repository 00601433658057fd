/** What was installed. */

import { useQuery } from "@tanstack/react-query";

import { WATCHED_EVERY_MS, site, useChange } from "./asking";
import { answer, client, type Install } from "./client";

export const useByHandCases = () =>
  useQuery({
    queryKey: ["by-hand-cases"],
    queryFn: () => answer(client.GET("/api/by-hand-cases")),
    staleTime: Infinity,
  });

/** What was installed and undone, the latest first; watched while something is under way. */
export const useInstalls = (siteId: number) =>
  useQuery({
    queryKey: ["installs", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/installs", site(siteId))),
    refetchInterval: ({ state }) => (state.data?.some(isInstalling) ? WATCHED_EVERY_MS : false),
  });

export const useInstalledFiles = (installId: number, enabled: boolean) =>
  useQuery({
    queryKey: ["installed-files", installId],
    queryFn: () => answer(client.GET("/api/installs/{install_id}/files", install(installId))),
    enabled,
    staleTime: Infinity,
  });

/** Who did what to a site's place, the latest first. */
export const useHistory = (siteId: number) =>
  useQuery({
    queryKey: ["history", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/history", site(siteId))),
  });

export const isInstalling = ({ state, lost }: Install) =>
  !lost && (state === "waiting" || state === "started");

/** A password or key as it was entered, and the place it was entered for: it is sent to no other. */
export type Given = { secret: string; place: string };

export const useConnect = (siteId: number) =>
  useChange((body: Given & { keep: boolean; trust: string }) =>
    answer(client.POST("/api/sites/{site_id}/connection", { ...site(siteId), body })),
  );

export const useInstall = (siteId: number) =>
  useChange((body: Given & { planning_id: number; removes: string[] }) =>
    answer(client.POST("/api/sites/{site_id}/installs", { ...site(siteId), body })),
  );

const install = (installId: number) => ({ params: { path: { install_id: installId } } });

export const useStopInstall = () =>
  useChange((installId: number) =>
    answer(client.POST("/api/installs/{install_id}/stop", install(installId))),
  );

export const usePutBack = (given: Given) =>
  useChange((installId: number) =>
    answer(client.POST("/api/installs/{install_id}/put-back", { ...install(installId), body: given })),
  );

export const useUndoInstall = (given: Given) =>
  useChange(({ id, over = [], leave = [] }: { id: number; over?: string[]; leave?: string[] }) =>
    answer(
      client.POST("/api/installs/{install_id}/undo", { ...install(id), body: { ...given, over, leave } }),
    ),
  );

export const useVersions = (installId: number, path: string, given: Given) =>
  useQuery({
    queryKey: ["versions", installId, path],
    queryFn: () =>
      answer(
        client.POST("/api/installs/{install_id}/versions", {
          ...install(installId),
          body: { path, ...given },
        }),
      ),
    gcTime: 0,
  });
