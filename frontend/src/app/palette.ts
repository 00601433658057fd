export type Mode = "light" | "dark";

/** What both themes share: the brand's bar and main action, and the frame. */
const SHARED = {
  onBar: "#eaf1ec",
  onBarSecond: "#b7c8bf",
  main: "#f2b84b",
  onMain: "#1b2420",
  frame: "#d64c20",
  frameLabel: "#c2411a",
};

/** The only place of our colours: tokens of the components, and as CSS variables (`onBar` is `--on-bar`). */
export const PALETTES = {
  light: {
    ...SHARED,
    paper: "#f4f6f1",
    stage: "#dfe4dc",
    panel: "#ffffff",
    ink: "#1b2420",
    second: "#56635c",
    line: "#d5dbd3",
    bar: "#16302a",
    selected: "#16302a",
    onSelected: "#ffffff",
    good: "#27693f",
    caution: "#875007",
    bad: "#b3261e",
    added: "#e3f1e6",
    removed: "#fbe7e4",
    checkLight: "#ffffff",
    checkDark: "#e6eae4",
  },
  dark: {
    ...SHARED,
    frame: "#e2572b",
    paper: "#141a17",
    stage: "#0d1210",
    panel: "#1d2521",
    ink: "#e8eee9",
    second: "#a3b1a9",
    line: "#36423b",
    bar: "#0c2019",
    selected: "#a9d3c2",
    onSelected: "#0f1c17",
    good: "#7fcf9f",
    caution: "#e9b061",
    bad: "#ff9d94",
    added: "#1d3a29",
    removed: "#45231f",
    checkLight: "#333c37",
    checkDark: "#28302c",
  },
} satisfies Record<Mode, Record<string, string>>;

/** Have the page take a palette. */
export function wear(mode: Mode): void {
  const root = document.documentElement;
  root.dataset.mode = mode;
  for (const [name, value] of Object.entries(PALETTES[mode])) {
    root.style.setProperty(`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, value);
  }
}
