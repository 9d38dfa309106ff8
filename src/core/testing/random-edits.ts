import fc from "fast-check";
import { wheelhouseCart } from "../demo/rigs";
import { COLOUR_NAMES } from "../model/colours";
import { ICONS } from "../model/families";
import type { BandId, ChainProcessorId, ChannelId, ControlId, CueId, CueLevelId, FolderId, GangId, LineId, PassId, PortId, SendId, SideChainId } from "../model/ids";
import type { MicrophoneChoice } from "../model/microphone-choice";
import { rigInputsOf } from "../model/read-rig";
import { tracksOf } from "../model/read-template";
import { newBand } from "../model/tables/bands";
import { newProcessor } from "../model/tables/chain-processors";
import { MAIN_ID, type TrackInput } from "../model/tables/channels";
import { newCueLevel } from "../model/tables/cue-levels";
import { newLine } from "../model/tables/lines";
import { BAND_SHAPES, PROCESSOR_KIND_NAMES } from "../model/tables/processor-settings";
import { newSideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";
import type { Edit, EditKind, EditOf } from "../planning/edits/edit";
import { EDIT_KINDS } from "../planning/edits/template-editing";
import { dB } from "../units/decibels";
import { SAMPLE_RATES_HZ } from "../units/hertz";

/** A stream of chance numbers, each from 0 (included) to 1 (not). */
type Chance = () => number;

const pick = <T>(chance: Chance, from: readonly T[]): T | undefined => from[Math.floor(chance() * from.length)];
const some = <T>(chance: Chance, from: readonly T[]): readonly T[] => from.filter(() => chance() < 0.4).slice(0, 6);
const names = ["Fiddle", "Snare", "Above L", "Above R", "", "Cimbalom", "con", "A/B"];
const ports: readonly (PortId | null)[] = [null, ...rigInputsOf(wheelhouseCart).map((rigInput) => rigInput.port.id)];

const microphones: readonly (MicrophoneChoice | null)[] = [
  null,
  ...Object.values(wheelhouseCart.microphones).map(({ id, name }) => ({ kind: "shelf" as const, microphoneId: id, name })),
];

/** Numbers for ids, unique within a run because they count on. */
let serial = 0;
const fresh = <T extends string>(kind: string): T => `${kind}-r${serial++}` as T;

/** Ids that are taken, of whatever kind, and one that every object has: no command may give them to something new. */
const taken = (doc: Template): readonly string[] => [...Object.keys(doc.channels), ...Object.keys(doc.lines), ...Object.keys(doc.folders), "constructor"];

/** An id of its own, and now and then one that is taken. */
const idFor = <T extends string>(doc: Template, chance: Chance, kind: string): T => (chance() < 0.06 ? (pick(chance, taken(doc)) as T) : fresh<T>(kind));

/** One of what is there, and now and then something that is not, or is of another kind. */
const refTo = <T extends string>(doc: Template, chance: Chance, there: T): T =>
  chance() < 0.06 ? ((pick(chance, [...Object.keys(doc.folders), ...Object.keys(doc.lines), "nobody"]) ?? "nobody") as T) : there;

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
  const input = right ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const) : ({ kind: "line", lineId: refTo(doc, chance, left.id) } as const);
  return {
    kind: "tracks.add",
    tracks: [{ id: idFor<ChannelId>(doc, chance, "track"), name: pick(chance, names) ?? "", note: "", colour: null, icon: null, input, sharing: null }],
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
const sums = (doc: Template) => channelIds(doc).filter((id) => ["bus", "return"].includes(doc.channels[id]?.kind ?? ""));
const anySum = (doc: Template, chance: Chance) => (chance() < 0.3 ? MAIN_ID : (pick(chance, sums(doc)) ?? MAIN_ID));
const anyChannel = (doc: Template, chance: Chance) => pick(chance, channelIds(doc)) ?? MAIN_ID;
const sendIds = (doc: Template) => Object.keys(doc.sends) as SendId[];
const processorIds = (doc: Template) => Object.keys(doc.processors) as ChainProcessorId[];
const anyProcessor = (doc: Template, chance: Chance) => pick(chance, processorIds(doc)) ?? ("none" as ChainProcessorId);
const bandIds = (doc: Template) => Object.keys(doc.bands) as BandId[];
const anyGang = (doc: Template, chance: Chance) => pick(chance, Object.keys(doc.gangs) as GangId[]) ?? ("none" as GangId);
const anyControl = (doc: Template, chance: Chance) => pick(chance, Object.keys(doc.controls) as ControlId[]) ?? ("none" as ControlId);
const anyCue = (doc: Template, chance: Chance) => pick(chance, Object.keys(doc.cues) as CueId[]) ?? ("none" as CueId);
const anyPass = (doc: Template, chance: Chance) => pick(chance, Object.keys(doc.passes) as PassId[]) ?? ("none" as PassId);
const someCells = (doc: Template, chance: Chance) => some(chance, Object.values(doc.cueLevels)).map(({ cueId, sourceId }) => ({ cueId, sourceId }));
const patchOf = (doc: Template, chance: Chance) =>
  some(chance, lineIds(doc)).map((lineId) => ({ lineId, portId: pick(chance, ports) ?? null, requestedInput: chance() < 0.2 ? "99" : null }));

const MAKERS: { readonly [K in EditKind]: Maker<K> } = {
  "template.rename": (_doc, chance) => ({ kind: "template.rename", name: pick(chance, names) ?? "" }),
  "template.set": (_doc, chance) => ({ kind: "template.set", format: { sampleRateHz: pick(chance, SAMPLE_RATES_HZ) ?? 48000 } }),
  "template.fit": (doc, chance) => ({ kind: "template.fit", rigId: doc.rigId, rigName: "A rig", inputs: patchOf(doc, chance), mainOutputs: [] }),
  "tracks.add": (doc, chance) => addTracks(doc, chance, maybeFolder(doc, chance)) as EditOf<"tracks.add">,
  "tracks.set": (doc, chance) => ({
    kind: "tracks.set",
    trackIds: some(chance, trackIds(doc)),
    set: pick(chance, [
      { name: pick(chance, names) ?? "" },
      { colour: pick(chance, COLOUR_NAMES) ?? null },
      { icon: pick(chance, ICONS) ?? null },
      { output: { kind: "channel", channelId: anySum(doc, chance) } as const },
    ]) ?? { note: "x" },
  }),
  "tracks.move": (doc, chance) => ({
    kind: "tracks.move",
    trackIds: some(chance, trackIds(doc)),
    folderId: maybeFolder(doc, chance),
    before: chance() < 0.5 ? anyTrack(doc, chance) : null,
  }),
  "tracks.remove": (doc, chance) => ({ kind: "tracks.remove", trackIds: some(chance, trackIds(doc)).slice(0, 2) }),
  "tracks.pair": (doc, chance) => ({ kind: "tracks.pair", leftTrackId: anyTrack(doc, chance), rightTrackId: anyTrack(doc, chance) }),
  "tracks.split": (doc, chance) => ({ kind: "tracks.split", trackId: anyTrack(doc, chance), newTrackId: idFor<ChannelId>(doc, chance, "track") }),
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
    return { kind: "tracks.take", trackId: anyTrack(doc, chance), input, lines: input.kind === "none" || input.kind === "bus" ? [] : [line] };
  },
  "tracks.share": (doc, chance) => ({ kind: "tracks.share", trackIds: some(chance, trackIds(doc)), sharing: "by-turns" }),
  "lines.set": (doc, chance) => ({ kind: "lines.set", lineIds: some(chance, lineIds(doc)), set: { phantom: chance() < 0.5 } }),
  "lines.shift": (doc, chance) => ({ kind: "lines.shift", lineIds: some(chance, lineIds(doc)), gainDb: dB(3) }),
  "lines.patch": (doc, chance) => ({ kind: "lines.patch", inputs: patchOf(doc, chance) }),
  "lines.join": (doc, chance) => ({ kind: "lines.join", keepId: anyLine(doc, chance), dropId: anyLine(doc, chance), sharing: "at-once" }),
  "folders.add": (doc, chance) => ({
    kind: "folders.add",
    folders: [{ id: idFor<FolderId>(doc, chance, "folder"), name: "Strings", colour: null }],
    parentId: refTo(doc, chance, maybeFolder(doc, chance) ?? ("" as FolderId)) || null,
  }),
  "folders.set": (doc, chance) => ({ kind: "folders.set", folderIds: [anyFolder(doc, chance)], set: { open: chance() < 0.5 } }),
  "folders.move": (doc, chance) => ({
    kind: "folders.move",
    folderId: anyFolder(doc, chance),
    parentId: maybeFolder(doc, chance),
    before: chance() < 0.5 ? anyFolder(doc, chance) : null,
  }),
  "folders.drop": (doc, chance) => ({ kind: "folders.drop", folderId: chance() < 0.3 ? anyFolder(doc, chance) : ("none" as FolderId) }),
  "folders.sum": (doc, chance) => ({
    kind: "folders.sum",
    sums: [...new Set([anyFolder(doc, chance), anyFolder(doc, chance)])].map((folderId) => ({ folderId, busId: idFor<ChannelId>(doc, chance, "bus") })),
  }),
  "folders.unsum": (doc, chance) => ({ kind: "folders.unsum", folderId: anyFolder(doc, chance), output: { kind: "channel", channelId: anySum(doc, chance) } }),
  "channels.add": (doc, chance) => ({
    kind: "channels.add",
    channels: [{ kind: chance() < 0.5 ? "bus" : "return", id: idFor<ChannelId>(doc, chance, "bus"), name: pick(chance, names) ?? "" }],
    feedIds: chance() < 0.5 ? some(chance, channelIds(doc)) : [],
  }),
  "channels.set": (doc, chance) => ({
    kind: "channels.set",
    channelIds: some(chance, channelIds(doc)),
    set: pick<EditOf<"channels.set">["set"]>(chance, [
      { faderDb: chance() < 0.2 ? null : dB(Math.floor(chance() * 60) - 50) },
      { output: { kind: "channel", channelId: anySum(doc, chance) } },
      { muted: chance() < 0.5 },
      { monitor: "direct" },
      { parked: chance() < 0.5, name: pick(chance, names) ?? "" },
      { pan: Math.floor(chance() * 201) - 100 },
    ]) ?? { muted: true },
  }),
  "channels.shift": (doc, chance) => ({ kind: "channels.shift", channelIds: some(chance, channelIds(doc)), byDb: dB(Math.floor(chance() * 9) - 4) }),
  "channels.remove": (doc, chance) => ({ kind: "channels.remove", channelIds: some(chance, sums(doc)) }),
  "sends.add": (doc, chance) => ({
    kind: "sends.add",
    sends: some(chance, channelIds(doc)).map((fromId) => ({ id: idFor<SendId>(doc, chance, "send"), fromId, toId: refTo(doc, chance, anySum(doc, chance)) })),
  }),
  "sends.set": (doc, chance) => ({ kind: "sends.set", sendIds: some(chance, sendIds(doc)), set: chance() < 0.5 ? { levelDb: dB(-6), tap: "before" } : { on: false } }),
  "sends.move": (doc, chance) => ({ kind: "sends.move", sendIds: some(chance, sendIds(doc)), fromId: anyChannel(doc, chance) }),
  "sends.remove": (doc, chance) => ({ kind: "sends.remove", sendIds: some(chance, sendIds(doc)) }),
  "processors.add": (doc, chance) => {
    const channelId = refTo(doc, chance, anyChannel(doc, chance));
    const kind = pick(chance, PROCESSOR_KIND_NAMES) ?? "gain";
    const processor = newProcessor(kind, {
      id: idFor<ChainProcessorId>(doc, chance, "processor"),
      channelId,
      splitId: chance() < 0.2 ? (pick(chance, processorIds(doc)) ?? null) : null,
    });
    const bands = kind === "equaliser" ? [newBand({ id: idFor<BandId>(doc, chance, "band"), processorId: processor.id })] : [];
    return { kind: "processors.add", processors: [processor as never], bands, before: chance() < 0.3 ? anyProcessor(doc, chance) : null };
  },
  "processors.set": (doc, chance) => ({
    kind: "processors.set",
    processorIds: some(chance, processorIds(doc)).slice(0, 2),
    set: pick<EditOf<"processors.set">["set"]>(chance, [{ bypassed: chance() < 0.5 }, { wetPercent: Math.floor(chance() * 101) }, { thresholdDb: -30 }, { splitId: null }]) ?? {},
  }),
  "processors.move": (doc, chance) => ({
    kind: "processors.move",
    processorIds: some(chance, processorIds(doc)).slice(0, 3),
    channelId: anyChannel(doc, chance),
    before: chance() < 0.4 ? anyProcessor(doc, chance) : null,
  }),
  "processors.remove": (doc, chance) => ({ kind: "processors.remove", processorIds: some(chance, processorIds(doc)).slice(0, 2) }),
  "bands.add": (doc, chance) => ({ kind: "bands.add", bands: [newBand({ id: idFor<BandId>(doc, chance, "band"), processorId: anyProcessor(doc, chance) })] }),
  "bands.set": (doc, chance) => ({
    kind: "bands.set",
    bandIds: some(chance, bandIds(doc)),
    set: { gainDb: dB(Math.floor(chance() * 48) - 24), shape: pick(chance, BAND_SHAPES) ?? "bell" },
  }),
  "bands.remove": (doc, chance) => ({ kind: "bands.remove", bandIds: some(chance, bandIds(doc)) }),
  "sideChains.add": (doc, chance) => ({
    kind: "sideChains.add",
    sideChains: [newSideChain({ id: idFor<SideChainId>(doc, chance, "side"), fromId: anyChannel(doc, chance), processorId: anyProcessor(doc, chance) })],
  }),
  "sideChains.set": (doc, chance) => ({
    kind: "sideChains.set",
    sideChainIds: some(chance, Object.keys(doc.sideChains) as SideChainId[]),
    set: { lowHz: 200, highHz: chance() < 0.3 ? 100 : 4000 },
  }),
  "sideChains.remove": (doc, chance) => ({ kind: "sideChains.remove", sideChainIds: some(chance, Object.keys(doc.sideChains) as SideChainId[]) }),
  "gangs.add": (doc, chance) => ({
    kind: "gangs.add",
    gang: { id: idFor<GangId>(doc, chance, "gang"), name: "Pair", level: chance() < 0.8, mute: chance() < 0.5, pan: chance() < 0.5, sends: chance() < 0.5 },
    channelIds: some(chance, channelIds(doc)),
  }),
  "gangs.set": (doc, chance) => ({ kind: "gangs.set", gangId: anyGang(doc, chance), set: { sends: chance() < 0.5 } }),
  "gangs.join": (doc, chance) => ({ kind: "gangs.join", channelIds: some(chance, channelIds(doc)), gangId: chance() < 0.5 ? null : anyGang(doc, chance) }),
  "controls.add": (doc, chance) => ({ kind: "controls.add", control: { id: idFor<ControlId>(doc, chance, "control"), name: "All" }, channelIds: some(chance, channelIds(doc)) }),
  "controls.set": (doc, chance) => ({
    kind: "controls.set",
    controlIds: [anyControl(doc, chance)],
    set: pick<EditOf<"controls.set">["set"]>(chance, [{ faderDb: dB(-3) }, { muted: chance() < 0.5 }, { parentId: anyControl(doc, chance) }]) ?? {},
  }),
  "controls.ride": (doc, chance) => ({ kind: "controls.ride", channelIds: some(chance, channelIds(doc)), controlId: anyControl(doc, chance), on: chance() < 0.7 }),
  "controls.remove": (doc, chance) => ({ kind: "controls.remove", controlIds: [anyControl(doc, chance)] }),
  "cues.add": (doc, chance) => {
    const id = idFor<CueId>(doc, chance, "cue");
    const levels = some(chance, channelIds(doc)).map((sourceId) => newCueLevel({ id: idFor<CueLevelId>(doc, chance, "level"), cueId: id, sourceId: refTo(doc, chance, sourceId) }));
    return {
      kind: "cues.add",
      cues: [{ id, name: pick(chance, names) ?? "", people: chance() < 0.5 ? ["Ilse Varga"] : [] }],
      levels,
      before: chance() < 0.3 ? anyCue(doc, chance) : null,
    };
  },
  "cues.set": (doc, chance) => ({
    kind: "cues.set",
    cueIds: [anyCue(doc, chance)],
    set:
      pick<EditOf<"cues.set">["set"]>(chance, [
        { name: pick(chance, names) ?? "" },
        { mixedIn: "interface" },
        { levelDb: null },
        { portIds: ["a" as PortId, (chance() < 0.5 ? "a" : "b") as PortId] },
      ]) ?? {},
  }),
  "cues.move": (doc, chance) => ({ kind: "cues.move", cueIds: [anyCue(doc, chance)], before: chance() < 0.5 ? anyCue(doc, chance) : null }),
  "cues.remove": (doc, chance) => ({ kind: "cues.remove", cueIds: [anyCue(doc, chance)] }),
  "cueLevels.put": (doc, chance) => ({
    kind: "cueLevels.put",
    levels: some(chance, channelIds(doc)).map((sourceId) => ({
      id: idFor<CueLevelId>(doc, chance, "level"),
      cueId: anyCue(doc, chance),
      sourceId,
      levelDb: chance() < 0.2 ? null : dB(Math.floor(chance() * 60) - 50),
    })),
  }),
  "cueLevels.shift": (doc, chance) => ({ kind: "cueLevels.shift", cells: someCells(doc, chance), byDb: dB(Math.floor(chance() * 9) - 4) }),
  "cueLevels.remove": (doc, chance) => ({ kind: "cueLevels.remove", cells: someCells(doc, chance) }),
  "passes.add": (doc, chance) => ({
    kind: "passes.add",
    passes: [{ id: idFor<PassId>(doc, chance, "pass"), name: pick(chance, names) ?? "", trackIds: some(chance, trackIds(doc)), openFolderId: maybeFolder(doc, chance) }],
    before: chance() < 0.3 ? anyPass(doc, chance) : null,
  }),
  "passes.set": (doc, chance) => ({
    kind: "passes.set",
    passIds: [anyPass(doc, chance)],
    set: pick<EditOf<"passes.set">["set"]>(chance, [{ trackIds: some(chance, channelIds(doc)) }, { takes: 2 }, { cueIds: [anyCue(doc, chance)] }]) ?? {},
  }),
  "passes.move": (doc, chance) => ({ kind: "passes.move", passIds: [anyPass(doc, chance)], before: chance() < 0.5 ? anyPass(doc, chance) : null }),
  "passes.remove": (doc, chance) => ({ kind: "passes.remove", passIds: [anyPass(doc, chance)] }),
  "passes.run": (doc, chance) => ({ kind: "passes.run", passId: chance() < 0.2 ? null : anyPass(doc, chance) }),
  "folders.remove": (doc, chance) => ({ kind: "folders.remove", folderId: anyFolder(doc, chance) }),
  "findings.accept": (doc, chance) => ({ kind: "findings.accept", findings: [{ id: `track-name:${anyTrack(doc, chance)}`, cause: "x", reason: "as agreed" }] }),
  "findings.reopen": (doc, chance) => ({ kind: "findings.reopen", findingIds: [pick(chance, Object.keys(doc.accepted)) ?? "none"] }),
};

/** A command on things that the document has, so that few are refused. Tracks are added more often than the rest, or the document stays empty. */
export const randomEdit = (doc: Template, chance: Chance): Edit => MAKERS[chance() < 0.3 ? "tracks.add" : (pick(chance, EDIT_KINDS) ?? "tracks.add")](doc, chance);

/** Runs of chance for fast-check: as many numbers as are asked for, from a seed it can shrink and repeat. */
export const chanceRuns = fc.integer({ min: 1, max: 2 ** 31 - 1 }).map((seed): Chance => {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return (state >>> 0) / 2 ** 32;
  };
});
