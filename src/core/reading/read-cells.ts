import { type Colour, isColour, nearestColour } from "../model/colours";
import { plain } from "../model/families";
import type { MicrophoneChoice } from "../model/microphone-choice";
import type { Rig } from "../model/rig";
import { GAIN_DB } from "../model/tables/lines";
import { type Decibels, dB } from "../units/decibels";
import { readAnswer } from "./answers";
import { microphoneType } from "./microphone-type";
import { readPlaces } from "./places";

/** Phantom in its usual forms; an empty cell or a dash is off. Null when the word or sign says neither. */
export const readPhantom = (cell: string): boolean | null => {
  const answer = readAnswer(cell);
  return answer === "yes" ? true : answer === "no" ? false : null;
};

/**
 * The inputs of one track that a cell names, one or two: "7", "7-8", "7/8", "7 + 8", "E5", "E5-6", "E5-E6", "In 7". Null
 * when it can't be read, or names more.
 */
export const readInputs = (cell: string): readonly string[] | null => {
  const places = readPlaces(cell);
  return places && places.labels.length <= 2 ? places.labels : null;
};

/** A microphone by its name: from the shelf when the rig has one called so, else named with the kind its name tells. */
export const readMicrophone = (rig: Rig, cell: string): MicrophoneChoice | null => {
  const name = cell.trim();
  if (!name) return null;
  const item = Object.values(rig.microphones).find((candidate) => plain(candidate.name) === plain(name));
  return item
    ? { kind: "shelf", microphoneId: item.id, name: item.name }
    : { kind: "named", name, type: microphoneType(name) };
};

/** How far a hex colour may be from a dye (OKLab distance) and still be that dye without a guess. */
const SAME_COLOUR = 0.02;

/** Colours as lists name them, in English, German and French, as they look on paper. */
const COLOUR_NAMES: ReadonlyMap<string, string> = new Map(
  (
    [
      ["#d03030", "red rot rouge"],
      ["#e07a1f", "orange"],
      ["#c8a800", "yellow gelb jaune gold"],
      ["#5f9a2f", "green grun vert"],
      ["#2f9a8a", "teal turquoise turkis petrol"],
      ["#20a0d0", "cyan light blue hellblau bleu clair"],
      ["#3050b0", "blue blau bleu navy dunkelblau"],
      ["#8548ac", "purple violet violett lila pourpre"],
      ["#b83068", "pink magenta rosa rose"],
      ["#6a4630", "brown braun brun marron"],
      ["#707880", "grey gray grau gris"],
    ] as const
  ).flatMap(([hex, names]) => [...names.split(" "), names].map((name) => [name, hex] as const)),
);

/** A colour by dye name or hex; null when it is neither. A hex that is no dye of ours is taken as the nearest one. */
export const readColour = (cell: string): { readonly colour: Colour; readonly exact: boolean } | null => {
  const word = cell.trim().toLowerCase();
  if (/^own-[a-z0-9-]{1,40}$/.test(word)) return { colour: word as Colour, exact: true };
  if (isColour(word)) return { colour: word, exact: true };
  const named = COLOUR_NAMES.get(plain(word));
  if (named) return { colour: nearestColour(named).colour, exact: false };
  const hex = /^#?([0-9a-f]{6}|[0-9a-f]{3})$/.exec(word)?.[1];
  if (!hex) return null;
  const full = hex.length === 3 ? [...hex].map((digit) => digit + digit).join("") : hex;
  const { colour, distance } = nearestColour(`#${full}`);
  return { colour, exact: distance < SAME_COLOUR };
};

/** Mono or stereo; null when the word says neither. */
export const readLayout = (cell: string): "mono" | "stereo" | null => {
  const word = plain(cell);
  if (["stereo", "st", "2", "pair"].includes(word)) return "stereo";
  return ["", "mono", "m", "1"].includes(word) ? "mono" : null;
};

/**
 * A number of dB: "32", "32.5 dB", "−6", "+12,5". An empty cell is no gain. Null when it is no number, or none of the
 * range: for gains one that a preamp could have (−60 to 120).
 */
export const readDecibels = (
  cell: string,
  { min, max }: { readonly min: number; readonly max: number } = GAIN_DB,
): { readonly db: Decibels | null } | null => {
  const text = cell.trim().replace(/dB$/i, "").trimEnd().replace("−", "-").replace(",", ".");
  if (!text) return { db: null };
  const value = Number(text);
  return /^[+-]?\d+(\.\d+)?$/.test(text) && value >= min && value <= max ? { db: dB(value) } : null;
};
