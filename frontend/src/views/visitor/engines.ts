/** The engines whose choice the visitor shows, by key and name. */
export const ENGINES = [
  ["blink", "Blink"],
  ["gecko", "Gecko"],
  ["webkit", "WebKit"],
] as const;
export type Engine = (typeof ENGINES)[number][0];
