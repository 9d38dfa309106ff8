import { type Contribution, contributorsTo, contributorsToCue, type MixLevels } from "../levels/mix-levels";
import { likelyPeakDb, louderSide, type Sides, worstPeakDb } from "../levels/sides";
import type { Colour } from "../model/colours";
import type { ChannelId, CueId } from "../model/ids";
import { isParked } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Output } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { cuesOf } from "../queries/cues";
import { graphOf, intoOf } from "../routing/graph";
import { channelColour } from "./channel-colour";
import { layoutRows } from "./rows";

/** How loud a bus, the main bus or a cue comes to, the louder side of each figure, in dB; null where it is silent. */
export interface HeadroomRow {
  readonly id: string;
  readonly what: { readonly kind: "channel"; readonly id: ChannelId } | { readonly kind: "cue"; readonly id: CueId };
  readonly name: string;
  readonly colour: Colour | null;
  readonly alikeDb: number | null;
  readonly unlikeDb: number | null;
  /** Where peaks stand if all of it comes at once and alike, and if it does not. */
  readonly worstPeakDb: number | null;
  readonly likelyPeakDb: number | null;
  /** Up to full scale, from the worst peak: negative beyond it. */
  readonly headroomDb: number | null;
  readonly sides: Sides;
}

const rowOf = (
  sides: Sides,
): Pick<HeadroomRow, "alikeDb" | "unlikeDb" | "worstPeakDb" | "likelyPeakDb" | "headroomDb" | "sides"> => {
  const worst = worstPeakDb(sides);
  return {
    alikeDb: louderSide(sides, ({ alikeDb }) => alikeDb),
    unlikeDb: louderSide(sides, ({ unlikeDb }) => unlikeDb),
    worstPeakDb: worst,
    likelyPeakDb: likelyPeakDb(sides),
    headroomDb: worst === null ? null : -worst,
    sides,
  };
};

/** Buses go into one another no further than this. */
const MOST_DEEP = 1024;

/** Where a bus stands in the input list: at the first track that comes to it. */
const firstIn = (doc: Template): ReadonlyMap<ChannelId, number> => {
  const graph = graphOf(doc);
  const first = new Map<ChannelId, number>();
  let at = 0;
  for (const row of layoutRows(doc, { unfold: true })) {
    if (row.kind !== "track") continue;
    at++;
    // Up to what is known already: what comes after it is known as well.
    let id: ChannelId | null = row.id;
    for (let step = 0; id && step <= MOST_DEEP; step++) {
      const output: Output | undefined = graph.channels[id]?.output;
      id = output?.kind === "channel" ? output.channelId : null;
      if (!id || first.has(id)) break;
      first.set(id, at);
    }
  }
  return first;
};
/**
 * Every sum that something goes into, after trim, chain and fader, and every cue: buses in the order of the input list,
 * returns by name, the main bus, then cues.
 */
export const headroomRows = (doc: Template, { levels }: { readonly levels: MixLevels }): readonly HeadroomRow[] => {
  const graph = graphOf(doc);
  const first = firstIn(doc);
  /** Buses that no track comes to stand behind the others. */
  const place = ({ kind, id }: Channel): number => (kind === "bus" ? (first.get(id) ?? Number.MAX_SAFE_INTEGER) : 0);
  const rank = ({ kind }: Channel): number => ["bus", "return", "main"].indexOf(kind);
  const sums = entriesOf<Channel>(doc.channels)
    .filter((channel) => rank(channel) >= 0 && !isParked(channel) && intoOf(graph, channel.id).length > 0)
    .sort((a, b) => rank(a) - rank(b) || place(a) - place(b) || a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1));
  return [
    ...sums.flatMap((channel): readonly HeadroomRow[] => {
      const at = levels.channels.get(channel.id);
      return at
        ? [
            {
              id: channel.id,
              what: { kind: "channel", id: channel.id },
              name: channel.name,
              colour: channelColour(doc, channel),
              ...rowOf(at.after),
            },
          ]
        : [];
    }),
    ...cuesOf(doc).flatMap((cue): readonly HeadroomRow[] => {
      const sides = levels.cues.get(cue.id);
      return sides
        ? [
            {
              id: cue.id,
              what: { kind: "cue", id: cue.id },
              name: cue.name,
              colour: cue.colour,
              ...rowOf(sides),
            },
          ]
        : [];
    }),
  ];
};

export interface Contributor {
  readonly sourceId: ChannelId;
  readonly name: string;
  readonly by: Contribution["by"];
  readonly db: number;
}

/** What contributes most to a row, the loudest first, by the louder side. */
export const contributorsOf = (
  doc: Template,
  { levels, row }: { readonly levels: MixLevels; readonly row: HeadroomRow },
  most = 8,
): readonly Contributor[] => {
  const all =
    row.what.kind === "cue" ? contributorsToCue(levels, row.what.id) : contributorsTo(doc, levels, row.what.id);
  return all.slice(0, most).map(({ sourceId, by, sides }) => ({
    sourceId,
    by,
    name: doc.channels[sourceId]?.name || "a channel without a name",
    db: louderSide(sides, ({ alikeDb }) => alikeDb) ?? -120,
  }));
};
