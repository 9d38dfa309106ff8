import { COLOUR_NAMES, COLOURS, contrast } from "@/core/model/colours";

/** The two surfaces. State colours on night differ from every dye there. */
const SURFACES = {
  cloth: {
    ground: "#faf7f1",
    raised: "#ffffff",
    sunk: "#f1ece2",
    ink: "#20272c",
    soft: "#5c656b",
    hairline: "#e2dbcd",
    act: "#0e5a7a",
    "act-ink": "#ffffff",
    "act-wash": "#e4edf1",
    problem: "#b3261e",
    "problem-wash": "#f9e7e3",
    hint: "#9a4b00",
    "hint-wash": "#f8ead7",
    well: "#1c7651",
  },
  night: {
    ground: "#12171d",
    raised: "#1a212a",
    sunk: "#0e1217",
    ink: "#e9e6df",
    soft: "#a6adb5",
    hairline: "#2a333d",
    act: "#9ad4f5",
    "act-ink": "#0e1217",
    "act-wash": "#22303b",
    problem: "#ff9a90",
    "problem-wash": "#3a2426",
    hint: "#ffc48a",
    "hint-wash": "#382b1d",
    well: "#8fd6b4",
  },
} as const;

/** What is written on dyes: the darker or the lighter, whichever can be read better there. */
const ON_DYE = ["#14191d", "#ffffff"] as const;

/** The variables of a dye: itself, and what is written on it. */
export const dyed = (id: string, hex: string): readonly (readonly [string, string])[] => {
  const [dark, light] = ON_DYE;
  return [
    [`--dye-${id}`, hex],
    [`--on-${id}`, contrast(hex, light) >= 4.5 ? light : contrast(hex, dark) >= contrast(hex, light) ? dark : light],
  ];
};

const variables = (surface: keyof typeof SURFACES): Record<string, string> => ({
  ...Object.fromEntries(Object.entries(SURFACES[surface]).map(([name, value]) => [`--${name}`, value])),
  ...Object.fromEntries(COLOUR_NAMES.flatMap((colour) => dyed(colour, COLOURS[colour][surface]))),
});

export const CLOTH = variables("cloth");
export const NIGHT = variables("night");

/** A dye as a CSS value that follows the surface. */
export const dyeVar = (colour: string): string =>
  colour.startsWith("own-") ? `var(--dye-${colour}, var(--dye-slate))` : `var(--dye-${colour})`;
/** What is written on a dye. */
export const onDyeVar = (colour: string): string =>
  colour.startsWith("own-") ? `var(--on-${colour}, var(--on-slate))` : `var(--on-${colour})`;
