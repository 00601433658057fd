/** A place as its form has it, and as one line: a folder, or scheme://user@host:port/folder. */

export const KINDS = {
  folder: "This machine",
  sftp: "SFTP",
  ftps: "FTPS",
  ftp: "FTP",
  zip: "ZIP",
  hand: "By hand",
} as const;
export type Kind = keyof typeof KINDS;
export type Parts = { kind: Kind; user: string; host: string; port: string; folder: string };

const ADDRESS = /^(sftp|ftps|ftp):\/\/(?:([^@/]*)@)?(\[[^\]]*\]|[^:/]*)(?::(\d*))?(\/.*)?$/i;

/** The parts of a place; any text that is no account's address is a folder. */
export function partsOf(place: string): Parts {
  const match = ADDRESS.exec(place.trim());
  if (!match) return { kind: "folder", user: "", host: "", port: "", folder: place };
  const [, kind = "sftp", user = "", host = "", port = "", folder = ""] = match;
  return { kind: kind.toLowerCase() as Kind, user: decoded(user), host, port, folder };
}

/** The place that the parts make, empty when there is too little of it. */
export function placeOf({ kind, user, host, port, folder }: Parts): string {
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
