/** The dyes of the house, in the order in which they are offered. The hex values are those of the surfaces cloth and night. */
export const DYES = {
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

export type Dye = keyof typeof DYES;

export const DYE_NAMES = Object.keys(DYES) as readonly Dye[];

export const isDye = (value: unknown): value is Dye => typeof value === "string" && Object.hasOwn(DYES, value);

/** What a thread without a dye of its own or of its folder is drawn in. */
export const UNDYED: Dye = "slate";

type Triple = readonly [number, number, number];

/** sRGB hex to OKLab (B. Ottosson's published matrices): L 0..1, a and b about −0.4..0.4. */
const toOklab = (hex: string): Triple => {
  const channel = (at: number) => {
    const value = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  };
  const [r, g, b] = [channel(1), channel(3), channel(5)];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s, 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s, 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s];
};

/**
 * The dye nearest to a colour: smallest Euclidean distance in OKLab to a dye as it looks on cloth.
 * `hex` is `#rrggbb`; answers the distance as well (0 for the dye itself, about 1 from black to white).
 * @example nearestDye("#ff0000").dye // "madder"
 */
export const nearestDye = (hex: string): { readonly dye: Dye; readonly distance: number } => {
  const [l, a, b] = toOklab(hex.toLowerCase());
  const ranked = DYE_NAMES.map((dye) => {
    const [dl, da, db] = toOklab(DYES[dye].cloth);
    return { dye, distance: Math.hypot(l - dl, a - da, b - db) };
  }).sort((x, y) => x.distance - y.distance);
  return ranked[0] ?? { dye: UNDYED, distance: 1 };
};
