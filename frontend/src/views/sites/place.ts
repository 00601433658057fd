/** A place as its form has it, and as one line: a folder, or scheme://user@host:port/folder. */

import type { PlaceKind, Site } from "../../api/client";

export type Kind = PlaceKind["scheme"] | "zip" | "hand";
export type Parts = { kind: Kind; user: string; host: string; port: string; folder: string };

const ADDRESS = /^([a-z]+):\/\/(?:([^@/]*)@)?(\[[^\]]*\]|[^:/]*)(?::(\d*))?(\/.*)?$/i;

/** Where a site's files live, or how they get there where Bexi reaches no server. */
export type Where = Pick<Site, "place" | "without_server">;
export const NOWHERE: Where = { place: "", without_server: "" };

/** The parts of where a site lives. */
export function partsOfWhere({ place, without_server }: Where, kinds: PlaceKind[]): Parts {
  return { ...partsOf(place, kinds), ...(without_server && { kind: without_server }) };
}

export const whereOf = (parts: Parts): Where => ({
  place: placeOf(parts),
  without_server: parts.kind === "zip" || parts.kind === "hand" ? parts.kind : "",
});

/** The parts of a place; any text that is no address of an account is a folder. */
export function partsOf(place: string, kinds: PlaceKind[]): Parts {
  const [, scheme = "", user = "", host = "", port = "", folder = ""] = ADDRESS.exec(place.trim()) ?? [];
  const kind = kinds.find((one) => one.port > 0 && one.scheme === scheme.toLowerCase());
  if (!kind) return { kind: "folder", user: "", host: "", port: "", folder: place };
  return { kind: kind.scheme, user: decoded(user), host, port, folder };
}

/** The place that the parts make, empty when there is too little of it. */
function placeOf({ kind, user, host, port, folder }: Parts): string {
  if (kind === "folder") return folder.trim();
  if (kind === "zip" || kind === "hand") return "";
  if (!host.trim()) return "";
  const who = user.trim() ? `${encodeURIComponent(user.trim())}@` : "";
  const path = folder.trim();
  return `${kind}://${who}${host.trim()}${port ? `:${port}` : ""}${path && !path.startsWith("/") ? "/" : ""}${path}`;
}

function decoded(user: string): string {
  try {
    return decodeURIComponent(user);
  } catch {
    return user;
  }
}
