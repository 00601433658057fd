import { theme, type ThemeConfig } from "antd";

import { PALETTES, type Mode } from "./palette";

const FONT = '"Atkinson Hyperlegible Next", sans-serif';

export function themeFor(mode: Mode): ThemeConfig {
  const palette = PALETTES[mode];
  return {
    zeroRuntime: true,
    algorithm: mode === "dark" ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: FONT,
      fontFamilyCode: "var(--readings)",
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
      // Where app.css takes all transitions away, nobody may wait for the end of one.
      motion: !matchMedia("(prefers-reduced-motion: reduce)").matches,
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
