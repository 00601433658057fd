import type { Role } from "../../api/client";

/** The roles, each with what it adds to the ones before it. */
export const ROLES: Record<Role, string> = {
  looks: "sees sites, artwork, sets and checks",
  edits: "adds sites and artwork, frames, builds and checks",
  installs: "says where sites live, installs and takes back",
  administers: "adds people and says what they may do",
};
