/** Drafts, and the icons of one. */

import { keepPreviousData, type QueryClient, useQuery } from "@tanstack/react-query";

import { piece, site } from "./asking";
import { answer, client, type Draft, type Picture, type Recipe } from "./client";

/** The draft that a site's set is built from. */
export const chosenDraft = (siteId: number) => ({
  queryKey: ["draft", siteId],
  queryFn: () => answer(client.GET("/api/sites/{site_id}/draft", site(siteId))),
});

export const draftById = (draftId: number) => ({
  queryKey: ["draft-by-id", draftId],
  queryFn: () => answer(client.GET("/api/drafts/{draft_id}", { params: { path: { draft_id: draftId } } })),
});

export const useDraft = (siteId: number) => useQuery(chosenDraft(siteId));

export const useDraftById = (draftId: number | undefined) =>
  useQuery({ ...draftById(draftId ?? 0), enabled: draftId !== undefined });

export const useDrafts = (siteId: number) =>
  useQuery({
    queryKey: ["drafts", siteId],
    queryFn: () => answer(client.GET("/api/sites/{site_id}/drafts", site(siteId))),
  });

/** Have whatever is shown know a draft as the server keeps it now. */
export function tellDraft(queries: QueryClient, stored: Draft): void {
  // An answer that was asked for before this was kept would tell the draft as it was.
  void queries.cancelQueries({ queryKey: ["draft-by-id", stored.id] });
  void queries.cancelQueries({ queryKey: ["draft", stored.site_id] });
  queries.setQueryData(["draft-by-id", stored.id], stored);
  queries.setQueryData<Draft | null>(["draft", stored.site_id], (known) =>
    known?.id === stored.id ? stored : known,
  );
  void queries.invalidateQueries({ queryKey: ["sites"] });
  void queries.invalidateQueries({ queryKey: ["builds", stored.site_id] });
}

/** The icons that a recipe gives. */
export const ladderOf = (
  siteId: number,
  artworkId: number,
  recipe: Recipe,
  pictures: Picture[],
  ownGround: string | null,
  signal: AbortSignal,
) =>
  answer(
    client.POST("/api/artwork/{artwork_id}/ladder", {
      ...piece(artworkId),
      body: { recipe, pictures, site_id: siteId, own_ground: ownGround },
      signal,
    }),
  );

/** The icons of a draft as it is kept, judged on a ground of one's own, too. */
export const useRungsOf = (draft: Draft | undefined, pictures: Picture[], ownGround: string | null = null) =>
  useQuery({
    queryKey: ["rungs", draft?.id, draft?.revision, pictures, ownGround],
    queryFn: ({ signal }) =>
      ladderOf(
        draft?.site_id ?? 0,
        draft?.artwork_id ?? 0,
        draft?.recipe as Draft["recipe"],
        pictures,
        ownGround,
        signal,
      ),
    enabled: draft !== undefined,
    placeholderData: keepPreviousData,
  });
