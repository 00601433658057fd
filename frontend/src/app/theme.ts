import { theme, type ThemeConfig } from "antd";

export type Mode = "light" | "dark";

const FONT = '"Atkinson Hyperlegible Next", sans-serif';
const FONT_READINGS = '"Atkinson Hyperlegible Mono", monospace';

/** The palette of both themes; the same names are CSS variables in app.css. */
const PALETTES = {
  light: {
    paper: "#f4f6f1",
    panel: "#ffffff",
    ink: "#1b2420",
    second: "#5d6a63",
    line: "#d5dbd3",
    bar: "#16302a",
    selected: "#16302a",
    onSelected: "#ffffff",
    good: "#2f7d4f",
    caution: "#965808",
    bad: "#b3261e",
  },
  dark: {
    paper: "#141a17",
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
  },
} as const;

export function themeFor(mode: Mode): ThemeConfig {
  const palette = PALETTES[mode];
  return {
    algorithm: mode === "dark" ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: FONT,
      fontFamilyCode: FONT_READINGS,
      fontSize: 14,
      borderRadius: 6,
      borderRadiusLG: 8,
      colorPrimary: palette.selected,
      colorTextLightSolid: palette.onSelected,
      colorInfo: palette.selected,
      colorLink: palette.ink,
      colorSuccess: palette.good,
      colorWarning: palette.caution,
      colorError: palette.bad,
      colorBgBase: palette.panel,
      colorBgContainer: palette.panel,
      colorBgElevated: palette.panel,
      colorBgLayout: palette.paper,
      colorTextBase: palette.ink,
      colorTextSecondary: palette.second,
      colorTextTertiary: palette.second,
      colorTextDescription: palette.second,
      colorTextPlaceholder: palette.second,
      colorBorder: palette.line,
      colorBorderSecondary: palette.line,
      boxShadow: "none",
      boxShadowTertiary: "none",
      motionDurationMid: "0.1s",
      motionDurationSlow: "0.15s",
    },
    components: {
      Slider: {
        railBg: palette.line,
        railHoverBg: palette.line,
        trackBg: palette.selected,
        trackHoverBg: palette.selected,
        handleColor: palette.selected,
        handleActiveColor: palette.selected,
      },
      Button: { primaryShadow: "none", defaultShadow: "none", fontWeight: 500 },
      Segmented: {
        itemSelectedBg: palette.selected,
        itemSelectedColor: palette.onSelected,
        trackBg: palette.paper,
      },
    },
  };
}
