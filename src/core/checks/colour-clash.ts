import { COLOUR_NAMES, type Colour, colourHex, linearToOklab, type Surface, toLinear } from "../model/colours";
import { perText } from "../model/per-document";
import { coloursByFolder, folderColour } from "../model/read-template";
import { colourName } from "../model/studio";
import { byOrder, entriesOf } from "../model/table";
import type { Folder } from "../model/tables/folders";
import type { OwnColour } from "../model/tables/own-colours";
import type { Template } from "../model/template";
import { type Check, type CheckContext, type Finding, finding } from "./finding";

type Matrix = readonly [number, number, number, number, number, number, number, number, number];

/**
 * Colour-vision deficiencies at full severity on linear sRGB: G. Machado, M. Oliveira and L. Fernandes, “A
 * physiologically-based model for simulation of color vision deficiency”, 2009, table for severity 1.0.
 */
const SIGHTS: readonly { readonly name: string; readonly matrix: Matrix | null }[] = [
  { name: "", matrix: null },
  {
    name: "protanopia",
    matrix: [0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998],
  },
  {
    name: "deuteranopia",
    matrix: [0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.01182, 0.04294, 0.968881],
  },
  {
    name: "tritanopia",
    matrix: [1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.3039],
  },
];

const seen = (hex: string, matrix: Matrix | null): readonly [number, number, number] => {
  const [r, g, b] = toLinear(hex);
  if (!matrix) return linearToOklab([r, g, b]);
  const clip = (value: number) => Math.min(1, Math.max(0, value));
  const row = (at: 0 | 3 | 6) => clip((matrix[at] ?? 0) * r + (matrix[at + 1] ?? 0) * g + (matrix[at + 2] ?? 0) * b);
  return linearToOklab([row(0), row(3), row(6)]);
};

/** A colour as each of the sights sees it, in OKLab: a template asks for the same few over and over. */
const seenByAll = perText((hex: string): readonly (readonly [number, number, number])[] =>
  SIGHTS.map(({ matrix }) => seen(hex, matrix)),
);

const SURFACES: readonly Surface[] = ["cloth", "night"];

/**
 * Below this distance in OKLab two thin threads side by side are taken for one: about twice what is just noticed on
 * large patches. Saffron and weld come to 0.005 with deuteranopia, madder and walnut never below 0.087.
 */
export const LEAST_DISTANCE = 0.04;

export interface Closeness {
  /** Smallest Euclidean distance in OKLab over both surfaces and all sights, 0 (alike) to about 1. */
  readonly distance: number;
  /** The sight in which they come that close; empty for usual colour vision. */
  readonly sight: string;
}

/**
 * How close two dyes come to each other on either surface, seen with usual colour vision and with the three common
 * deficiencies.
 * @example dyeCloseness("madder", "madder").distance // 0
 */
export const colourCloseness = (a: Colour, b: Colour, own: readonly OwnColour[] = []): Closeness => {
  let closest: Closeness = { distance: Number.POSITIVE_INFINITY, sight: "" };
  const views = SURFACES.map(
    (surface) => [seenByAll(colourHex(a, surface, own)), seenByAll(colourHex(b, surface, own))] as const,
  );
  for (const [at, { name }] of SIGHTS.entries())
    for (const [xs, ys] of views) {
      const [x, y] = [xs[at], ys[at]];
      if (!x || !y) continue;
      const distance = Math.hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2]);
      // The same trouble for everybody is told as such: a deficiency is named only where it makes the difference.
      if (distance < closest.distance && !(closest.sight === "" && closest.distance < LEAST_DISTANCE))
        closest = { distance, sight: name };
    }
  return closest;
};

const siblings = (doc: Template): readonly (readonly Folder[])[] => {
  const byParent = new Map<string, Folder[]>();
  for (const folder of entriesOf(doc.folders)) {
    const key = folder.parentId ?? "";
    const there = byParent.get(key);
    if (there) there.push(folder);
    else byParent.set(key, [folder]);
  }
  return [...byParent.values()].map((folders) => folders.sort(byOrder));
};

/** How two neighbours come to look alike, to follow their names in a sentence. */
const how = ([colour, other]: readonly [Colour, Colour], sight: string, own: readonly OwnColour[]): string => {
  if (colour === other) return ` and both are ${colourName(colour, own)}`;
  return `, and ${colourName(colour, own)} and ${colourName(other, own)} look alike${sight ? ` with ${sight}` : ""}`;
};

/**
 * The one dye in which the threads of a folder are seen; null when they have several, or it holds none and has no dye
 * of its own.
 */
const lookOf = (doc: Template, folder: Folder): Colour | null => {
  const colours = coloursByFolder(doc).get(folder.id);
  if (!colours) return folder.colour ? folderColour(doc, folder) : null;
  const [only, ...others] = colours;
  return others.length ? null : (only ?? null);
};

interface Neighbours {
  readonly folder: Folder;
  readonly before: Folder;
  readonly after: Folder | undefined;
}

const clash = ({ doc, ownColours = [] }: CheckContext, { folder, before, after }: Neighbours): Finding | null => {
  // Inner folders without a dye of their own are meant to look like the one they lie in.
  if (folder.parentId && (!folder.colour || !before.colour)) return null;
  const [own, other] = [lookOf(doc, folder), lookOf(doc, before)];
  if (!own || !other) return null;
  const pair = [own, other] as const;
  const { distance, sight } = colourCloseness(...pair, ownColours);
  if (distance >= LEAST_DISTANCE) return null;
  const others = [pair[1], ...(after ? [folderColour(doc, after)] : [])];
  const apart = (candidate: Colour) =>
    others.every((other) => colourCloseness(candidate, other, ownColours).distance >= LEAST_DISTANCE);
  const used = new Set(entriesOf(doc.folders).map((other) => folderColour(doc, other)));
  const better = COLOUR_NAMES.find((candidate) => !used.has(candidate) && apart(candidate)) ?? COLOUR_NAMES.find(apart);
  return finding("dye-clash", {
    severity: "hint",
    message: `${before.name} and ${folder.name} stand side by side${how(pair, sight, ownColours)}. Their threads can't be told apart.`,
    places: [
      { kind: "folder", id: folder.id, field: "colour" },
      { kind: "folder", id: before.id, field: "colour" },
    ],
    fixes: better
      ? [
          {
            label: `Dye ${folder.name} ${better}`,
            edits: [{ kind: "entries.set", table: "folders", ids: [folder.id], set: { colour: better } }],
          },
        ]
      : [],
  });
};

export const colourClash: Check = {
  id: "dye-clash",
  why: "Neighbouring folders whose threads look alike can't be told apart at a glance, and for some people never.",
  withoutRig: true,
  reads: [
    "channels.colour",
    "channels.folderId",
    "channels.kind",
    "channels.order",
    "folders.colour",
    "folders.order",
    "folders.parentId",
  ],
  check: (context) =>
    siblings(context.doc).flatMap((folders) =>
      folders.flatMap((folder, at) => {
        const before = folders[at - 1];
        return (before && clash(context, { folder, before, after: folders[at + 1] })) ?? [];
      }),
    ),
};
