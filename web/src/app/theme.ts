/** Colours, type and spacing of the whole product: chart paper, deep water, clay and brass. */
import "@fontsource-variable/atkinson-hyperlegible-next/index.css";
import { createTheme } from "@mui/material/styles";

const LIGHT = {
  bar: "#132f2f",
  onBar: "#f3ecd9",
  paper: "#fbf8ef",
  sheet: "#f3eddc",
  rail: "#e9e1cd",
  rule: "#d5cab0",
  ink: "#16302f",
  faint: "#5b655c",
  land: "#e9eedd",
  ground: "#d8cda9",
  groundEdge: "#7d6a42",
  water: "#5aa3b0",
  deep: "#0b6170",
  enough: "#0b6170",
  some: "#2f7553",
  little: "#8a5708",
  short: "#a4371a",
  pipe: "#b79f68",
  fitting: "#7d6532",
};

const DARK: typeof LIGHT = {
  bar: "#0c1d1e",
  onBar: "#efe6cf",
  paper: "#142526",
  sheet: "#1a2f30",
  rail: "#10201f",
  rule: "#3a5251",
  ink: "#ece5d2",
  faint: "#a9b5ab",
  land: "#1d3531",
  ground: "#4b4630",
  groundEdge: "#b7a473",
  water: "#2f7a88",
  deep: "#6fc3d0",
  enough: "#6fc3d0",
  some: "#7fc79f",
  little: "#e0ac52",
  short: "#f0907a",
  pipe: "#a28d59",
  fitting: "#c9aa63",
};

export type InkName = keyof typeof LIGHT;

declare module "@mui/material/styles" {
  interface Palette {
    chart: typeof LIGHT;
  }
  interface PaletteOptions {
    chart?: typeof LIGHT;
  }
}

/** Return a colour for drawing, as the variable that follows light and dark. */
export const ink = (name: InkName): string => `var(--lm-palette-chart-${name})`;

/** How what has the keyboard's focus is drawn. */
export const FOCUSED = { outline: `2px solid ${ink("deep")}`, outlineOffset: 1 };

const scheme = (chart: typeof LIGHT) => ({
  palette: {
    chart,
    primary: { main: chart.deep },
    error: { main: chart.short },
    warning: { main: chart.little },
    success: { main: chart.enough },
    background: { default: chart.paper, paper: chart.sheet },
    text: { primary: chart.ink, secondary: chart.faint },
    divider: chart.rule,
  },
});

/** The least height of what is pressed: with a mouse, and with a finger on a phone. */
const POINTER_PX = 26;
const FINGER_PX = 44;
const PHONE = "@media (max-width: 899.95px)"; // below the breakpoint md

export const theme = createTheme({
  cssVariables: { cssVarPrefix: "lm", colorSchemeSelector: "data-scheme" },
  colorSchemes: { light: scheme(LIGHT), dark: scheme(DARK) },
  spacing: 4,
  shape: { borderRadius: 3 },
  typography: {
    fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif',
    fontSize: 13,
    button: { textTransform: "none", fontWeight: 600 },
    h1: { fontSize: 22, fontWeight: 700 },
    h2: { fontSize: 14, fontWeight: 700 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: "tabular-nums" },
        "@media print": {
          ":root, [data-scheme]": Object.fromEntries(
            Object.entries(LIGHT).map(([name, colour]) => [`--lm-palette-chart-${name}`, colour]),
          ),
          body: { backgroundColor: "#fff", printColorAdjust: "exact" },
          ".not-printed": { display: "none !important" },
        },
        ":focus-visible": FOCUSED,
        summary: { minHeight: POINTER_PX, [PHONE]: { minHeight: FINGER_PX, paddingTop: 12 } },
      },
    },
    // said again here: the library's own rule for its buttons draws no outline, and comes later than the one above
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: { root: { "&:focus-visible": FOCUSED } },
    },
    MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: "none" } } },
    MuiButton: {
      defaultProps: { disableElevation: true, size: "small" },
      styleOverrides: {
        root: { minHeight: POINTER_PX, [PHONE]: { minHeight: FINGER_PX, minWidth: FINGER_PX } },
      },
    },
    MuiToggleButton: { styleOverrides: { root: { [PHONE]: { minHeight: FINGER_PX } } } },
    MuiTab: { styleOverrides: { root: { [PHONE]: { minHeight: FINGER_PX } } } },
    MuiInput: { styleOverrides: { root: { [PHONE]: { minHeight: 32 } } } }, // with its label, as high as a finger
  },
});
