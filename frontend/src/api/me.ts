/** Who asks, and what they may do. */

import { useQuery } from "@tanstack/react-query";

import { answer, client, type Role } from "./client";

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
