import { type Colour, UNCOLOURED } from "../model/colours";
import type { BankId } from "../model/ids";
import { lineName } from "../model/line-name";
import { perTwo } from "../model/per-document";
import { existsAtRate, type RigInput, rigInputOf, rigInputsOf } from "../model/read-rig";
import { colourOf, microphoneName, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import { SESSION_KIND_NAMES } from "../model/session-kinds";
import { entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import { LINES, type Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { linesByPort } from "../queries/free-inputs";
import { onSheet } from "../queries/on-sheet";
import { counted } from "../units/counted";
import { formatRate } from "../units/hertz";

export interface SheetRow {
  readonly key: string;
  readonly input: string;
  /** The preamp to plug into; empty when the microphone goes straight into the input. */
  readonly through: string;
  readonly source: string;
  readonly microphone: string;
  /**
   * What of 48 V is there: its own switch, the bank's because another on it has it on, or asked for where the input
   * gives none. Null: none.
   */
  readonly phantom: "own" | "bank" | "not given" | null;
  /** What is set at the preamp besides, in words: gain, pad, polarity. */
  readonly settings: string;
  /** Other sources on the same input, the first few by name; empty when it has the input to itself. */
  readonly sharedWith: readonly string[];
  /** How many more there are than are named. */
  readonly sharedWithMore: number;
  readonly player: string;
  readonly track: string;
  readonly colour: Colour;
  readonly note: string;
}

export interface PatchingSheet {
  readonly title: string;
  readonly subtitle: string;
  readonly sections: readonly { readonly title: string; readonly rows: readonly SheetRow[] }[];
  readonly lineCount: number;
  readonly phantomCount: number;
}

/** What is parked is not plugged in; how much that is, is said. */
const isParked = (doc: Template, { id }: Line): boolean => {
  const takers = tracksByLine(doc).get(id) ?? [];
  return takers.length > 0 && takers.every((track) => track.parked);
};

/** Banks of inputs that carry 48 V because a line on them has it on. */
const poweredBanks = perTwo(
  (doc: Template, rig: Rig): ReadonlySet<BankId> =>
    new Set(
      entriesOf(doc.lines).flatMap((line) => {
        const { phantom, portId } = line;
        const feed = phantom && !isParked(doc, line) ? rigInputOf(rig, portId)?.phantom : undefined;
        return feed?.kind === "bank" ? [feed.bankId] : [];
      }),
    ),
);

/** How 48 V gets to a line, or fails to. */
const phantomAt = (doc: Template, rig: Rig, line: Line, rigInput: RigInput | null): SheetRow["phantom"] => {
  if (rigInput?.phantom.kind === "none") return line.phantom ? "not given" : null;
  if (line.phantom) return "own";
  return rigInput?.phantom.kind === "bank" && poweredBanks(doc, rig).has(rigInput.phantom.bankId) ? "bank" : null;
};

/** So many others on an input are named; a line more on one input must not make every row of it longer. */
const MOST_NAMED = 4;

/** @example sharedWords(row) // "same input as Snare, Rim and 3 more" */
export const sharedWords = ({ sharedWith, sharedWithMore }: SheetRow): string =>
  sharedWith.length
    ? `same input as ${sharedWith.join(", ")}${sharedWithMore ? ` and ${sharedWithMore} more` : ""}`
    : "";

/** What stands in the column of 48 V. */
export const PHANTOM_WORDS: Readonly<Record<NonNullable<SheetRow["phantom"]>, string>> = {
  own: "48 V",
  bank: "48 V by the bank",
  "not given": "none here",
};

const toRow = (
  doc: Template,
  rig: Rig,
  {
    line,
    tracks,
    rigInput,
  }: { readonly line: Line; readonly tracks: readonly Track[]; readonly rigInput: RigInput | null },
): SheetRow => {
  const onInput = rigInput ? (linesByPort(doc).get(rigInput.port.id) ?? []) : [];
  const named = onInput
    .slice(0, MOST_NAMED + 1)
    .filter((other) => other.id !== line.id)
    .slice(0, MOST_NAMED);
  return {
    key: line.id,
    input: rigInput?.label ?? line.requestedInput ?? "",
    through: rigInput?.fedBy
      ? `${rigInput.fedBy.device.name}${rigInput.occupied ? "" : ` ${rigInput.fedBy.port.number}`}`
      : "",
    source: lineName(line, tracks),
    microphone: microphoneName(rig, line.microphone),
    phantom: phantomAt(doc, rig, line, rigInput),
    settings: onSheet(LINES.fields, line, "settings").join(", "),
    sharedWith: named.map((other) => lineName(other, tracksByLine(doc).get(other.id) ?? [])),
    sharedWithMore: Math.max(0, onInput.length - 1) - named.length,
    player: line.player,
    track: tracks.map((track) => track.name).join(", "),
    colour: tracks[0] ? colourOf(doc, tracks[0]) : UNCOLOURED,
    note: [...onSheet(LINES.fields, line, "note"), tracks[0]?.note ?? ""].filter(Boolean).join("; "),
  };
};

/**
 * The sheet the assistant works down: device by device, input by input; lines that can't be plugged in come last, so
 * that nobody misses them.
 */
export const patchingSheet = (doc: Template, rig: Rig): PatchingSheet => {
  const tracks = tracksByLine(doc);
  const row = (line: Line, rigInput: RigInput | null) =>
    toRow(doc, rig, { line, rigInput, tracks: tracks.get(line.id) ?? [] });
  const sections: { title: string; rows: SheetRow[] }[] = [];
  for (const rigInput of rigInputsOf(rig)) {
    const title = rigInput.device.name;
    const there = existsAtRate(rig, rigInput, doc.format.sampleRateHz)
      ? (linesByPort(doc).get(rigInput.port.id) ?? []).filter((line) => !isParked(doc, line))
      : [];
    if (!there.length) continue;
    if (sections.at(-1)?.title !== title) sections.push({ title, rows: [] });
    sections.at(-1)?.rows.push(...there.map((line) => row(line, rigInput)));
  }
  const nowhere = entriesOf(doc.lines).filter((line) => {
    const rigInput = rigInputOf(rig, line.portId);
    return !isParked(doc, line) && (!rigInput || !existsAtRate(rig, rigInput, doc.format.sampleRateHz));
  });
  if (nowhere.length) sections.push({ title: "Without an input", rows: nowhere.map((line) => row(line, null)) });
  const lines = entriesOf(doc.lines).filter((line) => !isParked(doc, line));
  const parked = Object.keys(doc.lines).length - lines.length;
  return {
    title: doc.name,
    subtitle: `${SESSION_KIND_NAMES[doc.kind]} · ${rig.name} · ${formatRate(doc.format.sampleRateHz)} · ${doc.format.bitDepth} bit${parked ? ` · ${counted(parked, "parked line")} left out` : ""}`,
    sections,
    lineCount: lines.length,
    phantomCount: sections
      .flatMap((section) => section.rows)
      .filter((entry) => entry.phantom === "own" || entry.phantom === "bank").length,
  };
};
