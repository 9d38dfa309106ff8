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
  | { readonly kind: "source"; readonly id: ChannelId; readonly name: string; readonly colour: Colour | null; readonly depth: number; readonly parked: boolean };

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

/** What stands below the tracks: groups of channels that lie in no folder. Buses and the main bus are shown where a cue carries one, or when they are asked for. */
const groupsBelow = (doc: Template, withBuses: boolean): readonly Group[] => {
  const all = entriesOf<Channel>(doc.channels);
  const of = (...kinds: readonly Channel["kind"][]) => all.filter(({ kind }) => kinds.includes(kind)).sort((a, b) => a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1));
  const carried = new Set<string>(cuesOf(doc).flatMap(({ id }) => levelsOfCue(doc, id).map(({ sourceId }) => sourceId)));
  const buses = [...sumsOf(doc).filter(({ kind }) => kind === "bus"), ...of("main")].filter(({ id }) => withBuses || carried.has(id));
  return [
    { id: "played", name: "Instruments and references", channels: of("instrument", "reference") },
    { id: "returns", name: "Returns", channels: of("return") },
    { id: "buses", name: "Buses", channels: buses },
    { id: "beside", name: "Talkback and click", channels: of("talkback", "click") },
  ].filter(({ channels }) => channels.length > 0);
};

/**
 * The rows of the matrix: tracks by their folders as in the input list, then instruments, returns, buses, talkback and click. What lies in a folded group is not
 * shown, and the group stands for all of it. Linear but for the sorting.
 */
export const cueRows = (doc: Template, { folded, buses }: { readonly folded: ReadonlySet<string>; readonly buses: boolean }): readonly CueRow[] => {
  const rows: CueRow[] = [];
  const inside = new Map<string, ChannelId[]>();
  const way: { readonly id: string; readonly depth: number }[] = [];
  let hiddenBelow: number | null = null;
  for (const row of layoutRows(doc, { unfold: true })) {
    while ((way.at(-1)?.depth ?? -1) >= row.depth) way.pop();
    if (hiddenBelow !== null && row.depth <= hiddenBelow) hiddenBelow = null;
    if (row.kind === "track") {
      for (const { id } of way) inside.get(id)?.push(row.id);
      if (hiddenBelow === null) rows.push(sourceRow(doc, row.track, row.depth));
      continue;
    }
    const sourceIds: ChannelId[] = [];
    inside.set(row.id, sourceIds);
    way.push({ id: row.id, depth: row.depth });
    if (hiddenBelow !== null) continue;
    const open = !folded.has(row.id);
    rows.push({ kind: "group", id: row.id, name: row.folder.name || "A folder without a name", colour: row.colour, depth: row.depth, sourceIds, open });
    if (!open) hiddenBelow = row.depth;
  }
  for (const { id, name, channels } of groupsBelow(doc, buses)) {
    const open = !folded.has(id);
    rows.push({ kind: "group", id, name, colour: null, depth: 0, sourceIds: channels.map((channel) => channel.id), open });
    if (open) for (const channel of channels) rows.push(sourceRow(doc, channel, 1));
  }
  return rows;
};

/** What stands on the head of a cue. */
export interface CueHead {
  readonly cue: Cue;
  readonly output: string;
  /** What they play, in words. */
  readonly plays: string;
  readonly ownIds: ReadonlySet<ChannelId>;
  /** Their own dry sound that comes latest against its target; null where none reaches them dry. */
  readonly latest: OwnPath | null;
  readonly state: Timeliness | "unheard" | "nobody";
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
    const state = !cue.people.length ? "nobody" : (latest?.state ?? "unheard");
    return { cue, output: cueOutputText(rig, cue), plays: playsInWords(doc, own), ownIds: new Set(own), latest, state };
  });
