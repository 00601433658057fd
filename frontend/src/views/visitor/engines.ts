/** The engines whose choice the visitor shows, by key and name. */
export const ENGINES = [
  ["blink", "Most browsers"],
  ["gecko", "Some on desks"],
  ["webkit", "Some phones"],
] as const;
export type Engine = (typeof ENGINES)[number][0];
