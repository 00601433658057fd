/** How icons are judged, and what is proposed for a piece. */

import { hashKey, type QueryClient, queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";

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

/** How many of how many framings are judged, 0 while that is not known, and the best once it is. */
export type Judged = { done: number; total: number; first?: Offer | null };

const keyOf = (kind: string, siteId: number, { id, version }: Artwork) => [kind, siteId, id, version];

/** Whole framings for a piece, the best first; `useJudged` tells how far they are meanwhile. */
const proposalsOf = (queries: QueryClient, siteId: number, artwork: Artwork) =>
  queryOptions({
    queryKey: keyOf("proposals", siteId, artwork),
    queryFn: async ({ signal }) => {
      const params = { path: { site_id: siteId, artwork_id: artwork.id } };
      queries.setQueryData<Judged | null>(keyOf("judged", siteId, artwork), null);
      await judge(siteId, artwork.id, signal, (judged) => {
        queries.setQueryData<Judged>(keyOf("judged", siteId, artwork), (before) => ({
          ...judged,
          first: judged.first ?? before?.first ?? null,
        }));
      });
      return answer(client.GET("/api/sites/{site_id}/proposals/{artwork_id}", { params, signal }));
    },
    staleTime: Infinity,
  });

/** Begin to judge a piece for a view that is on its way. */
export const beginJudging = (queries: QueryClient, siteId: number, artwork: Artwork) =>
  void queries.prefetchQuery(proposalsOf(queries, siteId, artwork));

export function useProposals(siteId: number, artwork: Artwork | undefined) {
  const queries = useQueryClient();
  return useQuery({
    ...proposalsOf(queries, siteId, artwork ?? NO_ARTWORK),
    enabled: artwork !== undefined,
  });
}

/** How far judging a piece is, as it is told; nothing before that begins. */
export const useJudged = (siteId: number, artwork: Artwork | undefined) =>
  useQuery<Judged | null>({
    queryKey: keyOf("judged", siteId, artwork ?? NO_ARTWORK),
    queryFn: () => null,
    enabled: false,
  }).data;

const NO_ARTWORK = { id: 0, version: "" } as Artwork;

/** Has a piece judged, and tells each step. */
async function judge(
  siteId: number,
  artworkId: number,
  signal: AbortSignal,
  tell: (judged: Judged) => void,
): Promise<void> {
  const path = { params: { path: { site_id: siteId, artwork_id: artworkId } }, parseAs: "stream" } as const;
  const lines = await answer(
    client.GET("/api/sites/{site_id}/proposals/{artwork_id}/progress", { ...path, signal }),
  );
  if (!lines) return; // nothing was left to judge
  const reader = (lines as ReadableStream<BufferSource>).pipeThrough(new TextDecoderStream()).getReader();
  for (let rest = ""; ;) {
    const { value, done } = await reader.read().catch(refuseSilence);
    if (done) return;
    const told = (rest + value).split("\n");
    rest = told.pop() ?? "";
    for (const line of told) tell(JSON.parse(line) as Judged);
  }
}

/** Has a piece judged until the best of its framings is known; the rest goes on beside. */
function bestKnown(queries: QueryClient, siteId: number, artwork: Artwork): Promise<void> {
  const hash = hashKey(keyOf("judged", siteId, artwork));
  return new Promise((resolve, reject) => {
    const unsubscribe = queries.getQueryCache().subscribe(({ query }) => {
      if (query.queryHash === hash && (query.state.data as Judged | undefined)?.first) resolve();
    });
    queries
      .fetchQuery(proposalsOf(queries, siteId, artwork))
      .then(() => resolve(), reject)
      .finally(unsubscribe);
  });
}

/** Puts a piece on the bench of a site, framed as is proposed first; one change that can be undone. */
export async function putOnBench(siteId: number, artwork: Artwork, draft: Draft | null) {
  const body = { artwork_id: artwork.id, revision: draft?.revision ?? 0 };
  return answer(client.POST("/api/sites/{site_id}/bench", { ...site(siteId), body }));
}

/** The same from a view that goes on with the piece: all that is proposed for it is judged beside. */
export function usePutOnBench() {
  const queries = useQueryClient();
  return async (siteId: number, artwork: Artwork, draft: Draft | null): Promise<Draft> => {
    await bestKnown(queries, siteId, artwork);
    const { draft: saved } = await putOnBench(siteId, artwork, draft);
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
