import type { ChannelId, FolderId, IdSource, LineId } from "../model/ids";
import { existsAtRate, findRigInput, type RigInput, rigInputsOf } from "../model/read-rig";
import { tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { FADER_DB } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import { type Line, newLine } from "../model/tables/lines";
import type { Template } from "../model/template";
import { linesByPort } from "../queries/free-inputs";
import { readDecibels } from "../reading/read-cells";
import { counted } from "../units/counted";
import { type Decibels, formatLevel } from "../units/decibels";
import type { NewTrack } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

export interface AddPhrase {
  readonly count: number;
  readonly layout: "mono" | "stereo";
  /** The input to start from; null for the first free one. */
  readonly from: string | null;
  /**
   * How they begin, where it is said: the level of their faders, where they record, how they are heard while they do.
   */
  readonly begin: Partial<Pick<Track, "faderDb" | "recordPoint" | "monitor">>;
}

const BEGINNINGS: Readonly<Record<string, AddPhrase["begin"]>> = {
  "before the chain": { recordPoint: "before" },
  "after the chain": { recordPoint: "after" },
  direct: { monitor: "direct" },
  "through the computer": { monitor: "computer" },
  "not monitored": { monitor: "off" },
};

const BEGIN_WORDS: { readonly [K in keyof AddPhrase["begin"]]: (begin: AddPhrase["begin"]) => string } = {
  faderDb: ({ faderDb }) => `at ${formatLevel(faderDb ?? null)}`,
  recordPoint: ({ recordPoint }) => `recorded ${recordPoint} the chain`,
  monitor: ({ monitor }) =>
    monitor === "off" ? "not monitored" : monitor === "direct" ? "monitored direct" : "monitored through the computer",
};

/**
 * What stands behind commas: a level, where it is recorded, how it is monitored. Null where one of them can't be read.
 */
const readBeginnings = (parts: readonly string[]): AddPhrase["begin"] | null => {
  let begin: AddPhrase["begin"] = {};
  for (const part of parts) {
    const words = part.trim().toLowerCase();
    const level = words.replace(/^at /, "");
    const read =
      words === level && BEGINNINGS[words]
        ? BEGINNINGS[words]
        : level === "−∞" || level === "-∞"
          ? { faderDb: null }
          : null;
    const typed = read ? null : readDecibels(level, FADER_DB);
    if (!read && (!typed || typed.db === null)) return null;
    begin = { ...begin, ...(read ?? { faderDb: typed?.db as Decibels }) };
  }
  return begin;
};

/** The most tracks that can be added in one act. */
const MOST = 512;

/** The most that may stand behind commas. */
const MOST_PARTS = 6;

/**
 * What was typed: "8 mono from 3", "8 x mono from input 3", "2 stereo from E5", "4", "stereo"; behind commas how they
 * begin: "at −6", "after the chain", "direct". Null when it can't be read.
 * @example readAddPhrase("11 mono from 3, at -6") // {count: 11, layout: "mono", from: "3", begin: {faderDb: -6}}
 */
export const readAddPhrase = (text: string): AddPhrase | null => {
  // Spaces are drawn together first, and every one of them is asked for in one place only: so the pattern takes time by
  // the length of the text.
  const [what = "", ...more] = text.split(",", MOST_PARTS + 1);
  const begin = more.length < MOST_PARTS ? readBeginnings(more) : null;
  const words = what.replace(/\s+/g, " ").trim();
  const found =
    /^(\d{1,9})? ?(?:[x×] ?)?(mono|stereo)?(?: ?tracks?)?(?: ?(?:from|on|at|ab|depuis) (?:input |in )?([a-z]{0,3} ?\d{1,9}))?$/i.exec(
      words,
    );
  if (!found || !words || !begin) return null;
  const [, count = "1", layout = "mono", from] = found;
  return {
    count: Number(count),
    layout: layout.toLowerCase() === "stereo" ? "stereo" : "mono",
    from: from?.replace(/\s/g, "") ?? null,
    begin,
  };
};

/** Inputs from one on, as they sit, that exist at this rate and that nothing is on yet. */
const usableFrom = (doc: Template, rig: Rig, from: RigInput | null): readonly RigInput[] => {
  const rigInputs = rigInputsOf(rig);
  const start = from ? rigInputs.indexOf(from) : 0;
  return rigInputs
    .slice(start)
    .filter(
      (rigInput) =>
        !rigInput.occupied &&
        !rigInput.loopBack &&
        existsAtRate(rig, rigInput, doc.format.sampleRateHz) &&
        !linesByPort(doc).has(rigInput.port.id),
    );
};

/** For each track the inputs it takes: one, or two neighbours for stereo; empty when they have run out. */
const takeInputs = (usable: readonly RigInput[], { count, layout }: AddPhrase): readonly (readonly RigInput[])[] => {
  const left = [...usable];
  return Array.from({ length: count }, () => {
    if (layout === "mono") return left.splice(0, 1);
    const at = left.findIndex(
      (rigInput, index) =>
        left[index + 1]?.port.id === rigInput.port.neighbourId &&
        rigInput.port.number < (left[index + 1]?.port.number ?? 0),
    );
    return at < 0 ? [] : left.splice(at, 2);
  });
};

const lineOn = (ids: IdSource, rigInput: RigInput | undefined): Line =>
  newLine({ id: ids<LineId>("line"), portId: rigInput?.port.id ?? null });

const unusedName = (base: string, taken: Set<string>): string => {
  let name = base;
  for (let number = 2; taken.has(name.toLowerCase()); number++) name = `${base}, ${number}`;
  taken.add(name.toLowerCase());
  return name;
};

const newTrack = (
  rigInputs: readonly RigInput[],
  lines: readonly Line[],
  { ids, taken }: { readonly ids: IdSource; readonly taken: Set<string> },
): NewTrack => {
  const [left, right] = lines;
  const labels = rigInputs.map((rigInput) => rigInput.label);
  const name = unusedName(labels.length ? `Input ${labels.join("–")}` : "New track", taken);
  const input =
    left && right
      ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const)
      : left
        ? ({ kind: "line", lineId: left.id } as const)
        : ({ kind: "none" } as const);
  return { id: ids<ChannelId>("track"), name, note: "", colour: null, icon: null, input, sharing: null };
};

export interface AddPlan {
  readonly planned: Planned;
  readonly trackIds: readonly ChannelId[];
  /** What will happen, for a person, while they type. */
  readonly says: string;
}

const sayPlan = (phrase: AddPhrase, taken: readonly (readonly RigInput[])[]): string => {
  const rigInputs = taken.flat();
  const without = taken.filter((own) => own.length === 0).length;
  const what = counted(phrase.count, `${phrase.layout} track`);
  const where =
    rigInputs.length === 0
      ? ""
      : rigInputs.length === 1
        ? ` on input ${rigInputs[0]?.label}`
        : ` on inputs ${rigInputs[0]?.label} to ${rigInputs.at(-1)?.label}`;
  const begun = (Object.keys(phrase.begin) as (keyof AddPhrase["begin"])[])
    .map((key) => `, ${BEGIN_WORDS[key]?.(phrase.begin) ?? ""}`)
    .join("");
  return `${what}${where}${begun}${without ? `; ${without} without an input, as no more are free` : ""}`;
};

interface AddRequest {
  readonly text: string;
  readonly folderId: FolderId | null;
  readonly ids: IdSource;
}

/**
 * Plans the tracks that a phrase asks for, on ascending free inputs. Nothing is planned when the phrase can't be read
 * or names an input the rig lacks.
 */
export const planAddTracks = (doc: Template, rig: Rig, { text, folderId, ids }: AddRequest): AddPlan => {
  const phrase = readAddPhrase(text);
  const no = (message: string): AddPlan => ({ planned: unplanned(message), trackIds: [], says: message });
  if (!phrase) return no("Say how many, mono or stereo, and from which input: 8 mono from 3.");
  if (phrase.count < 1 || phrase.count > MOST) return no(`Between 1 and ${MOST} tracks can be added at once.`);
  const from = phrase.from === null ? null : findRigInput(rig, phrase.from);
  if (phrase.from !== null && !from) return no(`${rig.name} has no input ${phrase.from}.`);
  const inputs = takeInputs(usableFrom(doc, rig, from), phrase);
  const taken = new Set(tracksOf(doc).map((track) => track.name.toLowerCase()));
  const made = inputs.map((rigInputs) => {
    const lines = (phrase.layout === "stereo" ? [0, 1] : [0]).map((at) => lineOn(ids, rigInputs[at]));
    return { lines, track: { ...newTrack(rigInputs, lines, { ids, taken }), ...phrase.begin } };
  });
  return {
    planned: planned([
      {
        kind: "tracks.add",
        tracks: made.map((m) => m.track),
        lines: made.flatMap((m) => m.lines),
        folderId,
        before: null,
      },
    ]),
    trackIds: made.map((m) => m.track.id),
    says: sayPlan(phrase, inputs),
  };
};
