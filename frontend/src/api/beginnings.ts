/** Beginnings: what is made of a picture before anybody says which site it is for. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { site } from "./asking";
import {
  answer,
  type Artwork,
  type Beginning,
  client,
  type Draft,
  type Framing,
  type SiteInput,
} from "./client";
import { tellDraft } from "./drafts";
import { usePutOnBench } from "./judging";
import { askOnce } from "./once";
import { onItsWay } from "./saving";

/** As the picture came: what is proposed first is not there yet. */
const AS_IT_CAME = 1;

export const useBeginnings = () =>
  useQuery({ queryKey: ["beginnings"], queryFn: () => answer(client.GET("/api/beginnings")) });

/** Begin with a picture, called by its title unless a name is given. */
export function beginWith(artworkId: number, name = ""): Promise<Beginning> {
  const body = { artwork_id: artworkId, name };
  return askOnce(body, (once) => answer(client.POST("/api/beginnings", { ...once, body })));
}

/** Lay what was begun on the bench of a site. */
export const putOnto = (id: number, siteId: number) =>
  answer(client.POST("/api/beginnings/{site_id}/onto", { ...site(id), body: { site_id: siteId } }));

/** Make a site of a beginning. */
export const becomeSite = (id: number, body: SiteInput) =>
  answer(client.PUT("/api/sites/{site_id}", { ...site(id), body }));

/** Puts what is proposed first on the bench of a beginning, once. */
export function useFirstProposal(draft: Draft | null | undefined, artwork: Artwork | undefined) {
  const putOnBench = usePutOnBench();
  return useQuery({
    queryKey: ["first-proposal", draft?.id],
    queryFn: async () => {
      if (draft && artwork) await putOnBench(draft.site_id, artwork, draft);
      return true;
    },
    enabled: draft?.revision === AS_IT_CAME && artwork !== undefined,
    retry: false,
    staleTime: Infinity,
  });
}

export const isAsItCame = (draft: Draft | null | undefined) => draft?.revision === AS_IT_CAME;

/** Take a framing for the whole set. */
export function useTakeFraming(draft: Draft | null | undefined) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (framing: Framing) => {
      if (!draft) return;
      const { id, artwork_id, revision } = draft;
      const body = { artwork_id, recipe: { framing, own: [] }, revision };
      const saving = answer(
        client.PUT("/api/drafts/{draft_id}", { params: { path: { draft_id: id } }, body }),
      );
      tellDraft(queries, await onItsWay(saving));
    },
  });
}
