import type { Command, LinePort } from "../commands/command";
import { FAMILY_DEFAULTS, guessFamily, isIcon, plain } from "../model/families";
import type { ChannelId, FolderId, IdSource } from "../model/ids";
import { findJack, type InputJack, inputJacks, jackOf } from "../model/read-rig";
import { inputLineIds, linesOfTrack, microphoneName, trackOf } from "../model/read-template";
import { entriesOf, type Rig } from "../model/rig";
import type { Template, Track } from "../model/template";
import { readColour, readInputs, readMicrophone, readPhantom } from "../reading/read-cells";
import { counted } from "../units/counted";
import { type Planned, planned, unplanned } from "./gesture";

/** What can be edited in a row of the input list. */
export const CELL_COLUMNS = ["icon", "dye", "name", "layout", "microphone", "input", "phantom", "player", "folder", "note"] as const;
export type CellColumn = (typeof CELL_COLUMNS)[number];

const joined = (values: readonly string[]): string => [...new Set(values)].join(" + ");

/** The inputs of a track, short: "7", "5–6", "E1", "3 + 9", "17?" for one that is asked for and not there. */
export const inputText = (doc: Template, rig: Rig, track: Track): string => {
  const labels = linesOfTrack(doc, track).map((line) => jackOf(rig, line.portId)?.label ?? (line.wanted ? `${line.wanted}?` : ""));
  const [left, right] = labels;
  if (!left || !right) return labels.filter(Boolean).join(" + ");
  const [a, b] = linesOfTrack(doc, track).map((line) => jackOf(rig, line.portId));
  return a && b && a.port.neighbourId === b.port.id ? `${left}–${b.port.number}` : `${left} + ${right}`;
};

/** A cell as text, as it is shown and as it can be typed again. */
export const cellText = (doc: Template, rig: Rig, { track, column }: { readonly track: Track; readonly column: CellColumn }): string => {
  const lines = linesOfTrack(doc, track);
  switch (column) {
    case "icon":
      return track.icon ?? "";
    case "dye":
      return track.dye ?? "";
    case "name":
      return track.name;
    case "layout":
      return track.input.kind === "pair" ? "stereo" : "mono";
    case "microphone":
      return joined(lines.map((line) => microphoneName(rig, line.microphone)));
    case "input":
      return inputText(doc, rig, track).replace("–", "-").replaceAll("?", "");
    case "phantom":
      return lines.some((line) => line.phantom) ? "yes" : "no";
    case "player":
      return joined(lines.map((line) => line.player));
    case "folder":
      return (track.folderId && doc.folders[track.folderId]?.name) ?? "";
    case "note":
      return track.note;
    default:
      return column satisfies never;
  }
};

interface Edit {
  readonly trackIds: readonly ChannelId[];
  readonly text: string;
  readonly ids: IdSource;
}

type Writer = (doc: Template, rig: Rig, edit: Edit) => Planned;

const lineIdsOf = (doc: Template, trackIds: readonly ChannelId[]) => [...new Set(trackIds.flatMap((id) => inputLineIds(trackOf(doc, id)?.input ?? { kind: "none" })))];

const needLines = (doc: Template, { trackIds }: Edit, make: (lineIds: ReturnType<typeof lineIdsOf>) => Command): Planned => {
  const lineIds = lineIdsOf(doc, trackIds);
  return lineIds.length ? planned([make(lineIds)]) : unplanned("This track takes no line. Give it an input first.");
};

const writeName: Writer = (_doc, _rig, { trackIds, text }) => {
  const name = text.trim();
  if (!name) return unplanned("A track needs a name: its files are called by it.");
  return planned(trackIds.map((id, at) => ({ kind: "tracks.set", trackIds: [id], set: { name: trackIds.length > 1 ? `${name} ${at + 1}` : name } })));
};

const rangeOf = (rig: Rig): string => {
  const labels = inputJacks(rig).map((jack) => jack.label);
  return `${labels[0] ?? "none"} to ${labels.at(-1) ?? "none"}`;
};

/** From the input that was named on, as they sit: as many as are needed. Those that carry something else are passed over after the first. */
const ascending = (rig: Rig, first: InputJack, count: number): readonly InputJack[] => {
  const jacks = inputJacks(rig);
  const rest = jacks.slice(jacks.indexOf(first) + 1).filter((jack) => !jack.occupied);
  return [first, ...rest].slice(0, count);
};

const writeInput: Writer = (doc, rig, edit) => {
  const lineIds = lineIdsOf(doc, edit.trackIds);
  if (!lineIds.length) return unplanned("This track takes no line, so it can't be put on an input.");
  const labels = readInputs(edit.text);
  if (labels === null) return unplanned(`“${edit.text.trim()}” is no input. Type its number, as 7, E5, or 5-6 for stereo.`);
  if (!labels.length) return planned([{ kind: "lines.patch", inputs: lineIds.map((lineId) => ({ lineId, portId: null, wanted: null })) }]);
  const jacks = labels.map((label) => findJack(rig, label));
  const lost = labels.find((_label, at) => !jacks[at]);
  const [first, second] = jacks;
  if (lost !== undefined || !first) return unplanned(`${rig.name} has no input ${lost}. It has ${rangeOf(rig)}.`);
  if (second && lineIds.length !== 2) return unplanned("Two inputs are for one stereo track. Type one input, or make the track stereo first.");
  const taken = second ? [first, second] : ascending(rig, first, lineIds.length);
  if (taken.length < lineIds.length) return unplanned(`From input ${first.label} on there are only ${taken.length} inputs, and ${lineIds.length} are needed.`);
  const inputs: LinePort[] = lineIds.map((lineId, at) => ({ lineId, portId: taken[at]?.port.id ?? null, wanted: null }));
  const who = edit.trackIds.length === 1 && edit.trackIds[0] ? (trackOf(doc, edit.trackIds[0])?.name ?? "") : `${edit.trackIds.length} tracks`;
  const where = taken.length === 1 ? `input ${first.label}` : `inputs ${first.label} to ${taken.at(-1)?.label}`;
  return planned([{ kind: "lines.patch", inputs }], `Move ${who} to ${where}`);
};

const folderNamed = (doc: Template, name: string) => entriesOf(doc.folders).find((folder) => plain(folder.name) === plain(name));

const writeFolder: Writer = (doc, _rig, { trackIds, text, ids }) => {
  const name = text.trim();
  const who = trackIds.length === 1 && trackIds[0] ? (trackOf(doc, trackIds[0])?.name ?? "") : `${trackIds.length} tracks`;
  const move = (folderId: FolderId | null): Command => ({ kind: "tracks.move", trackIds, folderId, before: null });
  if (!name) return planned([move(null)]);
  const existing = folderNamed(doc, name);
  if (existing) return planned([move(existing.id)]);
  const id = ids<FolderId>("folder");
  const family = guessFamily(name);
  return planned([{ kind: "folders.add", folders: [{ id, name, dye: family && FAMILY_DEFAULTS[family].dye }], parentId: null }, move(id)], `Put ${who} in the new folder ${name}`);
};

const writeDye: Writer = (_doc, _rig, { trackIds, text }) => {
  if (!text.trim()) return planned([{ kind: "tracks.set", trackIds, set: { dye: null } }]);
  const colour = readColour(text);
  return colour
    ? planned([{ kind: "tracks.set", trackIds, set: { dye: colour.dye } }])
    : unplanned(`“${text.trim()}” is no dye. Choose one from the list, or type a hex value such as #2f9074.`);
};

const WRITERS: Readonly<Record<Exclude<CellColumn, "layout">, Writer>> = {
  name: writeName,
  input: writeInput,
  folder: writeFolder,
  dye: writeDye,
  icon: (_doc, _rig, { trackIds, text }) => {
    const icon = text.trim().toLowerCase();
    if (icon && !isIcon(icon)) return unplanned(`There is no icon ${icon}. Choose one from the list.`);
    return planned([{ kind: "tracks.set", trackIds, set: { icon: isIcon(icon) ? icon : null } }]);
  },
  microphone: (doc, rig, edit) => needLines(doc, edit, (lineIds) => ({ kind: "lines.set", lineIds, set: { microphone: readMicrophone(rig, edit.text) } })),
  phantom: (doc, _rig, edit) => {
    const phantom = readPhantom(edit.text);
    return phantom === null ? unplanned(`“${edit.text.trim()}” says neither yes nor no.`) : needLines(doc, edit, (lineIds) => ({ kind: "lines.set", lineIds, set: { phantom } }));
  },
  player: (doc, _rig, edit) => needLines(doc, edit, (lineIds) => ({ kind: "lines.set", lineIds, set: { player: edit.text.trim() } })),
  note: (_doc, _rig, { trackIds, text }) => planned([{ kind: "tracks.set", trackIds, set: { note: text.trim() } }]),
};

/**
 * What typing a text into a cell of one or several rows does. Several rows get the same value, but names are numbered and inputs ascend from the one typed.
 * Text that can't be understood is answered with what to type.
 */
export const writeCell = (doc: Template, rig: Rig, edit: Edit & { readonly column: Exclude<CellColumn, "layout"> }): Planned => WRITERS[edit.column](doc, rig, edit);

/** Gives each track the dye and icon of the family its name tells; tracks whose family is not known stay as they are. */
export const dyeByFamily = (doc: Template, trackIds: readonly ChannelId[]): Planned => {
  const commands = trackIds.flatMap((id): Command[] => {
    const family = guessFamily(trackOf(doc, id)?.name ?? "");
    return family ? [{ kind: "tracks.set", trackIds: [id], set: { dye: FAMILY_DEFAULTS[family].dye, icon: FAMILY_DEFAULTS[family].icon } }] : [];
  });
  if (!commands.length) return unplanned("No name tells which family it belongs to. Choose a colour instead.");
  return planned(commands, `Dye ${counted(commands.length, "track")} by family`);
};
