import type { Site } from "../../api/client";

/** Which sites are wanted, and in what order. */
export type Wanted = { words: string; state: Site["state"] | ""; label: string; order: keyof typeof ORDERS };

export const ORDERS = {
  added: "Date added",
  name: "Name",
  state: "Most urgent first",
} as const;

export const EVERYTHING: Wanted = { words: "", state: "", label: "", order: "added" };

const URGENCY: Site["state"][] = ["problems", "built", "draft", "empty", "installed", "verified"];

/** The sites with all of these words in their name, address, place or labels. */
export function narrowed(sites: Site[], { words, state, label, order }: Wanted): Site[] {
  const sought = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = sites.filter((site) => {
    const text = [site.name, site.address, site.place, ...site.labels].join(" ").toLowerCase();
    return (
      (!state || site.state === state) &&
      (!label || site.labels.includes(label)) &&
      sought.every((word) => text.includes(word))
    );
  });
  if (order === "name") return found.sort((one, other) => one.name.localeCompare(other.name));
  if (order === "state")
    return found.sort((one, other) => URGENCY.indexOf(one.state) - URGENCY.indexOf(other.state));
  return found;
}
