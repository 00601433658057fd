/** Which site a picture is for, by what both are called. */

import type { Site } from "../api/client";

/** Shorter names are in too many others. */
const SHORTEST = 3;

const squashed = (text: string) =>
  text
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^\p{L}\p{N}]+/gu, "");

/** What a site goes by: its name, its host and the first part of that. */
function callsOf({ name, address }: Site): string[] {
  const host = address
    .replace(/^https?:\/\//, "")
    .replace(/^www\./, "")
    .replace(/[:/].*$/, "");
  return [name, host, host.split(".")[0] ?? ""].map(squashed).filter(({ length }) => length >= SHORTEST);
}

/** The site with the longest call that is in a picture's title, or has it in itself; undefined when none fits. */
export function siteFor(title: string, sites: Site[]): Site | undefined {
  const wanted = squashed(title);
  const fits = (call: string) =>
    wanted.includes(call) || (wanted.length >= SHORTEST && call.includes(wanted));
  const found = sites.flatMap((site) => {
    const lengths = callsOf(site)
      .filter(fits)
      .map((call) => Math.min(call.length, wanted.length));
    return lengths.length ? [{ site, length: Math.max(...lengths) }] : [];
  });
  return found.sort((one, other) => other.length - one.length)[0]?.site;
}
