/** What questions to the server share. */

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { onItsWay } from "./saving";

export const site = (siteId: number) => ({ params: { path: { site_id: siteId } } });

export const piece = (artworkId: number) => ({ params: { path: { artwork_id: artworkId } } });

export const WATCHED_EVERY_MS = 300;

/** The key of a request that adds something: sent again after a lost answer, it adds no second one. */
export function useOnce() {
  const [keys] = useState(() => new Map<string, string>());
  return (asked: unknown) => {
    const what = JSON.stringify(asked);
    const key = keys.get(what) ?? newKey();
    keys.set(what, key);
    return { params: { header: { "Idempotency-Key": key } } };
  };
}

const newKey = () =>
  Array.from(crypto.getRandomValues(new Uint32Array(4)), (part) => part.toString(36).padStart(7, "0")).join(
    "-",
  );

/** A change after which everything shown is asked for again. */
export function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries() });
}

/** A change of what a set is made of: a build waits for it. */
export const useSave = <Input, Output>(save: (input: Input) => Promise<Output>) =>
  useChange((input: Input) => onItsWay(save(input)));
