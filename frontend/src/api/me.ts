/** Who asks, and what they may do. */

import { useQuery } from "@tanstack/react-query";

import { answer, client, type Role } from "./client";

/** What they are called on the screen. */
export const ROLE_NAMES: Record<Role, string> = {
  looks: "Viewer",
  checks: "Checker",
  edits: "Editor",
  installs: "Publisher",
  administers: "Administrator",
};

export const useMe = () =>
  useQuery({ queryKey: ["me"], queryFn: () => answer(client.GET("/api/me")), staleTime: Infinity });

/** Why somebody may not do what a role is for; nothing when they may. */
export function useRefusal(needed: Role): string | undefined {
  const me = useMe().data;
  if (!me || me.may.includes(needed)) return undefined;
  return `Your role is ${ROLE_NAMES[me.role]}; this needs ${ROLE_NAMES[needed]}.`;
}
