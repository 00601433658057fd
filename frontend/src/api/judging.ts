/** How icons are judged, and what is proposed for a piece. */

import { useQuery, useQueryClient } from "@tanstack/react-query";

import { piece, site } from "./asking";
import { tellDraft } from "./drafts";
import {
  answer,
  refuseSilence,
  type Artwork,
  client,
  type Draft,
  type Offer,
  type Picture,
  type Recipe,
} from "./client";

/** One icon looked at closely: its readings, where they come from, and what would be better. */
export const useCloseLook = (
  siteId: number,
  artworkId: number,
  recipe: Recipe,
  picked: Picture,
  ownGround: string | null,
) =>
  useQuery({
    queryKey: ["judgement", artworkId, recipe, picked.size, picked.purpose, ownGround, siteId],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/artwork/{artwork_id}/judgement", {
          ...piece(artworkId),
          body: {
            recipe,
            size: picked.size,
            purpose: picked.purpose,
            own_ground: ownGround,
            site_id: siteId,
          },
          signal,
        }),
      ),
    retry: false,
    staleTime: Infinity,
    gcTime: 60_000,
  });

/** The parts of a piece grouped as a person sees them. */
export const useGroups = (artworkId: number, version: string) =>
  useQuery({
    queryKey: ["groups", artworkId, version],
    queryFn: () => answer(client.GET("/api/artwork/{artwork_id}/groups", piece(artworkId))),
    staleTime: Infinity,
  });

/** Whole framings for a piece, the best first. */
export const useProposals = (siteId: number, artworkId: number, version: string, enabled = true) =>
  useQuery({
    queryKey: ["proposals", siteId, artworkId, version],
    queryFn: ({ signal }) =>
      answer(
        client.GET("/api/sites/{site_id}/proposals/{artwork_id}", {
          params: { path: { site_id: siteId, artwork_id: artworkId } },
          signal,
        }),
      ),
    enabled,
    staleTime: Infinity,
  });

export type Judged = { done: number; total: number };

/** Has a piece judged, and tells how many of its framings are. */
async function judge(siteId: number, artworkId: number, tell: (judged: Judged) => void): Promise<void> {
  const path = { params: { path: { site_id: siteId, artwork_id: artworkId } }, parseAs: "stream" } as const;
  const lines = await answer(client.GET("/api/sites/{site_id}/proposals/{artwork_id}/progress", path));
  if (!lines) return; // nothing was left to judge
  const reader = (lines as ReadableStream<BufferSource>).pipeThrough(new TextDecoderStream()).getReader();
  for (let rest = ""; ;) {
    const { value, done } = await reader.read().catch(refuseSilence);
    if (done) return;
    const told = (rest + value).split("\n");
    rest = told.pop() ?? "";
    const last = told.at(-1);
    if (last) tell(JSON.parse(last) as Judged);
  }
}

/** Puts a piece on the bench of a site, framed as is proposed first; one change that can be undone. */
export function usePutOnBench() {
  const queries = useQueryClient();
  return async (
    siteId: number,
    artwork: Artwork,
    draft: Draft | null,
    told: (judged: Judged) => void,
  ): Promise<Draft> => {
    await judge(siteId, artwork.id, told);
    const body = { artwork_id: artwork.id, revision: draft?.revision ?? 0 };
    const { draft: saved, proposals } = await answer(
      client.POST("/api/sites/{site_id}/bench", { ...site(siteId), body }),
    );
    queries.setQueryData(["proposals", siteId, artwork.id, artwork.version], proposals);
    queries.setQueryData(["draft", siteId], saved);
    tellDraft(queries, saved);
    void queries.invalidateQueries({ queryKey: ["shelf"] });
    return saved;
  };
}

/** The framing on offer; letters that it needs are drawn and kept first. */
export async function framingOf(offer: Offer) {
  if (!offer.letters) return offer.framing;
  const drawn = await answer(client.POST("/api/drawings", { body: { drawing: offer.letters } }));
  return { ...offer.framing, artwork: String(drawn.id) };
}
