import { UNCOLOURED } from "../../model/colours";
import { FAMILIES, FAMILY_DEFAULTS, type Family, plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import type { IdSource, LineId } from "../../model/ids";
import { findRigInput, noSuchInput } from "../../model/read-rig";
import { microphoneFacts, microphoneName, tracksOf } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import type { Studio } from "../../model/studio";
import { entriesOf } from "../../model/table";
import { type Line, newLine } from "../../model/tables/lines";
import type { Template } from "../../model/template";
import { proposeInputs, type Seeking } from "../../planning/propose-inputs";
import { usualMicrophone } from "../../planning/usual-microphones";
import { taughtWords } from "../../queries/taught-words";
import { readAnswer } from "../../reading/answers";
import { fullMicrophone, fullName } from "../../reading/full-names";
import { readPlaces } from "../../reading/places";
import { readLayout, readMicrophone } from "../../reading/read-cells";
import type { ListRow } from "../input-list/list-types";
import type { RowChange, SessionRow, Switches } from "./session-row";

export interface SessionRequest {
  readonly doc: Template;
  readonly rig: Rig;
  readonly studio: Studio;
  readonly switches: Switches;
  /** The input to begin from, as it is typed; empty for the first that is free and fits. */
  readonly from: string;
  /** By the key of a row: cells that were changed in the preview. */
  readonly changes: Readonly<Record<string, RowChange>>;
  readonly ids: IdSource;
}

interface Draft extends Omit<SessionRow, "inputs" | "proposed"> {
  readonly written: readonly string[];
  readonly faults: readonly string[];
}

const familyNamed = (text: string): Family | null | undefined => {
  if (!text.trim()) return undefined;
  return FAMILIES.find((family) => family === text || plain(FAMILY_DEFAULTS[family].name) === plain(text)) ?? null;
};

/** The microphone a row says, as a person changed it, else the usual one. */
const microphoneOf = (
  row: ListRow,
  name: string,
  around: { family: Family | null; change: RowChange; request: SessionRequest },
) => {
  const { family, change, request } = around;
  const written = change.microphone ?? row.sides.map((side) => side.microphone).find(Boolean) ?? "";
  if (change.microphone !== undefined) return { text: written, usual: false };
  // A name says "DI" of either kind; which is usual is as good as any other guess, and told.
  const open = plain(written) === "di" && request.switches.microphones;
  if (written && !open) return { text: request.switches.inFull ? fullMicrophone(written) : written, usual: false };
  const usual = request.switches.microphones ? usualMicrophone(name, family) : null;
  return { text: usual ?? "", usual: usual !== null };
};

const linesOf = (
  row: ListRow,
  stereo: boolean,
  microphone: string,
  { change, request }: { change: RowChange; request: SessionRequest },
): readonly Line[] => {
  const { rig, switches, ids } = request;
  const choice = readMicrophone(rig, microphone);
  const facts = microphoneFacts(rig, choice);
  return (stereo ? [0, 1] : [0]).map((at) => {
    const side = row.sides[at] ?? row.sides[0];
    const said = change.phantom !== undefined ? readAnswer(change.phantom) === "yes" : undefined;
    const by = switches.phantom && facts ? facts.phantom === "needs" : false;
    return newLine({
      ...side.values,
      source: "",
      player: change.player ?? side.values.player ?? "",
      id: ids<LineId>("line"),
      microphone: choice,
      phantom: said ?? (side.saysPhantom ? (side.values.phantom ?? false) : by),
    });
  });
};

/** Ribbons are ruined by 48 V or need it, and a list often says no more than "ribbon". */
const asksOf = (rig: Rig, microphone: string): string | null => {
  const words = plain(microphone);
  const open =
    /\b(?:ribbon|ribbons|bandchen|ruban|nastro|cinta)\b/.test(words) &&
    !/\b(?:passive?|active?|passiv|aktiv|actif|passif|attivo|passivo|activa|pasiva)\b/.test(words);
  const onShelf = entriesOf(rig.microphones).some((item) => plain(item.name) === words);
  return open && !onShelf ? "which ribbon? phantom stays off" : null;
};

/** The family of a row: as a person chose, else as its name and what stands around it tell. */
const familyOf = (
  row: ListRow,
  names: readonly string[],
  { change, studio }: { readonly change: RowChange; readonly studio: Studio },
): Family | null => {
  const chosen = familyNamed(change.family ?? "");
  if (chosen !== undefined) return chosen;
  const folder = change.folder ?? row.folder.at(-1) ?? "";
  return guessFamily(row.name, { names, folder, microphone: row.sides[0].microphone, words: taughtWords(studio) });
};

const isStereo = (row: ListRow, { layout }: RowChange): boolean => {
  const chosen = layout === undefined ? null : readLayout(layout);
  return chosen === null ? row.sides.length === 2 : chosen === "stereo";
};

/** The inputs that are written for a row, and what is wrong with them. */
const writtenOf = (row: ListRow, { input }: RowChange): Pick<Draft, "written" | "faults"> => {
  if (input === undefined) return { written: row.sides.flatMap((side) => side.input ?? []), faults: [] };
  const places = readPlaces(input);
  return { written: places?.labels ?? [], faults: places ? [] : [`“${input}” is no input.`] };
};

const draftOf = (row: ListRow, key: string, names: readonly string[], request: SessionRequest): Draft => {
  const { studio, switches, rig } = request;
  const change = request.changes[key] ?? {};
  const family = familyOf(row, names, { change, studio });
  const style = family && studio.families[family];
  const microphone = microphoneOf(row, row.name, { family, change, request });
  const lines = linesOf(row, isStereo(row, change), microphone.text, { change, request });
  const [left] = lines;
  const group = change.folder ?? row.folder.at(-1) ?? "";
  const usualFolder = switches.folders && style ? style.folder || FAMILY_DEFAULTS[style.id].name : "";
  return {
    key,
    name: change.name ?? (switches.inFull ? fullName(row.name) : row.name),
    family,
    colour: style?.colour ?? UNCOLOURED,
    icon: style?.icon ?? "line",
    lines,
    microphone: microphone.text ? microphoneName(rig, left?.microphone ?? null) : "",
    usual: microphone.usual,
    phantom: lines.some((line) => line.phantom),
    polarity: lines.some((line) => line.polarityInverted),
    pad: lines.some((line) => line.pad),
    player: left?.player ?? "",
    folder: group || usualFolder,
    note: row.note,
    marks: row.marks,
    asks: asksOf(rig, microphone.text),
    ...writtenOf(row, change),
  };
};

/** Lines of a draft on the inputs that were written; a pair with one input takes its neighbour with it. */
const onWritten = (draft: Draft, rig: Rig): { readonly lines: readonly Line[]; readonly faults: readonly string[] } => {
  const faults: string[] = [...draft.faults];
  const lines = draft.lines.map((line, at): Line => {
    const label = draft.written[at];
    if (label === undefined) return line;
    const found = findRigInput(rig, label);
    if (!found) faults.push(`${noSuchInput(rig, label)}.`);
    return found ? { ...line, portId: found.port.id } : { ...line, requestedInput: label };
  });
  return { lines, faults };
};

const keyed = (rows: readonly ListRow[]): readonly string[] => {
  const times = new Map<string, number>();
  return rows.map(({ name }) => {
    const base = plain(name) || name;
    const count = (times.get(base) ?? 0) + 1;
    times.set(base, count);
    return `${base}#${count}`;
  });
};

const isSeeking = (lines: readonly Line[]): lines is Seeking => lines.length === 1 || lines.length === 2;

/** The rows of what was written as tracks: family, microphone, phantom and input of each, in the order of the text. */
export const sessionRows = (rows: readonly ListRow[], request: SessionRequest): readonly SessionRow[] => {
  const { doc, rig } = request;
  const names = [...rows.map((row) => row.name), ...tracksOf(doc).map((track) => track.name)];
  const keys = keyed(rows);
  const drafts = rows.map((row, at) => draftOf(row, keys[at] ?? "", names, request));
  const placed = drafts.map((draft) => onWritten(draft, rig));
  const open = placed.map(({ lines }) => lines.every((line) => !line.portId && !line.requestedInput));
  const seeking = placed.map(({ lines }) => lines).filter((lines, at) => open[at] || lines.some((line) => line.portId));
  const given = proposeInputs(doc, rig, seeking.filter(isSeeking), {
    from: request.from.trim() ? findRigInput(rig, request.from) : null,
  });
  let next = 0;
  return drafts.map(({ written: _written, faults: _faults, ...draft }, at): SessionRow => {
    const { lines, faults } = placed[at] ?? { lines: [], faults: [] };
    const seeks = open[at] || lines.some((line) => line.portId);
    const inputs = seeks ? (given[next++] ?? []) : [];
    const standing = open[at] ? lines.map((line, side) => ({ ...line, portId: inputs[side]?.port.id ?? null })) : lines;
    const labels = open[at]
      ? inputs.map(({ label }) => label)
      : lines.flatMap((line) => line.requestedInput ?? inputs.find(({ port }) => port.id === line.portId)?.label ?? []);
    return {
      ...draft,
      lines: standing,
      inputs: labels,
      proposed: open[at] ?? false,
      asks: draft.asks ?? faults[0] ?? (labels.length ? null : "no free input fits"),
    };
  });
};
