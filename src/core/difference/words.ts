import { HEADER } from "../commands/command";
import type { Loose, Tables } from "../commands/references";
import type { Colour } from "../model/colours";
import type { Field, Fields } from "../model/describe/fields";
import { fieldsOf, type TableDescription } from "../model/describe/table";
import type { ChannelId, FolderId, PortId, RigId } from "../model/ids";
import { lineName, takersIn } from "../model/line-name";
import { portLabel, rigInputOf } from "../model/read-rig";
import { colourOf, folderColour } from "../model/read-template";
import type { Rig } from "../model/rig";
import { byOrder } from "../model/table";
import { processorName } from "../model/tables/processor-names";
import { TEMPLATE, type Template } from "../model/template";
import { counted } from "../units/counted";
import type { Change } from "./change";
import { fieldWord, valueWords, type WordsAround } from "./value-words";

/** What a difference is about: the groups in which a person reads them, in this order. */
export const GROUPS = ["lines", "tracks", "folders", "buses", "chains", "cues", "passes", "format"] as const;
export type Group = (typeof GROUPS)[number];
export const GROUP_NAMES: Readonly<Record<Group, string>> = {
  lines: "Lines and inputs",
  tracks: "Tracks and instruments",
  folders: "Folders",
  buses: "Buses, returns and sends",
  chains: "Chains",
  cues: "Cues",
  passes: "Passes",
  format: "Format and notes",
};

/** A difference as a person reads it. */
export interface ToldChange extends Pick<Change, "id" | "kind" | "side" | "needs" | "table" | "entryId"> {
  readonly group: Group;
  /** What it is about: "Fiddle", "Voices". */
  readonly who: string;
  readonly words: string;
  /** The dye of the thread it is about; null where none is. */
  readonly colour: Colour | null;
  /** How much hangs on it: what decides over a take before what decides over a look. */
  readonly weight: number;
}

interface Both {
  readonly here: Template;
  readonly there: Template;
  /** Of each, and others that may be named. */
  readonly rigs: readonly Rig[];
}

const BY_TABLE: Readonly<Record<string, Group>> = {
  lines: "lines",
  folders: "folders",
  sends: "buses",
  gangs: "buses",
  controls: "buses",
  processors: "chains",
  bands: "chains",
  sideChains: "chains",
  cues: "cues",
  cueLevels: "cues",
  passes: "passes",
  accepted: "format",
  [HEADER]: "format",
};

const RECORDS = ["track", "instrument", "reference"];

const groupOf = (table: string, entry: Loose | undefined): Group =>
  table === "channels" ? (RECORDS.includes(String(entry?.kind)) ? "tracks" : "buses") : (BY_TABLE[table] ?? "format");

/** Fields that decide whether the right thing is recorded, and those that decide how it looks. */
const HEAVY = [
  "portId",
  "requestedInput",
  "phantom",
  "input",
  "output",
  "recordPoint",
  "sharing",
  "rigId",
  "microphone",
];
const LIGHT = ["colour", "icon", "open", "note", "order"];
const WEIGHTS = { gone: 5, new: 5, changed: 3, moved: 1 } as const;

const weightOf = ({ kind, fields }: Change): number => {
  if (kind !== "changed") return WEIGHTS[kind];
  if (fields.some((field) => HEAVY.includes(field))) return 4;
  return fields.every((field) => LIGHT.includes(field)) ? 1 : WEIGHTS.changed;
};

const tableOf = (doc: Template, table: string): Readonly<Record<string, Loose>> =>
  (doc as unknown as Tables)[table] ?? {};

const inputWords = (rig: Rig, port: PortId): string | null => {
  const input = rigInputOf(rig, port);
  if (!input) return null;
  return input.fedBy ? `${input.label} through ${input.fedBy.device.name} ${input.fedBy.port.number}` : input.label;
};

/** How one of the two documents is looked at for words. */
const aroundOf = (doc: Template, rigs: readonly Rig[]): WordsAround => {
  const own = [...rigs.filter(({ id }) => id === doc.rigId), ...rigs.filter(({ id }) => id !== doc.rigId)];
  const entry = (table: string, id: string) => tableOf(doc, table)[id];
  const called = (table: string, id: string): string => {
    const one = entry(table, id);
    if (!one) return "what is not there";
    if (table === "lines") {
      const taker = takersIn(doc.channels).get(id);
      return lineName(one as never, taker ? [taker] : []);
    }
    const of = (TEMPLATE.tables as Readonly<Record<string, TableDescription>>)[table];
    return (
      (of?.called as ((entry: Loose, around: object) => string | null) | undefined)?.(one, { entry }) || `a ${of?.one}`
    );
  };
  return {
    entry,
    called,
    rig: (id) => rigs.find((rig) => rig.id === (id as RigId))?.name ?? "another rig",
    port: (id) => {
      for (const rig of own) {
        const port = rig.ports[id as PortId];
        if (port) return inputWords(rig, port.id) ?? portLabel(rig, port);
        const midi = (rig.midiPorts as unknown as Readonly<Record<string, { readonly name: string }>>)[id];
        if (midi) return midi.name;
      }
      return "an input of another rig";
    },
  };
};

interface Looks {
  readonly here: WordsAround;
  readonly there: WordsAround;
}

const either = ({ here, there }: Looks, table: string, id: string): readonly [WordsAround, Loose | undefined] => {
  const found = there.entry(table, id);
  return found ? [there, found] : [here, here.entry(table, id)];
};

/** What a change is about: the track of a line, the channel a send leaves, the cue a level is in. */
const whoOf = (looks: Looks, table: string, id: string): string => {
  const [around, entry] = either(looks, table, id);
  const of = (name: string): string => around.called("channels", String(entry?.[name]));
  if (table === HEADER) return "Template";
  if (table === "accepted") return "Accepted finding";
  if (table === "sends") return of("fromId");
  if (table === "processors") return of("channelId");
  if (table === "cueLevels") return around.called("cues", String(entry?.cueId));
  if (table === "bands" || table === "sideChains") {
    const processor = around.entry("processors", String(entry?.processorId));
    return around.called("channels", String(processor?.channelId));
  }
  return around.called(table, id);
};

/** What of it is meant, where that is not the whole: the return of a send, the processor of a channel. */
const partOf = (looks: Looks, table: string, id: string): string => {
  const [around, entry] = either(looks, table, id);
  if (table === "sends") return around.called("channels", String(entry?.toId));
  if (table === "cueLevels") return around.called("channels", String(entry?.sourceId));
  if (table === "processors") return entry ? processorName(entry as never) : "a processor";
  if (table === "sideChains") return `side-chain from ${around.called("channels", String(entry?.fromId))}`;
  if (table === "bands") {
    const processor = around.entry("processors", String(entry?.processorId));
    return `${processor ? processorName(processor as never) : "Equaliser"} ${String(entry?.shape).replaceAll("-", " ")}`;
  }
  return table === "accepted" ? String(entry?.reason ?? "") : "";
};

/** Levels are told by themselves: "Plate −12 → −9 dB". */
const BARE = ["levelDb"];

const changeWords = (
  looks: Looks,
  fields: Fields,
  { was, is, keys }: { readonly was: Loose; readonly is: Loose; readonly keys: readonly string[] },
): string =>
  keys
    .map((key) => {
      const field = fields[key] as Field | undefined;
      if (!field) return key === "order" ? "in another place" : key;
      const [from, to] = [
        valueWords({ key, field, value: was[key] }, looks.here),
        valueWords({ key, field, value: is[key] }, looks.there),
      ];
      const word = BARE.includes(key) ? "" : `${fieldWord(field)} `;
      // "parked" and "48 V on" say it by themselves; "yes" and "off" need what is meant.
      if (field.kind === "flag") return /^(?:yes|no|on|off)$/.test(to) ? `${word}${to}` : to;
      const unit = / (?:dB|Hz|ms|s|%|samples)$/.exec(to)?.[0];
      return `${word}${unit && from.endsWith(unit) ? from.slice(0, -unit.length) : from} → ${to}`;
    })
    .join(", ");

const alongWords = ({ along }: Change): string => {
  const counts = new Map<string, number>();
  for (const { table } of along) counts.set(table, (counts.get(table) ?? 0) + 1);
  const parts = [...counts].flatMap(([table, count]) => {
    const of = (TEMPLATE.tables as Readonly<Record<string, TableDescription>>)[table];
    return of ? [counted(count, of.one, of.many)] : [];
  });
  return parts.length ? ` with ${parts.join(", ")}` : "";
};

/** What a new or gone thing is told with: the input of a track, the level of a send. */
const plainFacts = (around: WordsAround, table: string, entry: Loose): string => {
  if (table === "channels" && entry.kind === "track") {
    const field = fieldsOf(TEMPLATE.tables.channels, entry).input;
    const said = field ? valueWords({ key: "input", field, value: entry.input }, around) : "none";
    return said === "none" ? "" : `, input ${said}`;
  }
  if (table === "sends" || table === "cueLevels") {
    const of = (TEMPLATE.tables as Readonly<Record<string, TableDescription>>)[table];
    const field = of?.fields.levelDb;
    return field ? ` ${valueWords({ key: "levelDb", field, value: entry.levelDb }, around)}` : "";
  }
  return "";
};

/** What something stands before in its place, or where it lies now. */
const placeWords = ({ here, there }: Both, looks: Looks, { table, entryId, along }: Change): string => {
  const within = (TEMPLATE.tables as Readonly<Record<string, TableDescription>>)[table]?.order?.within ?? null;
  const [was, is] = [tableOf(here, table)[entryId], tableOf(there, table)[entryId]];
  if (!was || !is) return "in another place";
  const more = along.length ? `; with it ${along.length} more in another place` : "";
  if (within && was[within] !== is[within]) {
    const field = fieldsOf(
      (TEMPLATE.tables as Readonly<Record<string, TableDescription>>)[table] as TableDescription,
      is,
    )[within];
    const to = field && is[within] !== null ? valueWords({ key: within, field, value: is[within] }, looks.there) : null;
    return `${to ? `in ${to}` : "outside the folders"}${more}`;
  }
  const beside = Object.values(tableOf(there, table))
    .filter((one) => typeof one.order === "string" && (!within || one[within] === is[within]))
    .sort(byOrder as never);
  const next = beside[beside.indexOf(is) + 1];
  return `${next ? `before ${looks.there.called(table, String(next.id))}` : "at the end"}${more}`;
};

const headerWords = ({ here, there }: Both, looks: Looks, [path = ""]: readonly string[]): string => {
  const [key = "", part] = path.split(".");
  const field = (TEMPLATE.header as Fields)[key];
  const inner = part === undefined ? field : field?.fields?.[part];
  const valueIn = (doc: Template): unknown => {
    const value = (doc as unknown as Loose)[key];
    return part === undefined ? value : (value as Loose)[part];
  };
  const name = part ?? key;
  return inner
    ? changeWords(
        looks,
        { [name]: inner },
        { was: { [name]: valueIn(here) }, is: { [name]: valueIn(there) }, keys: [name] },
      )
    : path;
};

const wordsOf = (both: Both, looks: Looks, change: Change): string => {
  const { table, entryId, kind, fields } = change;
  if (table === HEADER) return headerWords(both, looks, fields);
  const [was, is] = [tableOf(both.here, table)[entryId], tableOf(both.there, table)[entryId]];
  const part = partOf(looks, table, entryId);
  const lead = part ? `${part} ` : "";
  if (kind === "new" && is) return `${lead}new${plainFacts(looks.there, table, is)}${alongWords(change)}`;
  if (kind === "gone") return `${lead}gone${alongWords(change)}`;
  if (kind === "moved") return `${lead}${placeWords(both, looks, change)}`;
  if (!was || !is) return `${lead}changed`;
  if (fields.includes("kind")) return `${lead}is a ${String(is.kind)} now`;
  const of = (TEMPLATE.tables as Readonly<Record<string, TableDescription>>)[table];
  return `${lead}${of ? changeWords(looks, fieldsOf(of, is), { was, is, keys: fields }) : ""}`;
};

/** The channel or folder whose dye a change has. */
const colourIn = (doc: Template, table: string, entry: Loose | undefined): Colour | null => {
  if (!entry) return null;
  const channel = (id: unknown): Colour | null => {
    const found = doc.channels[id as ChannelId];
    return found
      ? colourOf(doc, {
          colour: "colour" in found ? found.colour : null,
          folderId: found.kind === "track" ? found.folderId : null,
        })
      : null;
  };
  if (table === "channels") return channel(entry.id);
  if (table === "lines")
    return channel((takersIn(doc.channels).get(String(entry.id)) as { readonly id?: string } | undefined)?.id);
  if (table === "folders") return folderColour(doc, doc.folders[entry.id as FolderId] as never);
  if (table === "sends") return channel(entry.fromId);
  if (table === "processors") return channel(entry.channelId);
  if (table === "cueLevels") return channel(entry.sourceId);
  return "colour" in entry ? (entry.colour as Colour | null) : null;
};

/**
 * Differences in words, by group and then by weight: those that a person is shown. Every field's words come from its
 * description.
 * @example told(changes, { here, there, rigs })[0] // { who: "Fiddle", words: "input 9 → E5, phantom 48 V on", … }
 */
export const told = (changes: readonly Change[], both: Both): readonly ToldChange[] => {
  const looks = { here: aroundOf(both.here, both.rigs), there: aroundOf(both.there, both.rigs) };
  return changes
    .filter(({ quiet }) => quiet === null)
    .map((change): ToldChange => {
      const { id, kind, side, needs, table, entryId } = change;
      const [was, is] = [tableOf(both.here, table)[entryId], tableOf(both.there, table)[entryId]];
      return {
        id,
        kind,
        side,
        needs,
        table,
        entryId,
        group: groupOf(table, is ?? was),
        who: whoOf(looks, table, entryId),
        words: wordsOf(both, looks, change),
        colour: is ? colourIn(both.there, table, is) : colourIn(both.here, table, was),
        weight: weightOf(change),
      };
    })
    .sort(
      (a, b) =>
        GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) ||
        b.weight - a.weight ||
        a.who.localeCompare(b.who) ||
        (a.id < b.id ? -1 : 1),
    );
};
