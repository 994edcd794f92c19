/** All colours and measures of the look, for both schemes. CSS gets them as variables, Ant Design as tokens. */
import { theme, ThemeConfig } from "antd";

export type Scheme = "light" | "dark";

interface Palette {
  ground: string;
  surface: string;
  raised: string;
  ink: string;
  soft: string;
  faint: string;
  line: string;
  lineStrong: string;
  primary: string;
  onPrimary: string;
  rail: string;
  railInk: string;
  /** What stands out on the rail. */
  railBright: string;
  railTint: string;
  mustard: string;
  mustardHover: string;
  /** What is raised on a piece, as drawn. */
  raisedMark: string;
  onMustard: string;
  good: string;
  bad: string;
  trace: string;
  traceSecond: string;
  tint: string;
  /** The part of a piece below its bands. */
  base: string;
}

/** Porcelain ground, aubergine ink and primary, mustard for the one thing that matters. */
export const palettes: Record<Scheme, Palette> = {
  light: {
    ground: "#F7F3EC",
    surface: "#FFFDF9",
    raised: "#FFFFFF",
    ink: "#2B1B29",
    soft: "#5A4956",
    faint: "#6F5F6B",
    line: "#E3DACD",
    lineStrong: "#BFAF9F",
    primary: "#4A1F42",
    onPrimary: "#FFF7E8",
    rail: "#35172F",
    railInk: "#E3D3DD",
    railBright: "#FFF7E8",
    railTint: "#FFFFFF17",
    mustard: "#E0A526",
    mustardHover: "#EDB53C",
    raisedMark: "#FFFDF9",
    onMustard: "#2B1B29",
    good: "#6F8442",
    bad: "#A8323A",
    trace: "#B1476A",
    traceSecond: "#5F6F32",
    tint: "#F1E9EE",
    base: "#4A1F42",
  },
  dark: {
    ground: "#1A1118",
    surface: "#241822",
    raised: "#2E202B",
    ink: "#F4EAF0",
    soft: "#CDBCC8",
    faint: "#B3A0AE",
    line: "#43323F",
    lineStrong: "#6E5A69",
    primary: "#D7B0CD",
    onPrimary: "#2B1327",
    rail: "#120A11",
    railInk: "#D9C6D3",
    railBright: "#FFF7E8",
    railTint: "#FFFFFF17",
    mustard: "#E0A526",
    mustardHover: "#EDB53C",
    raisedMark: "#FFFDF9",
    onMustard: "#2B1B29",
    good: "#A3B86F",
    bad: "#F08A86",
    trace: "#E58BA8",
    traceSecond: "#B4C67E",
    tint: "#33232F",
    base: "#76506C",
  },
};

/** Colours for values along the height, highest first: perceptually even, from mustard to aubergine. */
export const ramp = ["#F2B84B", "#E8964F", "#D9745A", "#BF5A6B", "#9C4B78", "#77437C", "#54407A"];

/** Mixes two `#rrggbb` colours: `share` of the second. */
export function mixColours(first: string, second: string, share: number): string {
  const channel = (colour: string, at: number) => parseInt(colour.slice(1 + at * 2, 3 + at * 2), 16);
  const mixed = [0, 1, 2].map((at) =>
    Math.round(channel(first, at) + (channel(second, at) - channel(first, at)) * share),
  );
  return `#${mixed.map((value) => value.toString(16).padStart(2, "0")).join("")}`;
}

/** The ramp's colour at `share` (0 = lowest value, 1 = highest). */
export function rampColour(share: number): string {
  const place = (1 - Math.min(1, Math.max(0, share))) * (ramp.length - 1);
  const low = Math.floor(place);
  const high = Math.min(ramp.length - 1, low + 1);
  return mixColours(ramp[low], ramp[high], place - low);
}

export const fonts = {
  heading: '"Bricolage Grotesque Variable", "Bricolage near", "Figtree Variable", "Figtree near", sans-serif',
  text: '"Figtree Variable", "Figtree near", system-ui, sans-serif',
  mono: '"JetBrains Mono Variable", "JetBrains near", ui-monospace, monospace',
};

/** The palette as CSS variables (`--ground`, `--on-primary`, …). */
export function cssVariables(scheme: Scheme): Record<string, string> {
  return Object.fromEntries(
    Object.entries(palettes[scheme]).map(([name, value]) => [
      `--${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`,
      value,
    ]),
  );
}

/** Ant Design's tokens for a scheme. */
export function antTheme(scheme: Scheme): ThemeConfig {
  const p = palettes[scheme];
  return {
    algorithm: scheme === "dark" ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: p.primary,
      colorInfo: p.primary,
      colorLink: p.primary,
      colorLinkHover: p.trace,
      colorSuccess: p.good,
      colorWarning: p.mustard,
      colorError: p.bad,
      colorBgBase: p.surface,
      // A button that is at work can still be read.
      opacityLoading: 0.9,
      colorBgLayout: p.ground,
      colorBgContainer: p.raised,
      colorBgElevated: p.raised,
      colorTextBase: p.ink,
      colorText: p.ink,
      colorTextSecondary: p.soft,
      colorTextTertiary: p.faint,
      colorTextDescription: p.soft,
      colorTextPlaceholder: p.faint,
      colorBorder: p.lineStrong,
      colorBorderSecondary: p.line,
      colorTextLightSolid: p.onPrimary,
      fontFamily: fonts.text,
      fontFamilyCode: fonts.mono,
      fontSize: 14,
      borderRadius: 8,
      controlHeight: 34,
      wireframe: false,
    },
    components: {
      Button: { fontWeight: 600, primaryShadow: "none", defaultShadow: "none" },
      Segmented: { itemSelectedBg: p.primary, itemSelectedColor: p.onPrimary, trackBg: p.surface },
      Table: { headerBg: "transparent", headerColor: p.soft, rowHoverBg: p.tint },
      Modal: { titleFontSize: 19 },
      Tooltip: { colorBgSpotlight: p.primary, colorTextLightSolid: p.onPrimary },
    },
  };
}
