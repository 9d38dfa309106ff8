import { UNCOLOURED } from "../../model/colours";
import { plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import type { ChannelId, CueLevelId, FolderId, IdSource, SendId } from "../../model/ids";
import { findRigInput, noSuchInput } from "../../model/read-rig";
import { colourOf } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import type { Folder } from "../../model/tables/folders";
import type { Template } from "../../model/template";
import { addInstrument } from "../../planning/add-instrument";
import { type AddPlan, planAddTracks, readAddPhrase } from "../../planning/add-tracks";
import { putChain } from "../../planning/chain-plans";
import type { Edit, NewMade, NewTrack } from "../../planning/edits/edit";
import { type Planned, planned, unplanned } from "../../planning/gesture";
import { cueNeighbour } from "../../planning/join-cues";
import { cuesOf, levelIn } from "../../queries/cues";
import { sumNamed } from "../../queries/outputs";
import { taughtWords } from "../../queries/taught-words";
import { counted } from "../../units/counted";
import type { Question, ReadList } from "../input-list/list-types";
import { OUTSIDE_QUESTION, PROPOSE_QUESTION } from "../input-list/questions";
import { readInputList, readTyped } from "../input-list/read-input-list";
import { type Other, takeKinds } from "./kinds";
import { type SessionRequest, sessionRows } from "./read-session";
import type { SessionGroup, SessionRow } from "./session-row";

export interface SessionAsked extends SessionRequest {
  readonly text: string;
  /** Answers to what the text leaves open. */
  readonly answers?: Readonly<Record<string, string>>;
}

export interface SessionPlan {
  readonly planned: Planned;
  readonly trackIds: readonly ChannelId[];
  readonly groups: readonly SessionGroup[];
  /** "16 tracks on 18 inputs". */
  readonly headline: string;
  /** "6 folders, 6 buses, 3 cues · nothing left over". */
  readonly says: string;
  readonly questions: readonly Question[];
  /** Rows of which something is asked. */
  readonly asked: number;
  /** What could not be read or has no place, for a person. */
  readonly told: readonly string[];
  readonly others: readonly Other[];
}

/** The most tracks that can be added in one act. */
const MOST_TRACKS = 512;
/** The most characters that are read. */
export const MOST_TEXT = 60_000;

const NO_NAME = "Nothing here names a track. Write what is recorded, as Kick in or Lead vox.";

/** What a list asks and a text of tracks does not: inputs are proposed anyway, and outputs are told as left out. */
const NOT_ASKED: readonly string[] = [PROPOSE_QUESTION, OUTSIDE_QUESTION];

const USUAL_SEND_DB = -12;

const nothing = (message: string): SessionPlan => ({
  planned: unplanned(message),
  trackIds: [],
  groups: [],
  headline: "",
  says: message,
  questions: [],
  asked: 0,
  told: [],
  others: [],
});

/** Where a group goes: a folder that is there, or a new one, and whether it is summed. */
interface Place {
  readonly name: string;
  readonly there: Folder | null;
  readonly id: FolderId;
  /** The bus made of it; null where none is. */
  readonly busId: ChannelId | null;
  /** A bus that is there already, or is made of another group, and that it goes to; null where it goes where it lies. */
  readonly toId: ChannelId | null;
  readonly busName: string;
  readonly colour: SessionRow["colour"] | null;
  readonly rows: readonly SessionRow[];
}

/** Rows by the name of their folder, in the order of the studio's families; what has none, last. */
const grouped = (rows: readonly SessionRow[], { studio }: SessionAsked): readonly (readonly SessionRow[])[] => {
  const byName = new Map<string, SessionRow[]>();
  for (const row of rows) {
    const there = byName.get(plain(row.folder));
    if (there) there.push(row);
    else byName.set(plain(row.folder), [row]);
  }
  const seatOf = ({ family, folder }: SessionRow): number =>
    folder ? (family ? studio.families[family].place : 100) : 101;
  return [...byName.values()]
    .map((own, at) => ({ own, at, seat: Math.min(...own.map(seatOf)) }))
    .sort((a, b) => a.seat - b.seat || a.at - b.at)
    .map(({ own }) => own);
};

/** Where each group goes. A bus of a name of its own may be there, or be that of another family. */
const placesOf = (rows: readonly SessionRow[], asked: SessionAsked): readonly Place[] => {
  const { doc, studio, switches, ids } = asked;
  const buses = new Map<string, ChannelId>();
  return grouped(rows, asked).map((own): Place => {
    const name = own[0]?.folder ?? "";
    const there = entriesOf(doc.folders).find((folder) => name && plain(folder.name) === plain(name)) ?? null;
    const family = own.find((row) => row.family)?.family ?? guessFamily(name);
    const style = family && studio.families[family];
    const busName = style?.bus || name;
    const summed = switches.buses && name !== "" && !there;
    const elsewhere = summed && plain(busName) !== plain(name);
    const toId = elsewhere ? (sumNamed(doc, busName)?.id ?? buses.get(plain(busName)) ?? null) : null;
    const busId = summed && !toId ? ids<ChannelId>("bus") : null;
    if (busId) buses.set(plain(busName), busId);
    const id = there?.id ?? ids<FolderId>("folder");
    return { name, there, id, busId, toId, busName, colour: style?.colour ?? null, rows: own };
  });
};

const placeSays = ({ name, there, busId, toId, busName }: Place): string => {
  if (!name) return "in no folder";
  if (there) return `into the folder ${there.name}`;
  if (!busId && !toId) return `folder ${name}`;
  return plain(busName) === plain(name) ? `folder and bus ${name}` : `folder ${name}, bus ${busName}`;
};

const groupOf = (place: Place): SessionGroup => ({
  folder: place.name,
  colour: place.colour ?? UNCOLOURED,
  says: placeSays(place),
  rows: place.rows,
});

const trackOf = (row: SessionRow, id: ChannelId, inherited: SessionRow["colour"] | null): NewTrack => {
  const [left, right] = row.lines;
  return {
    id,
    name: row.name,
    note: row.note,
    colour: row.family === null || row.colour === inherited ? null : row.colour,
    icon: row.icon,
    input:
      left && right
        ? { kind: "pair", leftId: left.id, rightId: right.id }
        : left
          ? { kind: "line", lineId: left.id }
          : { kind: "none" },
    sharing: null,
  };
};

interface Made {
  readonly row: SessionRow;
  readonly id: ChannelId;
}

/** New folders with their buses, which may have a name of their own. */
const folderEdits = (places: readonly Place[]): readonly Edit[] => {
  const fresh = places.filter(({ there, name }) => !there && name);
  if (!fresh.length) return [];
  const folders = fresh.map(({ id, name, colour }) => ({ id, name, colour }));
  const sums = fresh.flatMap(({ id, busId }) => (busId ? [{ folderId: id, busId }] : []));
  const renamed = fresh.flatMap(({ busId, busName, name }): readonly Edit[] =>
    busId && busName !== name ? [{ kind: "entries.set", table: "channels", ids: [busId], set: { name: busName } }] : [],
  );
  return [
    { kind: "entries.add", entries: { folders } },
    ...(sums.length ? [{ kind: "folders.sum", sums } as const] : []),
    ...renamed,
  ];
};

/** Levels in every cue: as the neighbour is heard, else as cues begin. */
const cueEdits = (
  doc: Template,
  made: readonly (Made & { readonly folderId: FolderId | null })[],
  ids: IdSource,
): readonly Edit[] => {
  const likes = new Map(
    [...new Set(made.map(({ folderId }) => folderId))].map((folderId) => [
      folderId,
      cueNeighbour(doc, { kind: "track", folderId })?.id,
    ]),
  );
  const levels = cuesOf(doc).flatMap(({ id: cueId }) =>
    made.map(({ id: sourceId, folderId }) => {
      const likeId = likes.get(folderId);
      const level = likeId ? levelIn(doc, { cueId, sourceId: likeId }) : null;
      return { ...(level ?? {}), id: ids<CueLevelId>("level"), cueId, sourceId };
    }),
  );
  return levels.length ? [{ kind: "cueLevels.put", levels }] : [];
};

/** Chains and sends that the studio's families give; a return that is not there is made. */
const chainEdits = (made: readonly Made[], { doc, studio, ids }: SessionAsked): readonly Edit[] => {
  const byFamily = new Map<string, ChannelId[]>();
  for (const { row, id } of made) if (row.family) byFamily.set(row.family, [...(byFamily.get(row.family) ?? []), id]);
  const returns = new Map<string, ChannelId>();
  const edits: Edit[] = [];
  for (const [family, channelIds] of byFamily) {
    const style = studio.families[family as keyof typeof studio.families];
    const chain = style.chainId ? putChain(doc, studio, { chainId: style.chainId, channelIds, ids }) : null;
    if (chain?.ok) edits.push(...chain.gesture.edits);
    if (!style.sendTo) continue;
    const there = sumNamed(doc, style.sendTo)?.id ?? returns.get(plain(style.sendTo));
    const toId = there ?? ids<ChannelId>("return");
    if (!there) {
      returns.set(plain(style.sendTo), toId);
      edits.push({
        kind: "channels.add",
        channels: [{ kind: "return", id: toId, name: style.sendTo, colour: "logwood" }],
        feedIds: [],
      });
    }
    const levelDb = (style.sendDb ?? USUAL_SEND_DB) as never;
    edits.push({
      kind: "sends.add",
      sends: channelIds.map((fromId) => ({ id: ids<SendId>("send"), fromId, toId, levelDb })),
    });
  }
  return edits;
};

const otherEdits = (others: readonly Other[], { doc, rig, studio, ids }: SessionAsked): readonly Edit[] => {
  const made = others.flatMap(({ kind, name }): readonly NewMade[] => {
    if (kind === "instrument") return [];
    const family = guessFamily(name, { words: taughtWords(studio) });
    const dyes = {
      return: "logwood",
      reference: "slate",
      bus: family ? studio.families[family].colour : null,
    } as const;
    return [{ kind, id: ids<ChannelId>(kind), name, colour: dyes[kind] }];
  });
  const instruments = others.flatMap(({ kind, name, outputs }): readonly Edit[] => {
    if (kind !== "instrument") return [];
    const plan = addInstrument(doc, rig, {
      name,
      outputsText: String(outputs),
      usedText: "",
      midiPortId: null,
      midiChannelText: "",
      ids,
    });
    return plan.ok ? plan.gesture.edits : [];
  });
  return [...(made.length ? [{ kind: "channels.add", channels: made, feedIds: [] } as const] : []), ...instruments];
};

const sayOthers = (others: readonly Other[]): readonly string[] =>
  others.map(({ kind, name, outputs }) =>
    kind === "instrument" && outputs > 1 ? `instrument ${name} with ${outputs} outputs` : `${kind} ${name}`,
  );

const headlineOf = (rows: readonly SessionRow[], others: readonly Other[]): string => {
  const inputs = rows.reduce((sum, row) => sum + row.inputs.length, 0);
  if (!rows.length) return counted(others.length, "channel");
  return `${counted(rows.length, "track")} on ${counted(inputs, "input")}`;
};

const sayAll = (
  places: readonly Place[],
  rows: readonly SessionRow[],
  asked: SessionAsked,
  others: readonly Other[],
): string => {
  const fresh = places.filter(({ there, name }) => !there && name);
  const buses = fresh.filter(({ busId }) => busId).length;
  const cues = asked.switches.cues ? cuesOf(asked.doc).length : 0;
  const without = rows.filter((row) => row.inputs.length < row.lines.length).length;
  const usual = rows.filter((row) => row.usual).length;
  const parts = [
    fresh.length ? counted(fresh.length, "folder") : "",
    buses ? `${buses} ${buses === 1 ? "bus" : "buses"}` : "",
    cues ? counted(cues, "cue") : "",
    ...sayOthers(others),
  ].filter(Boolean);
  return [
    parts.join(", "),
    usual ? `${counted(usual, "microphone")} proposed` : "",
    without ? `${without} without an input, as none fits` : rows.length ? "nothing left over" : "",
  ]
    .filter(Boolean)
    .join(" · ");
};

/** "8 mono from 3": tracks without names, as a phrase counts them. */
const phrased = ({ planned: plan, trackIds, says }: AddPlan): SessionPlan => ({
  ...nothing(says),
  planned: plan,
  trackIds,
  headline: plan.ok ? counted(trackIds.length, "track") : "",
  says,
});

const nameOf = (count: number, others: readonly Other[]): string =>
  count ? `Add ${counted(count, "track")}` : `Add ${sayOthers(others).join(", ")}`;

/** Why a text is not even looked into; null where it is. */
const notRead = ({ rig, text, from }: SessionAsked): string | null => {
  if (!text.trim()) return "Type names as you would write them, or paste rows.";
  if (text.length > MOST_TEXT)
    return `The text is too long: up to ${MOST_TEXT.toLocaleString("en")} characters are read.`;
  return from.trim() && !findRigInput(rig, from) ? `${noSuchInput(rig, from)}.` : null;
};

/** A text of names, or rows that were pasted, as a list. */
const listOf = (text: string, { studio, answers = {} }: SessionAsked): ReadList => {
  const people = entriesOf(studio.people).map(({ name }) => name);
  const choices = { plural: "each", people, answers } as const;
  if (/\t|;/.test(text)) return readInputList(text, choices);
  const read = readTyped(text, choices);
  return read.ok ? read : { ok: false, message: NO_NAME };
};

/** The tracks of all groups, each in its folder; of a group whose bus is there already, routed to that. */
const tracksIn = (places: readonly Place[], { doc, ids }: SessionAsked) =>
  places.flatMap((place) => {
    const { there, name, colour, toId } = place;
    const folderId = name ? place.id : null;
    const inherited = there ? colourOf(doc, { colour: null, folderId: there.id }) : colour;
    const output = toId ? { output: { kind: "channel", channelId: toId } as const } : {};
    return place.rows.map((row) => {
      const id = ids<ChannelId>("track");
      return { row, id, folderId, track: { ...trackOf(row, id, inherited), folderId, ...output } };
    });
  });

/**
 * What a text would add to a template: tracks with their families, folders, buses, inputs, microphones and cues, and
 * other kinds of channel, planned as one gesture and shown before it is done. Linear in the text times the inputs.
 */
export const planSession = (asked: SessionAsked): SessionPlan => {
  const { doc, rig, text, ids, switches } = asked;
  const why = notRead(asked);
  if (why !== null) return nothing(why);
  if (readAddPhrase(text)) return phrased(planAddTracks(doc, rig, { text, folderId: null, ids }));
  const { rest, others } = takeKinds(text);
  const read = listOf(rest, asked);
  if (!read.ok && !others.length) return nothing(read.message);
  const list = read.ok ? read.list : null;
  if (list && list.rows.length > MOST_TRACKS)
    return nothing(`${list.rows.length} tracks are too many at once; up to ${MOST_TRACKS} can be added.`);
  const rows = list ? sessionRows(list.rows, asked) : [];
  const places = placesOf(rows, asked);
  const made = tracksIn(places, asked);
  const tracks = made.map(({ track }) => track);
  const lines = made.flatMap(({ row }) => row.lines);
  const edits: readonly Edit[] = [
    ...folderEdits(places),
    ...(made.length ? [{ kind: "tracks.add", tracks, lines, folderId: null, before: null } as const] : []),
    ...otherEdits(others, asked),
    ...(switches.chains ? chainEdits(made, asked) : []),
    ...(switches.cues ? cueEdits(doc, made, ids) : []),
  ];
  return {
    planned: edits.length ? planned(edits, nameOf(made.length, others)) : unplanned(NO_NAME),
    trackIds: made.map(({ id }) => id),
    groups: places.map(groupOf),
    headline: headlineOf(rows, others),
    says: sayAll(places, rows, asked, others),
    questions: (list?.questions ?? []).filter(({ id }) => !NOT_ASKED.includes(id)),
    asked: rows.filter((row) => row.asks !== null || row.marks.length > 0).length,
    told: list?.report.leftOut.map(({ message }) => message) ?? [],
    others,
  };
};
