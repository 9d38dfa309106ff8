import { carriesBack } from "../levels/far-back";
import type { Colour } from "../model/colours";
import type { ChannelId } from "../model/ids";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { cueOutputText } from "../queries/cue-outputs";
import { cuesOf, levelsOfCue, ownTracksOf } from "../queries/cues";
import { sumsOf } from "../queries/outputs";
import type { Hearing, OwnPath, Timeliness } from "../timing/hearing";
import { channelColour } from "./channel-colour";
import { layoutRows } from "./rows";

export type CueRow =
  | {
      readonly kind: "group";
      readonly id: string;
      readonly name: string;
      readonly colour: Colour | null;
      readonly depth: number;
      readonly sourceIds: readonly ChannelId[];
      readonly open: boolean;
    }
  | {
      readonly kind: "source";
      readonly id: ChannelId;
      readonly name: string;
      readonly colour: Colour | null;
      readonly depth: number;
      readonly parked: boolean;
    };

const sourceRow = (doc: Template, channel: Channel, depth: number): CueRow => ({
  kind: "source",
  id: channel.id,
  name: channel.name,
  colour: channelColour(doc, channel),
  depth,
  parked: channel.kind !== "main" && channel.parked,
});

interface Group {
  readonly id: string;
  readonly name: string;
  readonly channels: readonly Channel[];
}

/**
 * What stands below the tracks: groups of channels that lie in no folder. Buses and the main bus are shown where a cue
 * carries one, or when they are asked for.
 */
const groupsBelow = (doc: Template, withBuses: boolean): readonly Group[] => {
  const all = entriesOf<Channel>(doc.channels);
  const of = (...kinds: readonly Channel["kind"][]) =>
    all
      .filter(({ kind }) => kinds.includes(kind))
      .sort((a, b) => a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1));
  const carried = new Set<string>(
    cuesOf(doc).flatMap(({ id }) => levelsOfCue(doc, id).map(({ sourceId }) => sourceId)),
  );
  const buses = [...sumsOf(doc).filter(({ kind }) => kind === "bus"), ...of("main")].filter(
    ({ id }) => withBuses || carried.has(id),
  );
  return [
    { id: "played", name: "Instruments and references", channels: of("instrument", "reference") },
    { id: "returns", name: "Returns", channels: of("return") },
    { id: "buses", name: "Buses", channels: buses },
    { id: "beside", name: "Talkback and click", channels: of("talkback", "click") },
  ].filter(({ channels }) => channels.length > 0);
};

/** The tracks by their folders; each folder knows all that lies in it, however deep. */
const folderRows = (doc: Template, folded: ReadonlySet<string>): readonly CueRow[] => {
  const rows: CueRow[] = [];
  /** The folders that the row lies in, outermost first. */
  const way: { readonly depth: number; readonly sourceIds: ChannelId[]; readonly hides: boolean }[] = [];
  for (const row of layoutRows(doc, { unfold: true })) {
    while ((way.at(-1)?.depth ?? -1) >= row.depth) way.pop();
    const hidden = way.some(({ hides }) => hides);
    if (row.kind === "track") {
      for (const { sourceIds } of way) sourceIds.push(row.id);
      if (!hidden) rows.push(sourceRow(doc, row.track, row.depth));
      continue;
    }
    const sourceIds: ChannelId[] = [];
    const open = !folded.has(row.id);
    way.push({ depth: row.depth, sourceIds, hides: !open });
    if (!hidden)
      rows.push({
        kind: "group",
        id: row.id,
        name: row.folder.name || "A folder without a name",
        colour: row.colour,
        depth: row.depth,
        sourceIds,
        open,
      });
  }
  return rows;
};

/**
 * The rows of the matrix: tracks by their folders as in the input list, then instruments, returns, buses, talkback and
 * click. What lies in a folded group is not shown, and the group stands for all of it. Linear but for the sorting.
 */
export const cueRows = (
  doc: Template,
  { folded, buses }: { readonly folded: ReadonlySet<string>; readonly buses: boolean },
): readonly CueRow[] => [
  ...folderRows(doc, folded),
  ...groupsBelow(doc, buses).flatMap(({ id, name, channels }): readonly CueRow[] => {
    const open = !folded.has(id);
    return [
      { kind: "group", id, name, colour: null, depth: 0, sourceIds: channels.map((channel) => channel.id), open },
      ...(open ? channels.map((channel) => sourceRow(doc, channel, 1)) : []),
    ];
  }),
];

/** What stands on the head of a cue. */
export interface CueHead {
  readonly cue: Cue;
  readonly output: string;
  /** What they play, in words. */
  readonly plays: string;
  readonly ownIds: ReadonlySet<ChannelId>;
  /** Their own dry sound that comes latest against its target; null where none reaches them dry. */
  readonly latest: OwnPath | null;
  readonly state: Timeliness | "unheard" | "nobody" | "kept-out" | "comes-back";
}

const WORSE: readonly Timeliness[] = ["wet", "untold", "on-time", "near", "late"];

/** The one of several that is worst against its target. */
export const worstOf = (paths: readonly OwnPath[]): OwnPath | null =>
  paths.reduce<OwnPath | null>((worst, path) => {
    if (!worst) return path;
    const [a, b] = [WORSE.indexOf(path.state), WORSE.indexOf(worst.state)];
    return a > b || (a === b && path.ms - (path.targetMs ?? 0) > worst.ms - (worst.targetMs ?? 0)) ? path : worst;
  }, null);

const playsInWords = (doc: Template, ids: readonly ChannelId[]): string => {
  const names = [...new Set(ids.map((id) => doc.channels[id]?.name || "a track without a name"))];
  return names.length > 2 ? `${names[0]} and ${names.length - 1} more` : names.join(", ");
};

/** The heads of all cues, with the delay of what each hears of themself. */
export const cueHeads = (doc: Template, rig: Rig, { paths }: Hearing): readonly CueHead[] =>
  cuesOf(doc).map((cue): CueHead => {
    const own = ownTracksOf(doc, cue);
    const latest = worstOf(paths.filter(({ cueId, wet }) => cueId === cue.id && !wet));
    const state = !cue.people.length
      ? "nobody"
      : cue.hearing === "far"
        ? carriesBack(doc, rig, cue).length
          ? "comes-back"
          : "kept-out"
        : (latest?.state ?? "unheard");
    return { cue, output: cueOutputText(rig, cue), plays: playsInWords(doc, own), ownIds: new Set(own), latest, state };
  });
