/**
 * The dyes of the house, in the order in which they are offered. The hex values are those of the surfaces cloth and
 * night.
 */
export const COLOURS = {
  madder: { cloth: "#ca4137", night: "#f7796b" },
  cochineal: { cloth: "#b12f61", night: "#df688e" },
  saffron: { cloth: "#ce6d16", night: "#fba05f" },
  weld: { cloth: "#a58c0d", night: "#d2bc5e" },
  ochre: { cloth: "#926929", night: "#be9760" },
  lichen: { cloth: "#67932c", night: "#96c168" },
  verdigris: { cloth: "#2f9074", night: "#6cbda2" },
  woad: { cloth: "#2092be", night: "#68c1ea" },
  indigo: { cloth: "#3752ae", night: "#6381d7" },
  logwood: { cloth: "#8548ac", night: "#b07ad7" },
  walnut: { cloth: "#664432", night: "#906f5e" },
  slate: { cloth: "#69737d", night: "#96a0a9" },
} as const;

export type ColourName = keyof typeof COLOURS;
/** A dye that the studio added to those of the house; its colours are kept in the studio. */
export type OwnColourId = `own-${string}`;
export type Colour = ColourName | OwnColourId;

export const COLOUR_NAMES = Object.keys(COLOURS) as readonly ColourName[];

interface OnBoth {
  readonly id: OwnColourId;
  readonly cloth: string;
  readonly night: string;
}

/** Ground and raised of both surfaces: what threads lie on. */
export const THREAD_GROUNDS = { cloth: ["#faf7f1", "#ffffff"], night: ["#12171d", "#1a212a"] } as const;

export type Surface = keyof typeof THREAD_GROUNDS;

/**
 * The id of an own colour, and what a colour may be: one of the house or an own one; null where it is that of the
 * folder.
 */
export const OWN_COLOUR_ID = { type: "string", pattern: "^own-[a-z0-9-]{1,40}$" };
export const COLOUR = { anyOf: [{ enum: COLOUR_NAMES }, OWN_COLOUR_ID] };
export const COLOUR_OR_NULL = { anyOf: [...COLOUR.anyOf, { type: "null" }] };

export const isColour = (value: unknown): value is ColourName =>
  typeof value === "string" && Object.hasOwn(COLOURS, value);

/** What a thread without a dye of its own or of its folder is drawn in. */
export const UNCOLOURED: ColourName = "slate";

/** The colour of a dye on a surface; an own dye that this studio does not know is shown undyed. */
export const colourHex = (colour: Colour, surface: Surface, own: readonly OnBoth[] = []): string =>
  isColour(colour)
    ? COLOURS[colour][surface]
    : (own.find((candidate) => candidate.id === colour)?.[surface] ?? COLOURS[UNCOLOURED][surface]);

type Triple = readonly [number, number, number];

/** sRGB hex to linear light, 0..1 each (IEC 61966-2-1). */
export const toLinear = (hex: string): Triple => {
  const channel = (at: number) => {
    const value = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  };
  return [channel(1), channel(3), channel(5)];
};

/**
 * Contrast of two colours by WCAG 2: (lighter + 0.05) / (darker + 0.05) of relative luminance, 1 to 21. @example
 * contrast("#000000", "#ffffff") // 21
 */
export const contrast = (a: string, b: string): number => {
  const luminance = (hex: string) => {
    const [r, g, blue] = toLinear(hex);
    return 0.2126 * r + 0.7152 * g + 0.0722 * blue;
  };
  const [x, y] = [luminance(a), luminance(b)];
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
};

/** The least a dye must stand out from what it lies on (WCAG 2, 1.4.11). */
const LEAST_CONTRAST = 3;

/** Why a colour can't be a dye on a surface; null when it can. Every dye has 3:1 or more against ground and raised. */
export const colourFault = (hex: string, surface: Surface): string | null => {
  if (!/^#[0-9a-f]{6}$/i.test(hex)) return "Type a colour as # and six digits, such as #7a5c99.";
  const worst = Math.min(...THREAD_GROUNDS[surface].map((ground) => contrast(hex, ground)));
  return worst >= LEAST_CONTRAST
    ? null
    : `It has ${worst.toFixed(1)} : 1 against ${surface}, and a thread needs 3 : 1. Make it ${surface === "cloth" ? "darker" : "lighter"}.`;
};

/** Linear light to OKLab (B. Ottosson's published matrices): L 0..1, a and b about −0.4..0.4. */
export const linearToOklab = ([r, g, b]: Triple): Triple => {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
};

const toOklab = (hex: string): Triple => linearToOklab(toLinear(hex));

/**
 * The dye nearest to a colour: smallest Euclidean distance in OKLab to a dye as it looks on cloth. `hex` is `#rrggbb`;
 * answers the distance as well (0 for the dye itself, about 1 from black to white).
 * @example nearestDye("#ff0000").dye // "madder"
 */
export const nearestColour = (hex: string): { readonly colour: ColourName; readonly distance: number } => {
  const [l, a, b] = toOklab(hex.toLowerCase());
  const ranked = COLOUR_NAMES.map((colour) => {
    const [dl, da, db] = toOklab(COLOURS[colour].cloth);
    return { colour, distance: Math.hypot(l - dl, a - da, b - db) };
  }).sort((x, y) => x.distance - y.distance);
  return ranked[0] ?? { colour: UNCOLOURED, distance: 1 };
};
