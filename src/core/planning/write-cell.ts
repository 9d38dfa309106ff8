import type { Field } from "../model/describe/fields";
import { FAMILY_DEFAULTS, isIcon, plain } from "../model/families";
import { guessFamily } from "../model/guess-family";
import type { ChannelId, FolderId, IdSource, LineId } from "../model/ids";
import { findRigInput, noSuchInput, type RigInput, rigInputOf, rigInputsOf } from "../model/read-rig";
import { linesOfTrack, trackOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf, inOrder, putInto } from "../model/table";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import { newLine } from "../model/tables/lines";
import type { Template } from "../model/template";
import { type CellColumn, gridColumn } from "../queries/columns";
import { linesByPort } from "../queries/free-inputs";
import { outputChoices, readOutput, sumNamed } from "../queries/outputs";
import { type ReadField, readField } from "../reading/field-text";
import { readColour, readInputs, readLayout, readMicrophone } from "../reading/read-cells";
import { counted } from "../units/counted";
import { dB, formatGain } from "../units/decibels";
import { countChannels } from "./edits/channel-edits";
import type { Edit, LineChange, LinePort } from "./edits/edit";
import { sumOf } from "./edits/sums";
import { templateEditing } from "./edits/template-editing";
import { dyedByName } from "./family";
import { type Planned, planned, unplanned } from "./gesture";
import { writeChain, writeSends } from "./write-routing";

/** Between what differs on the two sides of a stereo track. */
const SIDES = " + ";

interface Typed {
  readonly trackIds: readonly ChannelId[];
  readonly text: string;
  readonly ids: IdSource;
  /** Where it is at hand: chains that it keeps can be named. */
  readonly studio?: Studio;
}

type Writer = (doc: Template, rig: Rig, edit: Typed) => Planned;

const lineIdsOf = (doc: Template, trackIds: readonly ChannelId[]) => [
  ...new Set(trackIds.flatMap((id) => inputLineIds(trackOf(doc, id)?.input ?? { kind: "none" }))),
];

/** Gives tracks that take nothing a line of their own: what is typed of a source needs one to belong to. */
const bringLines = (doc: Template, { trackIds, ids }: Typed): readonly Extract<Edit, { kind: "tracks.take" }>[] =>
  bringTo(
    trackIds.filter((trackId) => trackOf(doc, trackId)?.input.kind === "none"),
    ids,
  );

const bringTo = (trackIds: readonly ChannelId[], ids: IdSource): readonly Extract<Edit, { kind: "tracks.take" }>[] =>
  trackIds.map((trackId) => {
    const line = newLine({ id: ids<LineId>("line") });
    return { kind: "tracks.take", trackId, input: { kind: "line", lineId: line.id }, lines: [line] } as const;
  });

/** Why there is no line to write to: nothing is selected, or what is records a bus. */
const noLines = (doc: Template, { trackIds: [first] }: Typed): Planned => {
  const track = first ? trackOf(doc, first) : null;
  if (!track) return unplanned("Select a track first.");
  return unplanned(
    `${track.name || "This track"} records no line of its own: what is played into it is written where its lines are.`,
  );
};

const needLines = (doc: Template, edit: Typed, make: (lineIds: readonly LineId[]) => Edit): Planned => {
  const brought = bringLines(doc, edit);
  const lineIds = [...lineIdsOf(doc, edit.trackIds), ...brought.flatMap((take) => take.lines.map((line) => line.id))];
  if (!lineIds.length) return noLines(doc, edit);
  const command = make(lineIds);
  return brought.length ? planned([...brought, command], commandOn(doc, [...brought, command])) : planned([command]);
};

/** What the last of several edits is called once the others are done. */
const commandOn = (doc: Template, edits: readonly Edit[]): string => {
  const before = templateEditing.applyAll(doc, edits.slice(0, -1));
  const last = edits.at(-1);
  return before.ok && last ? templateEditing.name(before.doc, last) : "";
};

const writeName: Writer = (doc, _rig, { trackIds, text, studio }) => {
  const name = text.trim();
  if (!name) return unplanned("A track needs a name: its files are called by it.");
  const named = trackIds.map(
    (id, at): Edit => ({
      kind: "entries.set",
      table: "channels",
      ids: [id],
      set: { name: trackIds.length > 1 ? `${name} ${at + 1}` : name },
    }),
  );
  return planned([...named, ...(studio ? dyedByName(doc, { trackIds, name, studio }) : [])]);
};

const rangeOf = (rig: Rig): string => {
  const labels = rigInputsOf(rig).flatMap((rigInput) => (rigInput.loopBack ? [] : [rigInput.label]));
  return `${labels[0] ?? "none"} to ${labels.at(-1) ?? "none"}`;
};

/**
 * From the input that was named on, as they sit: as many as are needed. Those that carry something else are passed over
 * after the first.
 */
const ascending = (rig: Rig, first: RigInput, count: number): readonly RigInput[] => {
  const rigInputs = rigInputsOf(rig);
  const rest = rigInputs
    .slice(rigInputs.indexOf(first) + 1)
    .filter((rigInput) => !rigInput.occupied && rigInput.loopBack === first.loopBack);
  return [first, ...rest].slice(0, count);
};

/** What is typed into the cell of an input: the name of a bus is recorded, all else is an input of the rig. */
const writeInput: Writer = (doc, rig, edit) => {
  const bus = sumNamed(doc, edit.text);
  if (bus)
    return planned(
      edit.trackIds.map((trackId) => ({
        kind: "tracks.take",
        trackId,
        input: { kind: "bus", busId: bus.id },
        lines: [],
      })),
      `Record ${bus.name} on ${countChannels(doc, edit.trackIds)}`,
    );
  const recording = edit.trackIds.filter((id) => ["bus", "instrument"].includes(trackOf(doc, id)?.input.kind ?? ""));
  if (!edit.text.trim() && recording.length === edit.trackIds.length)
    return planned(recording.map((trackId) => ({ kind: "tracks.take", trackId, input: { kind: "none" }, lines: [] })));
  const brought = [...bringLines(doc, edit), ...bringTo(recording, edit.ids)];
  const lineIds = [...lineIdsOf(doc, edit.trackIds), ...brought.flatMap((take) => take.lines.map((line) => line.id))];
  if (!lineIds.length) return unplanned("Select a track first.");
  const labels = readInputs(edit.text);
  if (labels === null)
    return unplanned(`“${edit.text.trim()}” is no input. Type its number, as 7, E5, or 5-6 for stereo.`);
  if (!labels.length)
    return planned([
      { kind: "lines.patch", inputs: lineIds.map((lineId) => ({ lineId, portId: null, requestedInput: null })) },
    ]);
  const rigInputs = labels.map((label) => findRigInput(rig, label));
  const lost = labels.find((_label, at) => !rigInputs[at]);
  const [first, second] = rigInputs;
  if (lost !== undefined || !first) return unplanned(`${noSuchInput(rig, lost ?? "")}. It has ${rangeOf(rig)}.`);
  if (second && lineIds.length !== 2)
    return unplanned("Two inputs are for one stereo track. Type one input, or make the track stereo first.");
  const taken = second ? [first, second] : ascending(rig, first, lineIds.length);
  if (taken.length < lineIds.length)
    return unplanned(
      `From input ${first.label} on there are only ${taken.length} inputs, and ${lineIds.length} are needed.`,
    );
  const inputs: LinePort[] = lineIds.map((lineId, at) => ({
    lineId,
    portId: taken[at]?.port.id ?? null,
    requestedInput: null,
  }));
  const who =
    edit.trackIds.length === 1 && edit.trackIds[0]
      ? (trackOf(doc, edit.trackIds[0])?.name ?? "")
      : `${edit.trackIds.length} tracks`;
  const where = taken.length === 1 ? `input ${first.label}` : `inputs ${first.label} to ${taken.at(-1)?.label}`;
  return planned([...brought, { kind: "lines.patch", inputs }], `Move ${who} to ${where}`);
};

const folderNamed = (doc: Template, name: string) =>
  entriesOf(doc.folders).find((folder) => plain(folder.name) === plain(name));

/**
 * Where a new folder stands: where its tracks stood. Behind the folder that the first of them lay in, beside it; or
 * before all folders, where it lay in none.
 */
const placeOfNew = (doc: Template, trackIds: readonly ChannelId[]) => {
  const was = trackIds[0] ? (trackOf(doc, trackIds[0])?.folderId ?? null) : null;
  const parentId = was ? (doc.folders[was]?.parentId ?? null) : null;
  const beside = inOrder(doc.folders).filter((folder) => folder.parentId === parentId);
  const at = was ? beside.findIndex(({ id }) => id === was) + 1 : 0;
  return { parentId, before: beside[at]?.id ?? null };
};

const writeFolder: Writer = (doc, _rig, { trackIds, text, ids, studio }) => {
  const name = text.trim();
  const who =
    trackIds.length === 1 && trackIds[0] ? (trackOf(doc, trackIds[0])?.name ?? "") : `${trackIds.length} tracks`;
  const move = (folderId: FolderId | null): Edit => ({
    kind: "entries.move",
    table: "channels",
    ids: trackIds,
    parent: folderId,
    before: null,
  });
  if (!name) return planned([move(null)]);
  const existing = folderNamed(doc, name);
  if (existing) return planned([move(existing.id)]);
  const id = ids<FolderId>("folder");
  const family = guessFamily(name);
  const { parentId, before } = placeOfNew(doc, trackIds);
  const colour = family && (studio?.families ?? FAMILY_DEFAULTS)[family].colour;
  return planned(
    [{ kind: "entries.add", entries: { folders: [{ id, name, parentId, colour }] }, before }, move(id)],
    `Put ${who} in the new folder ${name}`,
  );
};

const writeColour: Writer = (_doc, _rig, { trackIds, text }) => {
  if (!text.trim()) return planned([{ kind: "entries.set", table: "channels", ids: trackIds, set: { colour: null } }]);
  const colour = readColour(text);
  return colour
    ? planned([{ kind: "entries.set", table: "channels", ids: trackIds, set: { colour: colour.colour } }])
    : unplanned(`“${text.trim()}” is no dye. Choose one from the list, or type a hex value such as #2f9074.`);
};

const sidesOf = (doc: Template, trackIds: readonly ChannelId[], side: 0 | 1): readonly LineId[] => [
  ...new Set(trackIds.flatMap((id) => linesOfTrack(doc, trackOf(doc, id) as Track)[side]?.id ?? [])),
];

/**
 * A text of lines. "A + B" on stereo tracks is A on the left and B on the right, as such a cell shows it; on any other
 * track, and where a thing is called so, it is one text.
 */
const writeSides = (doc: Template, rig: Rig, edit: Typed, set: (text: string) => LineChange): Planned => {
  const [left, right, more] = edit.text.split(SIDES);
  const stereo = edit.trackIds.every((id) => trackOf(doc, id)?.input.kind === "pair");
  const isName = entriesOf(rig.microphones).some((item) => plain(item.name) === plain(edit.text));
  if (
    !stereo ||
    left === undefined ||
    right === undefined ||
    more !== undefined ||
    isName ||
    !left.trim() ||
    !right.trim()
  )
    return needLines(doc, edit, (lineIds) => ({
      kind: "entries.set",
      table: "lines",
      ids: lineIds,
      set: set(edit.text),
    }));
  const edits = ([left, right] as const).map(
    (text, side): Edit => ({
      kind: "entries.set",
      table: "lines",
      ids: sidesOf(doc, edit.trackIds, side as 0 | 1),
      set: set(text),
    }),
  );
  return planned(
    edits,
    templateEditing.name(doc, {
      kind: "entries.set",
      table: "lines",
      ids: lineIdsOf(doc, edit.trackIds),
      set: set(edit.text),
    }),
  );
};

const setTo = (key: string, read: ReadField): LineChange => (read.ok ? { [key]: read.value } : {});

/** A field of the lines by what its description says: text and numbers by sides, a switch for both of them. */
const writeLines =
  ({ key, field }: { readonly key: string; readonly field: Field }): Writer =>
  (doc, rig, edit) => {
    const whole = readField(field, edit.text);
    const sides = edit.text.split(SIDES).map((side) => readField(field, side));
    if (field.kind !== "flag" && sides.every((side) => side.ok))
      return writeSides(doc, rig, edit, (text) => setTo(key, readField(field, text)));
    if (whole.ok)
      return needLines(doc, edit, (lineIds) => ({
        kind: "entries.set",
        table: "lines",
        ids: lineIds,
        set: { [key]: whole.value },
      }));
    const said = `“${edit.text.trim()}” `;
    return unplanned(
      field.kind === "decibels"
        ? `${said}is no ${field.word.replace("the ", "")}. Type a number of dB from ${formatGain(dB(field.range?.min ?? 0))} to ${field.range?.max}, such as 32 or 32.5.`
        : `${said}${whole.says}.`,
    );
  };

/** Makes a track stereo by a second line on the neighbouring input, or mono by leaving the right one away. */
const writeLayout: Writer = (doc, rig, { trackIds, text, ids }) => {
  const layout = readLayout(text);
  if (layout === null) return unplanned(`“${text.trim()}” is neither mono nor stereo.`);
  const claimed = new Set<string>();
  const edits = trackIds.flatMap((trackId): Edit[] => {
    const track = trackOf(doc, trackId);
    if (!track || (track.input.kind === "pair") === (layout === "stereo")) return [];
    if (track.input.kind === "pair")
      return [{ kind: "tracks.take", trackId, input: { kind: "line", lineId: track.input.leftId }, lines: [] }];
    const left = linesOfTrack(doc, track)[0] ?? newLine({ id: ids<LineId>("line") });
    const neighbour = rigInputOf(rig, rigInputOf(rig, left.portId)?.port.neighbourId ?? null);
    const free =
      neighbour && !linesByPort(doc).has(neighbour.port.id) && !claimed.has(neighbour.port.id)
        ? neighbour.port.id
        : null;
    if (free) claimed.add(free);
    const right = newLine({ ...left, id: ids<LineId>("line"), portId: free, requestedInput: null });
    const lines = track.input.kind === "line" ? [right] : [left, right];
    return [{ kind: "tracks.take", trackId, input: { kind: "pair", leftId: left.id, rightId: right.id }, lines }];
  });
  return planned(edits, `Make ${counted(trackIds.length, "track")} ${layout}`);
};

/** An empty cell means where the folder goes by itself. */
const writeOutput: Writer = (doc, rig, { trackIds, text }) => {
  const name = text.trim();
  if (!name) {
    const groups = new Map<ChannelId, ChannelId[]>();
    for (const id of trackIds) {
      const sum = sumOf(doc, trackOf(doc, id)?.folderId ?? null);
      putInto(groups, sum, id);
    }
    return planned(
      [...groups].map(([channelId, ids]) => ({
        kind: "entries.set",
        table: "channels",
        ids,
        set: { output: { kind: "channel", channelId } },
      })),
    );
  }
  const output = readOutput(doc, rig, name);
  if (output) return planned([{ kind: "entries.set", table: "channels", ids: trackIds, set: { output } }]);
  const some = outputChoices(doc, rig).slice(0, 6);
  return unplanned(
    `There is no bus and no output ${name}. There is ${some.map(({ label }) => label).join(", ")}${some.length === 6 ? " and more" : ""}; a new bus is added on the Signal flow page.`,
  );
};

const writeTrack =
  ({ key, field }: { readonly key: string; readonly field: Field }): Writer =>
  (_doc, _rig, { trackIds, text }) => {
    const read = readField(field, text);
    return read.ok
      ? planned([{ kind: "entries.set", table: "channels", ids: trackIds, set: { [key]: read.value } }])
      : unplanned(`“${text.trim()}” ${read.says}.`);
  };

const writeIcon: Writer = (_doc, _rig, { trackIds, text }) => {
  const icon = text.trim().toLowerCase();
  if (icon && !isIcon(icon)) return unplanned(`There is no icon ${icon}. Choose one from the list.`);
  return planned([
    { kind: "entries.set", table: "channels", ids: trackIds, set: { icon: isIcon(icon) ? icon : null } },
  ]);
};

/** Columns whose text means more than the value of a field. All others are written by what their description says. */
const SPECIAL: Partial<Readonly<Record<CellColumn, Writer>>> = {
  name: writeName,
  input: writeInput,
  folder: writeFolder,
  colour: writeColour,
  icon: writeIcon,
  layout: writeLayout,
  output: writeOutput,
  sends: (doc, _rig, edit) => writeSends(doc, edit),
  chain: (doc, _rig, edit) => writeChain(doc, edit),
  microphone: (doc, rig, edit) => writeSides(doc, rig, edit, (text) => ({ microphone: readMicrophone(rig, text) })),
};

const writerOf = (id: CellColumn): Writer => {
  const { of, key, field } = gridColumn(id);
  const special = SPECIAL[id];
  if (special) return special;
  if (key === null || !field) throw new Error(`expected a way to write ${id}, got none`);
  return of === "line" ? writeLines({ key, field }) : writeTrack({ key, field });
};

/**
 * What typing a text into a cell of one or several rows does. Several rows get the same value, but names are numbered
 * and inputs ascend from the one typed. Text that can't be understood is answered with what to type.
 */
export const writeCell = (doc: Template, rig: Rig, edit: Typed & { readonly column: CellColumn }): Planned =>
  writerOf(edit.column)(doc, rig, edit);
