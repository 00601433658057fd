/** The pages of the documentation, which ship beside the front end. */

import { useQuery } from "@tanstack/react-query";

import { refuseSilence } from "./client";

type Passage = { location: string; title: string; text: string };

/** Every passage of the documentation, fetched once it is asked for. */
export const usePassages = (enabled: boolean) =>
  useQuery({
    queryKey: ["documentation"],
    queryFn: async () => {
      const answered = await fetch("/docs/search/search_index.json").catch(refuseSilence);
      return answered.ok ? ((await answered.json()) as { docs: Passage[] }).docs : [];
    },
    enabled,
    staleTime: Infinity,
  });

/** The passages with all of these words, those that have them in their title first. */
export function passagesWith(passages: Passage[], typed: string, most: number): Passage[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const has = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const found = passages.filter(({ title, text }) => has(`${title} ${text}`));
  found.sort((one, other) => Number(has(other.title)) - Number(has(one.title)));
  // A page and its first passage have one title.
  return found.filter(({ title }, at) => found.findIndex((one) => one.title === title) === at).slice(0, most);
}
