import type { Role } from "../../api/client";
import { ROLE_NAMES } from "../../api/me";

/** The roles, each with what it adds to the ones before it. */
export const ROLES: Record<Role, string> = {
  looks: "sees sites, artwork, sets and checks",
  checks: "has sites checked, and changes nothing",
  edits: "adds sites and artwork, frames, builds and checks",
  installs: "sets where sites live, installs and undoes",
  administers: "manages accounts and permissions",
};

/** To choose from. */
export const OPTIONS = (Object.keys(ROLES) as Role[]).map((value) => ({
  value,
  name: ROLE_NAMES[value],
  label: `${ROLE_NAMES[value]}: ${ROLES[value]}`,
}));
