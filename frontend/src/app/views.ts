/** The views of one site, in the order of the work: the end of their address, and what they are called. */
export const VIEWS = [
  ["artwork", "Artwork"],
  ["bench", "Bench"],
  ["set", "Set"],
  ["install", "Install"],
  ["live-check", "Live check"],
] as const;
