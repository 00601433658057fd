/** Adding sites, changing, removing and bringing them back. */

import { useQuery } from "@tanstack/react-query";

import { site, useChange, useSave } from "./asking";
import { answer, client, type Site, type SiteInput } from "./client";
import { useOnce } from "./once";

export const useRemoved = (enabled: boolean) =>
  useQuery({
    queryKey: ["sites", "removed"],
    queryFn: () => answer(client.GET("/api/sites/removed")),
    enabled,
  });

/** Remove a site; `although` when somebody knows that a set of it stands installed. */
export const useRemoveSite = () =>
  useChange(({ id, although = false }: { id: number; although?: boolean }) =>
    answer(
      client.DELETE("/api/sites/{site_id}", {
        params: { path: { site_id: id }, query: { although_installed: although } },
      }),
    ),
  );

export const useRestoreSite = () =>
  useChange((id: number) => answer(client.POST("/api/sites/{site_id}/restore", site(id))));

/** Put a label on sites, or take it off. */
export const useChangeLabels = () =>
  useChange(async ({ sites, label, on }: { sites: Site[]; label: string; on: boolean }) => {
    for (const { id, name, address, place, labels } of sites) {
      const rest = labels.filter((one) => one !== label);
      const body = { name, address, place, labels: on ? [...rest, label] : rest };
      await answer(client.PUT("/api/sites/{site_id}", { ...site(id), body }));
    }
  });

export const useImportSites = () =>
  useChange((file: File) => {
    const form = new FormData();
    form.append("file", file);
    return answer(client.POST("/api/sites.csv", { body: form as never }));
  });

/** Add a site of which only the address is known; Bexi looks at it. */
export function useStart() {
  const once = useOnce();
  return useChange((address: string) =>
    answer(client.POST("/api/start", { ...once(address), body: { address } })),
  );
}

export function useAddSite() {
  const once = useOnce();
  return useChange((body: SiteInput) => answer(client.POST("/api/sites", { ...once(body), body })));
}

export const useChangeSite = (siteId: number) =>
  useSave((body: SiteInput) => answer(client.PUT("/api/sites/{site_id}", { ...site(siteId), body })));

/** The ways to reach a place: they stay the same while Bexi runs. */
export const usePlaceKinds = () =>
  useQuery({
    queryKey: ["place-kinds"],
    queryFn: () => answer(client.GET("/api/place-kinds")),
    staleTime: Infinity,
  });

/** The folders of this machine below one, in the first that sites may live in for an empty path. */
export const useFolders = (path: string, enabled: boolean) =>
  useQuery({
    queryKey: ["folders", path],
    queryFn: () => answer(client.GET("/api/folders", { params: { query: { path } } })),
    enabled,
    retry: false,
  });
