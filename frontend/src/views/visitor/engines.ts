/** The engines whose choice the visitor shows, by key and name. */
export const ENGINES = [
  ["blink", "Most browsers (Blink)"],
  ["gecko", "Another family on desks (Gecko)"],
  ["webkit", "One phone maker’s browsers (WebKit)"],
] as const;
export type Engine = (typeof ENGINES)[number][0];
