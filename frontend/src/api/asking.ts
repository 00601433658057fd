/** What questions to the server share. */

import { useMutation, useQueryClient } from "@tanstack/react-query";

import { onItsWay } from "./saving";

export const site = (siteId: number) => ({ params: { path: { site_id: siteId } } });

export const piece = (artworkId: number) => ({ params: { path: { artwork_id: artworkId } } });

export const WATCHED_EVERY_MS = 300;

/** A change after which everything shown is asked for again. */
export function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries() });
}

/** A change of what a set is made of: a build waits for it. */
export const useSave = <Input, Output>(save: (input: Input) => Promise<Output>) =>
  useChange((input: Input) => onItsWay(save(input)));
