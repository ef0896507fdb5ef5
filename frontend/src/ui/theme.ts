// The look's colours and sizes, once: as Ant Design theme tokens and as CSS variables. No colour stands anywhere else.
import { type ThemeConfig, theme } from "antd";

type Tokens = Record<
  | "paper"
  | "surface"
  | "well"
  | "ink"
  | "ink2"
  | "line"
  | "edge"
  | "harbour"
  | "harbourTint"
  | "signal"
  | "signalTint"
  | "ok"
  | "okTint"
  | "bad"
  | "badTint"
  | "hold"
  | "onDark"
  | "dark"
  | "trayInk"
  | "pageInk"
  | "pageWhite",
  string
>;

export const light: Tokens = {
  paper: "#f6f3ec",
  surface: "#fffdf9",
  well: "#e9e4d8",
  ink: "#1d2930",
  ink2: "#5a666c",
  line: "#d8d2c4",
  edge: "#857f70",
  harbour: "#0e5c60",
  harbourTint: "#e0edec",
  signal: "#a8480c",
  signalTint: "#fae9dc",
  ok: "#3c682d",
  okTint: "#e4eedf",
  bad: "#98182c",
  badTint: "#f7e0e2",
  hold: "#5b4a86",
  onDark: "#fffdf9",
  dark: "#1d2930",
  trayInk: "#fffdf9",
  pageInk: "#1d2930",
  pageWhite: "#ffffff",
};

export const dark: Tokens = {
  paper: "#171d20",
  surface: "#1e262a",
  well: "#101517",
  ink: "#ece7db",
  ink2: "#a5aeb0",
  line: "#38434a",
  edge: "#7d8a90",
  harbour: "#5fb3b3",
  harbourTint: "#1f3a3c",
  signal: "#e69a63",
  signalTint: "#40291a",
  ok: "#93c47e",
  okTint: "#24361d",
  bad: "#f08a97",
  badTint: "#47202a",
  hold: "#b3a1de",
  onDark: "#101517",
  dark: "#0b0f11",
  trayInk: "#ece7db",
  pageInk: "#1d2930",
  pageWhite: "#ffffff",
};

const TEXT = '"Atkinson Hyperlegible", system-ui, sans-serif';

/** Write the tokens of one scheme as CSS variables on the page. */
export function applyTokens(tokens: Tokens): void {
  for (const [name, value] of Object.entries(tokens)) {
    document.documentElement.style.setProperty(`--${name.replace(/[A-Z0-9]/g, (c) => `-${c.toLowerCase()}`)}`, value);
  }
}

/** Ant Design's theme from the same tokens; in the dark by its own algorithm under them. */
export function antTheme(tokens: Tokens, isDark: boolean): ThemeConfig {
  return {
    algorithm: isDark ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: tokens.harbour,
      colorText: tokens.ink,
      colorTextSecondary: tokens.ink2,
      colorTextPlaceholder: tokens.ink2,
      colorBgContainer: tokens.surface,
      colorBgElevated: tokens.surface,
      colorBgLayout: tokens.paper,
      colorBorder: tokens.edge,
      colorBorderSecondary: tokens.line,
      colorError: tokens.bad,
      colorWarning: tokens.signal,
      colorSuccess: tokens.ok,
      colorInfo: tokens.harbour,
      colorErrorBg: tokens.badTint,
      colorErrorBorder: tokens.bad,
      colorWarningBg: tokens.signalTint,
      colorWarningBorder: tokens.signal,
      colorInfoBg: tokens.harbourTint,
      colorInfoBorder: tokens.harbour,
      colorSuccessBg: tokens.okTint,
      colorSuccessBorder: tokens.ok,
      colorLink: tokens.harbour,
      colorTextLightSolid: tokens.onDark,
      colorTextDescription: tokens.ink2,
      colorTextDisabled: tokens.ink2,
      // the arrows of lists
      colorTextQuaternary: tokens.ink2,
      controlItemBgActive: tokens.harbourTint,
      controlItemBgHover: tokens.harbourTint,
      borderRadius: 2,
      borderRadiusLG: 2,
      borderRadiusSM: 2,
      fontFamily: TEXT,
      fontSize: 14,
      controlHeight: 30,
      boxShadow: "none",
      boxShadowSecondary: `0 0 0 1px ${tokens.ink}`,
      boxShadowTertiary: "none",
      motion: false,
      linkDecoration: "underline",
      linkHoverDecoration: "underline",
      linkFocusDecoration: "underline",
      wireframe: true,
    },
    components: {
      Button: {
        primaryShadow: "none",
        defaultShadow: "none",
        fontWeight: 700,
        defaultBorderColor: tokens.ink,
        defaultColor: tokens.ink,
        defaultHoverBg: tokens.harbourTint,
        defaultHoverColor: tokens.ink,
        defaultHoverBorderColor: tokens.ink,
        paddingInline: 12,
        paddingInlineSM: 9,
        textHoverBg: tokens.harbourTint,
        textTextColor: tokens.ink,
      },
      Segmented: {
        trackBg: "transparent",
        trackPadding: 0,
        itemColor: tokens.ink2,
        itemHoverBg: tokens.harbourTint,
        itemSelectedBg: tokens.harbourTint,
        itemSelectedColor: tokens.ink,
      },
      Modal: { contentBg: tokens.surface, headerBg: tokens.surface, titleFontSize: 16 },
      Tree: { titleHeight: 27, indentSize: 15, nodeHoverBg: "transparent", nodeSelectedBg: "transparent" },
      Splitter: { splitBarSize: 1, splitTriggerSize: 9, splitBarDraggableSize: 24 },
      Dropdown: { paddingBlock: 5 },
      Table: {
        headerBg: "transparent",
        colorBgContainer: "transparent",
        headerColor: tokens.ink2,
        headerSplitColor: "transparent",
        rowHoverBg: tokens.harbourTint,
        cellPaddingInlineSM: 10,
        cellPaddingBlockSM: 6,
      },
    },
  };
}
