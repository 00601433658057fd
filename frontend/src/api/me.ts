/** Who asks, and what they may do. */

import { useQuery } from "@tanstack/react-query";

import { answer, client, type Role } from "./client";

/** The roles; each may do what those before it may. */
const ORDER: Role[] = ["looks", "edits", "installs", "administers"];

export const holds = (role: Role, other: Role) => ORDER.indexOf(role) >= ORDER.indexOf(other);

export const useMe = () =>
  useQuery({ queryKey: ["me"], queryFn: () => answer(client.GET("/api/me")), staleTime: Infinity });

/** Why somebody may not do what a role is for; nothing when they may. */
export function useRefusal(needed: Role): string | undefined {
  const me = useMe().data;
  if (!me || holds(me.role, needed)) return undefined;
  return `Your role is “${me.role}”; this needs “${needed}”.`;
}
