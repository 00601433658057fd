/** The stand-in visitor. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Visitor } from "./client";

const KEY = ["visitor"];

export const useVisitor = () =>
  useQuery({ queryKey: KEY, queryFn: () => answer(client.GET("/api/visitor")) });

/** Something the visitor does, after which it is as the answer says. */
function useDeed<Input>(deed: (input: Input) => Promise<Visitor>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: deed, onSuccess: (visitor) => queries.setQueryData(KEY, visitor) });
}

export const useVisit = () =>
  useDeed((body: { address: string; private: boolean }) =>
    answer(client.POST("/api/visitor/visits", { body })),
  );

export const usePutOnPhone = () =>
  useDeed((address: string) => answer(client.POST("/api/visitor/home-screen", { body: { address } })));

export const useSetClock = () =>
  useDeed((ahead: number) => answer(client.PUT("/api/visitor/clock", { body: { ahead } })));

export const useMoveClock = () =>
  useDeed((by: number) => answer(client.POST("/api/visitor/clock", { body: { by } })));

export const useClearCache = () => useDeed(() => answer(client.DELETE("/api/visitor/cache")));

export const useStartOver = () => useDeed(() => answer(client.DELETE("/api/visitor")));

/** A picture that the visitor shows, at the size in px at which it is shown. */
export const visitorPicture = (sha256: string, px: number) => `/api/visitor/pictures/${sha256}?px=${px}`;
