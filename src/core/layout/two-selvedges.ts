import type { Change } from "../difference/change";
import type { Colour } from "../model/colours";
import type { LineId } from "../model/ids";
import { tracksByLine } from "../model/read-template";
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

type Entry = Readonly<Record<string, unknown>>;
const entryIn = (doc: Template, table: string, id: string): Entry | undefined =>
  (doc as unknown as Readonly<Record<string, Readonly<Record<string, Entry>>>>)[table]?.[id];

/** The tracks that an entry is of: itself, what takes it, what it is sent from or worked on. */
const tracksOf = (doc: Template, { table, entryId }: Change): readonly string[] => {
  if (table === "channels") return [entryId];
  if (table === "lines") return (tracksByLine(doc).get(entryId as LineId) ?? []).map(({ id }) => id);
  const entry = entryIn(doc, table, entryId);
  return [entry?.channelId, entry?.fromId].filter((id) => typeof id === "string");
};

/** Which tracks something of a change is about: the track itself, its line, what is sent from it or worked on it. */
const tracksTouched = (changes: readonly Change[], docs: readonly Template[]): ReadonlySet<string> =>
  new Set(
    changes
      .filter(({ kind, table }) => kind !== "moved" || table === "channels")
      .flatMap((change) => docs.flatMap((doc) => tracksOf(doc, change))),
  );

/**
 * Two documents as two selvedges with threads between: every track in its order on each side, those that both have with
 * a thread from its place here to its place there. Linear in tracks and differences.
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
