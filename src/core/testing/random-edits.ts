import fc from "fast-check";
import { HEADER } from "../commands/command";
import { wheelhouseCart } from "../demo/rigs";
import type { Field } from "../model/describe/fields";
import { fieldsOf, type TableDescription } from "../model/describe/table";
import type {
  ChainProcessorId,
  ChannelId,
  ControlId,
  CueId,
  CueLevelId,
  FolderId,
  GangId,
  LineId,
  PassId,
  PortId,
  SendId,
  SideChainId,
} from "../model/ids";
import type { MicrophoneChoice } from "../model/microphone-choice";
import { rigInputsOf } from "../model/read-rig";
import { tracksOf } from "../model/read-template";
import { MAIN_ID, type TrackInput } from "../model/tables/channel-fields";
import { newLine } from "../model/tables/lines";
import { newSideChain } from "../model/tables/side-chains";
import { TEMPLATE, type Template } from "../model/template";
import type { Edit, EditKind, EditOf } from "../planning/edits/edit";
import { dB } from "../units/decibels";
import { randomVerb } from "./random-verbs";

type Loose = Readonly<Record<string, unknown>>;

/** A stream of chance numbers, each from 0 (included) to 1 (not). */
type Chance = () => number;

const pick = <T>(chance: Chance, from: readonly T[]): T | undefined => from[Math.floor(chance() * from.length)];
const some = <T>(chance: Chance, from: readonly T[]): readonly T[] => from.filter(() => chance() < 0.4).slice(0, 6);
const names = ["Fiddle", "Snare", "Above L", "Above R", "", "Cimbalom", "con", "A/B"];
const ports: readonly (PortId | null)[] = [null, ...rigInputsOf(wheelhouseCart).map((rigInput) => rigInput.port.id)];

const microphones: readonly (MicrophoneChoice | null)[] = [
  null,
  ...Object.values(wheelhouseCart.microphones).map(({ id, name }) => ({
    kind: "shelf" as const,
    microphoneId: id,
    name,
  })),
];

/** Numbers for ids, unique within a run because they count on. */
let serial = 0;
const fresh = <T extends string>(kind: string): T => `${kind}-r${serial++}` as T;

/** Ids that are taken, of whatever kind, and one that every object has: no command may give them to something new. */
const taken = (doc: Template): readonly string[] => [
  ...Object.keys(doc.channels),
  ...Object.keys(doc.lines),
  ...Object.keys(doc.folders),
  "constructor",
];

/** An id of its own, and now and then one that is taken. */
const idFor = <T extends string>(doc: Template, chance: Chance, kind: string): T =>
  chance() < 0.06 ? (pick(chance, taken(doc)) as T) : fresh<T>(kind);

/** One of what is there, and now and then something that is not, or is of another kind. */
const refTo = <T extends string>(doc: Template, chance: Chance, there: T): T =>
  chance() < 0.06
    ? ((pick(chance, [...Object.keys(doc.folders), ...Object.keys(doc.lines), "nobody"]) ?? "nobody") as T)
    : there;

const someLine = (doc: Template, chance: Chance) =>
  newLine({
    id: idFor<LineId>(doc, chance, "line"),
    source: pick(chance, names) ?? "",
    microphone: pick(chance, microphones) ?? null,
    portId: pick(chance, ports) ?? null,
    phantom: chance() < 0.5,
    gainDb: chance() < 0.3 ? dB(Math.floor(chance() * 60)) : null,
  });

const addTracks = (doc: Template, chance: Chance, folderId: FolderId | null): Edit => {
  const stereo = chance() < 0.3;
  const lines = stereo ? [someLine(doc, chance), someLine(doc, chance)] : [someLine(doc, chance)];
  const [left, right] = lines;
  if (!left) throw new Error("expected a line");
  const input = right
    ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const)
    : ({ kind: "line", lineId: refTo(doc, chance, left.id) } as const);
  return {
    kind: "tracks.add",
    tracks: [
      {
        id: idFor<ChannelId>(doc, chance, "track"),
        name: pick(chance, names) ?? "",
        note: "",
        colour: null,
        icon: null,
        input,
        sharing: null,
      },
    ],
    lines,
    folderId,
    before: null,
  };
};

type Maker<K extends EditKind> = (doc: Template, chance: Chance) => EditOf<K>;

const trackIds = (doc: Template) => tracksOf(doc).map((track) => track.id);
const lineIds = (doc: Template) => Object.keys(doc.lines) as LineId[];
const folderIds = (doc: Template) => Object.keys(doc.folders) as FolderId[];
const anyTrack = (doc: Template, chance: Chance) => pick(chance, trackIds(doc)) ?? ("none" as ChannelId);
const anyLine = (doc: Template, chance: Chance) => pick(chance, lineIds(doc)) ?? ("none" as LineId);
const anyFolder = (doc: Template, chance: Chance) => pick(chance, folderIds(doc)) ?? ("none" as FolderId);
const maybeFolder = (doc: Template, chance: Chance) => (chance() < 0.5 ? (pick(chance, folderIds(doc)) ?? null) : null);
const channelIds = (doc: Template) => Object.keys(doc.channels) as ChannelId[];
const sums = (doc: Template) =>
  channelIds(doc).filter((id) => ["bus", "return"].includes(doc.channels[id]?.kind ?? ""));
const anySum = (doc: Template, chance: Chance) => (chance() < 0.3 ? MAIN_ID : (pick(chance, sums(doc)) ?? MAIN_ID));
const anyChannel = (doc: Template, chance: Chance) => pick(chance, channelIds(doc)) ?? MAIN_ID;
const processorIds = (doc: Template) => Object.keys(doc.processors) as ChainProcessorId[];
const anyProcessor = (doc: Template, chance: Chance) => pick(chance, processorIds(doc)) ?? ("none" as ChainProcessorId);
const anyGang = (doc: Template, chance: Chance) =>
  pick(chance, Object.keys(doc.gangs) as GangId[]) ?? ("none" as GangId);
const anyControl = (doc: Template, chance: Chance) =>
  pick(chance, Object.keys(doc.controls) as ControlId[]) ?? ("none" as ControlId);
const anyCue = (doc: Template, chance: Chance) => pick(chance, Object.keys(doc.cues) as CueId[]) ?? ("none" as CueId);
const anyPass = (doc: Template, chance: Chance) =>
  pick(chance, Object.keys(doc.passes) as PassId[]) ?? ("none" as PassId);
const someCells = (doc: Template, chance: Chance) =>
  some(chance, Object.values(doc.cueLevels)).map(({ cueId, sourceId }) => ({ cueId, sourceId }));
const patchOf = (doc: Template, chance: Chance) =>
  some(chance, lineIds(doc)).map((lineId) => ({
    lineId,
    portId: pick(chance, ports) ?? null,
    requestedInput: chance() < 0.2 ? "99" : null,
  }));

/** The kinds of plain edits, which are drawn from the descriptions of the tables. */
type Plain = keyof typeof PLAIN;

const begins = ({ initial, needed }: Field): boolean => initial !== undefined && !needed;

/** An entry as somebody would bring it: what it must have, and a little of the rest. */
const sparse = (chance: Chance, table: string, entry: Loose): Loose => {
  const of = TEMPLATE.tables[table as keyof typeof TEMPLATE.tables] as TableDescription;
  const fields = fieldsOf(of, entry);
  return Object.fromEntries(
    Object.entries(entry).filter(([key]) => !fields[key] || !begins(fields[key] as Field) || chance() < 0.25),
  );
};

/** Fields that are not set by acts of their own, and something else where there is none. */
const plainly = (table: string, entry: Loose | undefined, set: Loose): Loose => {
  const fields = fieldsOf(TEMPLATE.tables[table as keyof typeof TEMPLATE.tables] as TableDescription, entry ?? {});
  return Object.fromEntries(Object.entries(set).filter(([key]) => !fields[key]?.apart));
};

/** A verb on any table, as the plain edit that comes to it. */
const plainEdit = (doc: Template, chance: Chance): Edit => {
  const verb = randomVerb(TEMPLATE, doc, chance);
  switch (verb.kind) {
    case "add":
      return {
        kind: "entries.add",
        entries: { [verb.table]: verb.entries.map((entry) => sparse(chance, verb.table, entry as unknown as Loose)) },
        ...(verb.before ? { before: verb.before } : {}),
      } as Edit;
    case "set": {
      const [[id = "", set = {}] = []] = Object.entries(verb.values);
      if (verb.table === HEADER)
        return chance() < 0.5
          ? { kind: "document.rename", name: pick(chance, names) ?? "" }
          : ({ kind: "settings.set", set: without(set, ["name", "rigId"]) } as Edit);
      const table = doc[verb.table as "lines"] as unknown as Readonly<Record<string, Loose>>;
      return { kind: "entries.set", table: verb.table, ids: [id], set: plainly(verb.table, table[id], set) } as Edit;
    }
    case "move":
      return {
        kind: "entries.move",
        table: verb.table,
        ids: verb.ids,
        ...(verb.parent === undefined ? {} : { parent: verb.parent }),
        before: verb.before,
      } as Edit;
    case "remove":
      return { kind: "entries.remove", table: verb.table, ids: verb.ids } as Edit;
    default:
      throw new Error(`expected a verb that is drawn, got ${verb.kind}`);
  }
};

const without = (fields: Loose, keys: readonly string[]): Loose =>
  Object.fromEntries(Object.entries(fields).filter(([key]) => !keys.includes(key)));

const PLAIN = {
  "document.rename": true,
  "settings.set": true,
  "entries.add": true,
  "entries.set": true,
  "entries.move": true,
  "entries.remove": true,
} as const;

const MAKERS: { readonly [K in Exclude<EditKind, Plain>]: Maker<K> } = {
  "template.fit": (doc, chance) => ({
    kind: "template.fit",
    rigId: doc.rigId,
    rigName: "A rig",
    inputs: patchOf(doc, chance),
    mainOutputs: [],
  }),
  "tracks.add": (doc, chance) => addTracks(doc, chance, maybeFolder(doc, chance)) as EditOf<"tracks.add">,
  "tracks.pair": (doc, chance) => ({
    kind: "tracks.pair",
    leftTrackId: anyTrack(doc, chance),
    rightTrackId: anyTrack(doc, chance),
  }),
  "tracks.split": (doc, chance) => ({
    kind: "tracks.split",
    trackId: anyTrack(doc, chance),
    newTrackId: idFor<ChannelId>(doc, chance, "track"),
  }),
  "tracks.take": (doc, chance) => {
    const line = someLine(doc, chance);
    const input = pick<TrackInput>(chance, [
      { kind: "none" },
      { kind: "bus", busId: anySum(doc, chance) },
      { kind: "line", lineId: line.id },
      { kind: "pair", leftId: line.id, rightId: anyLine(doc, chance) },
    ]) ?? {
      kind: "none",
    };
    return {
      kind: "tracks.take",
      trackId: anyTrack(doc, chance),
      input,
      lines: input.kind === "none" || input.kind === "bus" ? [] : [line],
    };
  },
  "lines.shift": (doc, chance) => ({ kind: "lines.shift", lineIds: some(chance, lineIds(doc)), gainDb: dB(3) }),
  "lines.patch": (doc, chance) => ({ kind: "lines.patch", inputs: patchOf(doc, chance) }),
  "lines.join": (doc, chance) => ({
    kind: "lines.join",
    keepId: anyLine(doc, chance),
    dropId: anyLine(doc, chance),
    sharing: "at-once",
  }),
  "folders.drop": (doc, chance) => ({
    kind: "folders.drop",
    folderId: chance() < 0.3 ? anyFolder(doc, chance) : ("none" as FolderId),
  }),
  "folders.sum": (doc, chance) => ({
    kind: "folders.sum",
    sums: [...new Set([anyFolder(doc, chance), anyFolder(doc, chance)])].map((folderId) => ({
      folderId,
      busId: idFor<ChannelId>(doc, chance, "bus"),
    })),
  }),
  "folders.unsum": (doc, chance) => ({
    kind: "folders.unsum",
    folderId: anyFolder(doc, chance),
    output: { kind: "channel", channelId: anySum(doc, chance) },
  }),
  "channels.add": (doc, chance) => ({
    kind: "channels.add",
    channels: [
      {
        kind: chance() < 0.5 ? "bus" : "return",
        id: idFor<ChannelId>(doc, chance, "bus"),
        name: pick(chance, names) ?? "",
      },
    ],
    feedIds: chance() < 0.5 ? some(chance, channelIds(doc)) : [],
  }),
  "channels.shift": (doc, chance) => ({
    kind: "channels.shift",
    channelIds: some(chance, channelIds(doc)),
    byDb: dB(Math.floor(chance() * 9) - 4),
  }),
  "sends.add": (doc, chance) => ({
    kind: "sends.add",
    sends: some(chance, channelIds(doc)).map((fromId) => ({
      id: idFor<SendId>(doc, chance, "send"),
      fromId,
      toId: refTo(doc, chance, anySum(doc, chance)),
    })),
  }),
  "sideChains.add": (doc, chance) => ({
    kind: "sideChains.add",
    sideChains: [
      newSideChain({
        id: idFor<SideChainId>(doc, chance, "side"),
        fromId: anyChannel(doc, chance),
        processorId: anyProcessor(doc, chance),
      }),
    ],
  }),
  "gangs.add": (doc, chance) => ({
    kind: "gangs.add",
    gang: {
      id: idFor<GangId>(doc, chance, "gang"),
      name: "Pair",
      level: chance() < 0.8,
      mute: chance() < 0.5,
      pan: chance() < 0.5,
      sends: chance() < 0.5,
    },
    channelIds: some(chance, channelIds(doc)),
  }),
  "gangs.join": (doc, chance) => ({
    kind: "gangs.join",
    channelIds: some(chance, channelIds(doc)),
    gangId: chance() < 0.5 ? null : anyGang(doc, chance),
  }),
  "controls.add": (doc, chance) => ({
    kind: "controls.add",
    control: { id: idFor<ControlId>(doc, chance, "control"), name: "All" },
    channelIds: some(chance, channelIds(doc)),
  }),
  "controls.ride": (doc, chance) => ({
    kind: "controls.ride",
    channelIds: some(chance, channelIds(doc)),
    controlId: anyControl(doc, chance),
    on: chance() < 0.7,
  }),
  "cueLevels.put": (doc, chance) => ({
    kind: "cueLevels.put",
    levels: some(chance, channelIds(doc)).map((sourceId) => ({
      id: idFor<CueLevelId>(doc, chance, "level"),
      cueId: anyCue(doc, chance),
      sourceId,
      levelDb: chance() < 0.2 ? null : dB(Math.floor(chance() * 60) - 50),
    })),
  }),
  "cueLevels.shift": (doc, chance) => ({
    kind: "cueLevels.shift",
    cells: someCells(doc, chance),
    byDb: dB(Math.floor(chance() * 9) - 4),
  }),
  "cueLevels.remove": (doc, chance) => ({ kind: "cueLevels.remove", cells: someCells(doc, chance) }),
  "passes.run": (doc, chance) => ({ kind: "passes.run", passId: chance() < 0.2 ? null : anyPass(doc, chance) }),
  "folders.remove": (doc, chance) => ({ kind: "folders.remove", folderId: anyFolder(doc, chance) }),
  "changes.carry": (doc, chance) => ({
    kind: "changes.carry",
    name: "Carry a difference",
    patches:
      chance() < 0.5
        ? [{ op: "remove", path: ["folders", anyFolder(doc, chance) ?? "none"] }]
        : [{ op: "replace", path: ["lines", pick(chance, Object.keys(doc.lines)) ?? "none", "phantom"], value: true }],
  }),
};

const OWN_KINDS = Object.keys(MAKERS) as readonly Exclude<EditKind, Plain>[];

/**
 * An edit of things that the document has, so that few are refused. Tracks are added more often than the rest, or the
 * document stays empty.
 */
export const randomEdit = (doc: Template, chance: Chance): Edit => {
  if (chance() < 0.3) return MAKERS["tracks.add"](doc, chance);
  return chance() < 0.55
    ? plainEdit(doc, chance)
    : (MAKERS[pick(chance, OWN_KINDS) ?? "tracks.add"] as Maker<EditKind>)(doc, chance);
};

/** Runs of chance for fast-check: as many numbers as are asked for, from a seed it can shrink and repeat. */
export const chanceRuns = fc.integer({ min: 1, max: 2 ** 31 - 1 }).map((seed): Chance => {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return (state >>> 0) / 2 ** 32;
  };
});
