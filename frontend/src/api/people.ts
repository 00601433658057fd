/** Signing in, accounts, and tokens for scripts. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { useChange } from "./asking";
import { type AccountInput, answer, client, type Me, type Role, type TokenInput } from "./client";

export function useSignIn() {
  const queries = useQueryClient();
  return useChange(async (body: { name: string; password: string }) => {
    const me = await answer(client.POST("/api/sign-in", { body }));
    await queries.cancelQueries(); // what was asked before is answered as to a stranger
    queries.setQueryData<Me>(["me"], me);
    return me;
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (everywhere: boolean) =>
      answer(client.POST("/api/sign-out", { params: { query: { everywhere } } })),
    onSuccess: () => queries.clear(), // nothing of it is for whoever comes next
  });
}

export const useChangePassword = () =>
  useChange((body: { old: string; new: string }) => answer(client.POST("/api/password", { body })));

export const useTokens = () =>
  useQuery({ queryKey: ["tokens"], queryFn: () => answer(client.GET("/api/tokens")) });

export const useMakeToken = () =>
  useChange((body: TokenInput) => answer(client.POST("/api/tokens", { body })));

export const useEndToken = () =>
  useChange((id: number) =>
    answer(client.DELETE("/api/tokens/{token_id}", { params: { path: { token_id: id } } })),
  );

export const usePeople = () =>
  useQuery({ queryKey: ["people"], queryFn: () => answer(client.GET("/api/people")) });

export const useAddPerson = () =>
  useChange((body: AccountInput) => answer(client.POST("/api/people", { body })));

export const useChangePerson = () =>
  useChange(({ id, ...body }: { id: number; role: Role; active: boolean }) =>
    answer(client.PUT("/api/people/{user_id}", { params: { path: { user_id: id } }, body })),
  );
