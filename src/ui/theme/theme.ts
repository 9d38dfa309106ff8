import { Button, type CSSVariablesResolver, createTheme, type MantineColorsTuple } from "@mantine/core";
import type { OwnColour } from "@/core/model/tables/own-colours";
import { CLOTH, dyed, NIGHT } from "./tokens";

/** Shade 6 is the accent on cloth, shade 3 on night. */
const act: MantineColorsTuple = [
  "#eef6fa",
  "#dcebf3",
  "#bfe0f2",
  "#9ad4f5",
  "#5fa6c6",
  "#2b7a9b",
  "#0e5a7a",
  "#0b4c68",
  "#093f56",
  "#072f40",
];

/** Mantine's own surfaces on night: popovers, dialogs, fields. */
const dark: MantineColorsTuple = [
  "#e9e6df",
  "#c9cdd2",
  "#a6adb5",
  "#7d8791",
  "#3a4650",
  "#2a333d",
  "#1a212a",
  "#161c24",
  "#12171d",
  "#0e1217",
];

export const theme = createTheme({
  primaryColor: "act",
  colors: { act, dark },
  primaryShade: { light: 6, dark: 3 },
  autoContrast: true,
  luminanceThreshold: 0.4,
  fontFamily: "'Archivo Variable', system-ui, sans-serif",
  fontFamilyMonospace: "'Spline Sans Mono Variable', ui-monospace, monospace",
  headings: { fontFamily: "'Archivo Variable', system-ui, sans-serif", fontWeight: "650" },
  fontSizes: { xs: "12px", sm: "13px", md: "14px", lg: "16px", xl: "20px" },
  defaultRadius: "md",
  cursorType: "pointer",
  respectReducedMotion: true,
  components: {
    Tooltip: { defaultProps: { openDelay: 400, withArrow: true, fz: 12 } },
    Modal: {
      defaultProps: {
        transitionProps: { duration: 0 },
        centered: true,
        closeButtonProps: { "aria-label": "Close" },
        attributes: { header: { role: "none" } },
      },
    },
    Notification: { defaultProps: { closeButtonProps: { "aria-label": "Dismiss" } } },
    // The accent is dark on cloth and light on night, so what stands on it changes with the surface.
    Button: Button.extend({
      defaultProps: { size: "sm" },
      vars: (_theme, { variant }) => ({
        root: variant === undefined || variant === "filled" ? { "--button-color": "var(--act-ink)" } : {},
      }),
    }),
    Menu: { defaultProps: { shadow: "md", transitionProps: { duration: 80 } } },
  },
});

const common = (tokens: Record<string, string>): Record<string, string> => ({
  ...tokens,
  "--mantine-color-body": tokens["--ground"] ?? "",
  "--mantine-color-text": tokens["--ink"] ?? "",
  "--mantine-color-dimmed": tokens["--soft"] ?? "",
  "--mantine-color-placeholder": tokens["--soft"] ?? "",
  "--mantine-color-error": tokens["--problem"] ?? "",
  "--mantine-color-default": tokens["--raised"] ?? "",
  "--mantine-color-default-color": tokens["--ink"] ?? "",
  "--mantine-color-default-border": tokens["--hairline"] ?? "",
  "--mantine-color-default-hover": tokens["--sunk"] ?? "",
  "--mantine-color-anchor": tokens["--act"] ?? "",
});

const own = (colours: readonly OwnColour[], surface: "cloth" | "night"): Record<string, string> =>
  Object.fromEntries(colours.flatMap((colour) => dyed(colour.id, colour[surface])));

/** The variables of both surfaces, with the dyes that the studio added. */
export const variablesWith =
  (colours: readonly OwnColour[]): CSSVariablesResolver =>
  () => ({
    variables: {},
    light: { ...common(CLOTH), ...own(colours, "cloth") },
    dark: { ...common(NIGHT), ...own(colours, "night") },
  });
