import type { Change } from "../difference/change";
import type { Colour } from "../model/colours";
import type { Template } from "../model/template";
import { layoutRows } from "./rows";

/** A track on one side of a difference. */
export interface Strand {
  readonly id: string;
  readonly name: string;
  readonly colour: Colour;
  /** Something of it or of what it takes differs. */
  readonly differs: boolean;
  /** It is on this side only. */
  readonly only: boolean;
}

/** A track on both sides: where it stands on each, counted from 0. */
export interface Between {
  readonly id: string;
  readonly colour: Colour;
  readonly from: number;
  readonly to: number;
  readonly differs: boolean;
}

export interface TwoSelvedges {
  readonly left: readonly Strand[];
  readonly right: readonly Strand[];
  readonly threads: readonly Between[];
}

/** Which tracks something of a change is about: the track itself, its line, what is sent from it or worked on it. */
const tracksTouched = (changes: readonly Change[], docs: readonly Template[]): ReadonlySet<string> => {
  const found = new Set<string>();
  for (const { table, entryId, kind } of changes) {
    if (kind === "moved" && table !== "channels") continue;
    for (const doc of docs) {
      const entry = (doc as unknown as Readonly<Record<string, Readonly<Record<string, Record<string, unknown>>>>>)[
        table
      ]?.[entryId];
      const owner = table === "channels" ? entryId : (entry?.channelId ?? entry?.fromId);
      if (typeof owner === "string") found.add(owner);
      if (table === "lines")
        for (const channel of Object.values(doc.channels))
          if (
            channel.kind === "track" &&
            ((channel.input.kind === "line" && channel.input.lineId === entryId) ||
              (channel.input.kind === "pair" &&
                (channel.input.leftId === entryId || channel.input.rightId === entryId)))
          )
            found.add(channel.id);
    }
  }
  return found;
};

/**
 * Two documents as two selvedges with threads between: every track in its order on each side, those that both have with
 * a thread from its place here to its place there. Linear in tracks, times the lines that differ.
 */
export const twoSelvedges = (here: Template, there: Template, changes: readonly Change[]): TwoSelvedges => {
  const touched = tracksTouched(changes, [here, there]);
  const tracks = (doc: Template) =>
    layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" ? [row] : []));
  const [left, right] = [tracks(here), tracks(there)];
  const seats = (rows: typeof left): ReadonlyMap<string, number> => new Map(rows.map(({ id }, at) => [String(id), at]));
  const [seatLeft, seatRight] = [seats(left), seats(right)];
  const strand =
    (other: ReadonlyMap<string, number>) =>
    (row: (typeof left)[number]): Strand => ({
      id: row.id,
      name: row.track.name || "a track without a name",
      colour: row.colour,
      differs: touched.has(row.id),
      only: !other.has(row.id),
    });
  return {
    left: left.map(strand(seatRight)),
    right: right.map(strand(seatLeft)),
    threads: right.flatMap((row) => {
      const from = seatLeft.get(row.id);
      return from === undefined
        ? []
        : [{ id: row.id, colour: row.colour, from, to: seatRight.get(row.id) ?? 0, differs: touched.has(row.id) }];
    }),
  };
};
