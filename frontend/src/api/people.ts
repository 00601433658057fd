/** Who asks, accounts, and tokens for scripts. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { useChange } from "./asking";
import { type AccountInput, answer, client, type Me, type Role, type TokenInput } from "./client";

/** The roles, each with what it adds to the ones before it. */
export const ROLES: Record<Role, string> = {
  looks: "sees sites, artwork, sets and checks",
  edits: "adds sites and artwork, frames, builds and checks",
  installs: "says where sites live, installs and takes back",
  administers: "adds people and says what they may do",
};

const ORDER = Object.keys(ROLES) as Role[];

export const holds = (role: Role, other: Role) => ORDER.indexOf(role) >= ORDER.indexOf(other);

export const useMe = () =>
  useQuery({ queryKey: ["me"], queryFn: () => answer(client.GET("/api/me")), staleTime: Infinity, retry: 1 });

/** Why somebody may not do what a role is for; nothing when they may. */
export function useRefusal(needed: Role): string | undefined {
  const me = useMe().data;
  if (!me || holds(me.role, needed)) return undefined;
  return `Your role is “${me.role}”; this needs “${needed}”.`;
}

export function useSignIn() {
  const queries = useQueryClient();
  return useChange(async (body: { name: string; password: string }) => {
    const me = await answer(client.POST("/api/sign-in", { body }));
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
