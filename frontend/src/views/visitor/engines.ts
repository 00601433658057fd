/** The engines whose choice the visitor shows: key, what people call them where there is little room, and in full. */
export const ENGINES = [
  ["blink", "Most browsers", "Most browsers on desks and phones: Blink"],
  ["gecko", "Others", "Another family, mostly on desks: Gecko"],
  ["webkit", "Phones", "The browsers of one phone maker: WebKit, by the standard"],
] as const;
export type Engine = (typeof ENGINES)[number][0];
