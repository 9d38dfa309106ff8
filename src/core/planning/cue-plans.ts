import { cueDownBy } from "../levels/headroom";
import { plain } from "../model/families";
import type { ChannelId, CueId, CueLevelId, IdSource, PortId } from "../model/ids";
import { rigInputOf } from "../model/read-rig";
import { isParked, linesOf, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import { FADER_DB } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import { type CueLevel, newCueLevel } from "../model/tables/cue-levels";
import { type Cue, type Hearing, type MixedIn, newCue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { controlledBy } from "../queries/controls";
import { freeCueOutput } from "../queries/cue-outputs";
import { type CueCell, cuesOf, levelIn, levelsOfCue, ownTracksOf, playersOf } from "../queries/cues";
import { readDecibels } from "../reading/read-cells";
import { type Decibels, dB, formatLevel } from "../units/decibels";
import { countCues } from "./edits/cue-edits";
import type { Edit } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { freeName } from "./free-name";
import { type Planned, planned, unplanned } from "./gesture";
import { readPan } from "./route";

const clamped = (db: number): Decibels =>
  dB(Math.round(Math.min(FADER_DB.max, Math.max(FADER_DB.min, db)) * 100) / 100);

/**
 * How loud a channel comes to the main bus by its output: its own fader and those of what it passes, control faders
 * added; null where it does not come there.
 */
const inMainDb = (doc: Template, channel: Channel): Decibels | null => {
  let sum = 0;
  let at: Channel | undefined = channel;
  for (let steps = 0; at && at.kind !== "main"; steps++) {
    const controlled = controlledBy(doc, at);
    if (steps > 1024 || at.faderDb === null || controlled.db === null || controlled.muted || at.muted) return null;
    sum += at.faderDb + controlled.db;
    if (at.output.kind !== "channel") return null;
    at = doc.channels[at.output.channelId];
  }
  return at ? clamped(sum) : null;
};

/**
 * What can be heard in a cue by itself: tracks, returns, what is played and read in, click and talkback; not the buses
 * that sum them.
 */
const sourcesOf = (doc: Template): readonly Channel[] => [
  ...tracksOf(doc),
  ...entriesOf<Channel>(doc.channels).filter(
    ({ kind }) =>
      kind === "return" || kind === "instrument" || kind === "reference" || kind === "click" || kind === "talkback",
  ),
];

/** Click and talkback are in every cue, and quieter than what is played. */
const BESIDE_DB = dB(-6);

/** The main mix as levels of a cue: each source as loud and as far to a side as it comes to the main bus. */
const asMain = (doc: Template, cueId: CueId, ids: IdSource): readonly CueLevel[] =>
  sourcesOf(doc).flatMap((channel): readonly CueLevel[] => {
    if (isParked(channel) || channel.kind === "main") return [];
    const beside = channel.kind === "click" || channel.kind === "talkback";
    const levelDb = beside ? BESIDE_DB : inMainDb(doc, channel);
    return levelDb === null
      ? []
      : [
          newCueLevel({
            id: ids<CueLevelId>("level"),
            cueId,
            sourceId: channel.id,
            levelDb,
            pan: channel.pan,
            tap: "before",
          }),
        ];
  });

export interface AddCue {
  readonly people: readonly string[];
  /** Empty: called by who hears it. */
  readonly name: string;
  /** The main mix, another cue, or nothing. */
  readonly from: "main" | "nothing" | CueId;
  readonly portIds: readonly PortId[];
  readonly hearing: Hearing;
  readonly mixedIn: MixedIn;
  readonly room?: string;
  /** What levels hang on: with it the cue comes out low enough not to clip with everything at once. */
  readonly gear?: { readonly rig: Rig; readonly studio: Studio };
  readonly ids: IdSource;
}

const joined = ([one = "", two, ...more]: readonly string[]): string =>
  !two ? one : more.length ? `${one} and ${more.length + 1} more` : `${one} and ${two}`;

/**
 * "Ilse" of one, "Ilse and Juno" of two, "Ilse and 2 more": first names where they tell them apart, also from cues that
 * are there, else whole ones; at last with a number.
 */
export const nameOfPeople = (people: readonly string[], taken: readonly string[] = []): string => {
  if (!people.length) return "";
  const first = people.map((person) => person.split(" ")[0] ?? person);
  const named = joined(new Set(first).size === first.length ? first : people);
  return taken.some((name) => name.toLowerCase() === named.toLowerCase()) ? freeName(joined(people), taken) : named;
};

/** What a cue for somebody is called when nobody types a name. */
export const cueNameFor = (doc: Template, people: readonly string[]): string =>
  nameOfPeople(
    people,
    cuesOf(doc).map(({ name }) => name),
  );

/** A new cue, begun as the main mix, as another cue, or empty. Somebody far away does not get their own sound back. */
export const addCue = (
  doc: Template,
  { people, name, from, portIds, hearing, mixedIn, room = "", gear, ids }: AddCue,
): Planned => {
  const called = name.trim() || cueNameFor(doc, people);
  if (!called) return unplanned("A cue needs a name or somebody who hears it.");
  const id = ids<CueId>("cue");
  const copied =
    from === "main"
      ? asMain(doc, id, ids)
      : from === "nothing"
        ? []
        : levelsOfCue(doc, from).map((level): CueLevel => ({ ...level, id: ids<CueLevelId>("level"), cueId: id }));
  const own = new Set<string>(hearing === "far" ? ownTracksOf(doc, { people }) : []);
  const levels = copied.filter(({ sourceId }) => !own.has(sourceId));
  const cue = { id, name: called, people, portIds, hearing, mixedIn, room };
  return planned([
    {
      kind: "entries.add",
      entries: {
        cues: [gear ? { ...cue, levelDb: clamped(-downFor(doc, { cue, levels, gear })) } : cue],
        cueLevels: levels,
      },
    },
  ]);
};

/**
 * Who plays something that is recorded and is in no cue yet. Who comes in from the far end of a line has a way back of
 * another kind.
 */
export const withoutCue = (doc: Template, rig: Rig): readonly string[] => {
  const heard = new Set(cuesOf(doc).flatMap(({ people }) => people.map(plain)));
  const far = new Set(
    linesOf(doc).flatMap(({ player, portId }) => (rigInputOf(rig, portId)?.loopBack ? [plain(player)] : [])),
  );
  return playersOf(doc).filter((person) => !heard.has(plain(person)) && !far.has(plain(person)));
};

/**
 * A cue of their own for everyone who plays and has none, each begun as the main mix and on the next free output;
 * without one where the outputs have run out.
 */
export const cueForEveryone = (
  doc: Template,
  { gear, ids }: { readonly gear: { readonly rig: Rig; readonly studio: Studio }; readonly ids: IdSource },
): Planned & { readonly without?: number } => {
  const people = withoutCue(doc, gear.rig);
  if (!people.length)
    return unplanned(
      playersOf(doc).length
        ? "Everyone who plays has a cue."
        : "Nobody plays anything yet. Say who plays each line in the input list.",
    );
  const edits: Edit[] = [];
  let current = doc;
  let without = 0;
  for (const person of people) {
    const free = freeCueOutput(current, gear.rig);
    if (!free) without++;
    const made = addCue(current, {
      people: [person],
      name: "",
      from: "main",
      portIds: free?.portIds ?? [],
      hearing: "headphones",
      mixedIn: "computer",
      gear,
      ids,
    });
    if (!made.ok) return made;
    const done = applyAll(current, made.gesture.edits);
    if (!done.ok) return unplanned(done.refusal.message);
    current = done.doc;
    edits.push(...made.gesture.edits);
  }
  return {
    ...planned(
      edits,
      `Add ${people.length === 1 ? `a cue for ${people[0]}` : `a cue each for ${people.length} who play`}`,
    ),
    without,
  };
};

/** By how much a cue that is to be added must come out lower. */
const downFor = (
  doc: Template,
  {
    cue,
    levels,
    gear,
  }: {
    readonly cue: Pick<Cue, "id" | "name">;
    readonly levels: readonly CueLevel[];
    readonly gear: { readonly rig: Rig; readonly studio: Studio };
  },
): number =>
  cueDownBy(
    {
      ...doc,
      cues: { [cue.id]: { ...newCue(cue), order: "a0" } },
      cueLevels: Object.fromEntries(levels.map((level) => [level.id, level])),
    } as Template,
    {
      ...gear,
      cueId: cue.id,
    },
  );

/** Begins a cue anew as the main mix or another cue: what it carried is put away. */
export const startCueAs = (
  doc: Template,
  { cueId, from, ids }: { readonly cueId: CueId; readonly from: "main" | CueId; readonly ids: IdSource },
): Planned => {
  const cue = doc.cues[cueId];
  if (!cue || from === cueId) return unplanned("Choose another cue, or the main mix.");
  const own = new Set<string>(cue.hearing === "far" ? ownTracksOf(doc, cue) : []);
  const given =
    from === "main"
      ? asMain(doc, cueId, ids)
      : levelsOfCue(doc, from).map((level): CueLevel => ({ ...level, id: ids<CueLevelId>("level"), cueId }));
  const levels = given.filter(({ sourceId }) => !own.has(sourceId));
  const kept = new Set<string>(levels.map(({ sourceId }) => sourceId));
  const gone = levelsOfCue(doc, cueId).filter(({ sourceId }) => !kept.has(sourceId));
  const name = `Start ${cue.name} as ${from === "main" ? "the main mix" : (doc.cues[from]?.name ?? "a cue")}`;
  return planned(
    [
      ...(gone.length
        ? [{ kind: "cueLevels.remove", cells: gone.map(({ sourceId }) => ({ cueId, sourceId })) } as const]
        : []),
      ...(levels.length ? [{ kind: "cueLevels.put", levels } as const] : []),
    ],
    name,
  );
};

/** One press of "more of own sound". */
export const MORE_DB = dB(3);
/** Own sound that was not there at all comes in here. */
const OWN_DB = dB(0);

/**
 * More or less of their own sound for who hears cues; where it is not in a cue yet it comes in. A guest far away never
 * gets it back.
 */
export const moreOfOwn = (
  doc: Template,
  {
    cueIds,
    byDb = MORE_DB,
    ids,
  }: { readonly cueIds: readonly CueId[]; readonly byDb?: Decibels; readonly ids: IdSource },
): Planned => {
  const cues = cueIds.flatMap((id) => doc.cues[id] ?? []).filter(({ hearing }) => hearing !== "far");
  const cells = cues.flatMap((cue) => ownTracksOf(doc, cue).map((sourceId): CueCell => ({ cueId: cue.id, sourceId })));
  if (!cells.length) {
    const [cue] = cueIds.flatMap((id) => doc.cues[id] ?? []);
    if (cue?.hearing === "far")
      return unplanned(`${cue.name} hears at the far end of a line: their own sound must not come back to them.`);
    return unplanned(
      `Nothing that ${cue?.people.length ? cue.people.join(" or ") : "anybody in this cue"} plays is on a track. Say who hears the cue, and who plays each line.`,
    );
  }
  const there = cells.filter((cell) => levelIn(doc, cell));
  const fresh = cells.filter((cell) => !levelIn(doc, cell));
  const off = there.filter((cell) => levelIn(doc, cell)?.on === false || levelIn(doc, cell)?.levelDb === null);
  const louder = there.filter((cell) => !off.includes(cell));
  const comesIn = byDb > 0 ? [...fresh, ...off] : [];
  const who = countCues(
    doc,
    cues.map(({ id }) => id),
  );
  if (!louder.length && !comesIn.length) return unplanned(`${who} has nothing of their own sound to turn down.`);
  return planned(
    [
      ...(louder.length ? [{ kind: "cueLevels.shift", cells: louder, byDb } as const] : []),
      ...(comesIn.length
        ? [
            {
              kind: "cueLevels.put",
              levels: comesIn.map((cell) => ({
                ...cell,
                id: ids<CueLevelId>("level"),
                levelDb: OWN_DB,
                on: true,
                tap: "before" as const,
              })),
            } as const,
          ]
        : []),
    ],
    `${byDb > 0 ? "More" : "Less"} of own sound for ${who}`,
  );
};

const SILENCES = ["−∞", "-∞", "-inf", "off", "–"];
const LEVEL_RANGE = { min: FADER_DB.min, max: FADER_DB.max };

interface TypedLevel {
  readonly levelDb: Decibels | null;
  readonly tap?: "before" | "after";
  readonly pan?: number;
  readonly on?: boolean;
}

/**
 * What a word behind a level says: whether it is before or after the fader, to which side it stands, or that it is
 * switched off. Null where it says none of these.
 */
const readBehind = (word: string): Omit<TypedLevel, "levelDb"> | null => {
  if (["b", "before"].includes(word)) return { tap: "before" };
  if (["a", "after"].includes(word)) return { tap: "after" };
  if (word === "off") return { on: false };
  const pan = /^[lr]\d{1,3}$/.test(word) || ["middle", "centre", "center"].includes(word) ? readPan(word) : null;
  return pan === null ? null : { pan };
};

/** The longest text that is read as a level. */
const MOST_TYPED = 200;

/**
 * A level as it is typed for a cue: dB, −∞; "b" or "a" behind it says before or after the fader, L30 or R30 the side,
 * "off" that it is switched off. Null when it is none of these.
 */
export const readCueLevel = (text: string): TypedLevel | null => {
  if (text.length > MOST_TYPED) return null;
  const words = text.trim().toLowerCase().split(" ").filter(Boolean);
  let behind: Omit<TypedLevel, "levelDb"> = {};
  while (words.length > 1) {
    const says = readBehind(words.at(-1) ?? "");
    if (!says) break;
    behind = { ...says, ...behind };
    words.pop();
  }
  const level = words.join(" ");
  if (SILENCES.includes(level)) return { levelDb: null, ...behind };
  const read = readDecibels(level, LEVEL_RANGE);
  return read?.db !== undefined && read.db !== null ? { levelDb: read.db, ...behind } : null;
};

/** Sets cells of the matrix to what was typed; emptied, they are taken out. */
export const setCueLevels = (
  doc: Template,
  { cells, text, ids }: { readonly cells: readonly CueCell[]; readonly text: string; readonly ids: IdSource },
): Planned => {
  if (!text.trim())
    return cells.some((cell) => levelIn(doc, cell))
      ? planned([{ kind: "cueLevels.remove", cells: cells.filter((cell) => levelIn(doc, cell)) }])
      : planned([]);
  const read = readCueLevel(text);
  if (!read)
    return unplanned(
      `“${text.trim()}” is no level. Type dB from −120 to 12, −∞ for silence, with b or a behind it for before or after the fader.`,
    );
  return planned([
    {
      kind: "cueLevels.put",
      levels: cells.map((cell) => ({ ...cell, on: true, ...read, id: ids<CueLevelId>("level") })),
    },
  ]);
};

/**
 * How a group of sources stands in a cue: its loudest member, and whether all of them are as loud. Null where none is
 * heard.
 */
export const groupLevel = (
  doc: Template,
  cueId: CueId,
  sourceIds: readonly ChannelId[],
): { readonly levelDb: Decibels; readonly alike: boolean; readonly heard: number } | null => {
  const levels = sourceIds.flatMap((sourceId) => {
    const level = levelIn(doc, { cueId, sourceId });
    return level?.on && level.levelDb !== null ? [level.levelDb] : [];
  });
  if (!levels.length) return null;
  const loudest = Math.max(...levels);
  return {
    levelDb: dB(loudest),
    alike: levels.length === sourceIds.length && levels.every((level) => level === loudest),
    heard: levels.length,
  };
};

/**
 * Brings the loudest of a group in a cue to a level and keeps the differences of the others; where none is heard, all
 * come in there.
 */
export const setGroupLevel = (
  doc: Template,
  {
    cueId,
    sourceIds,
    text,
    name,
    ids,
  }: {
    readonly cueId: CueId;
    readonly sourceIds: readonly ChannelId[];
    readonly text: string;
    readonly name: string;
    readonly ids: IdSource;
  },
): Planned => {
  const cells = sourceIds.map((sourceId): CueCell => ({ cueId, sourceId }));
  const group = groupLevel(doc, cueId, sourceIds);
  const read = text.trim() ? readCueLevel(text) : null;
  if (!group || !read || read.levelDb === null) return setCueLevels(doc, { cells, text, ids });
  const heard = cells.filter((cell) => levelIn(doc, cell)?.on && levelIn(doc, cell)?.levelDb !== null);
  const byDb = dB(Math.round((read.levelDb - group.levelDb) * 100) / 100);
  const edits = [
    ...(byDb === 0 ? [] : [{ kind: "cueLevels.shift", cells: heard, byDb } as const]),
    ...(read.tap
      ? [
          {
            kind: "cueLevels.put",
            levels: heard.map((cell) => ({
              ...cell,
              id: ids<CueLevelId>("level"),
              tap: read.tap as "before" | "after",
            })),
          } as const,
        ]
      : []),
  ];
  return planned(edits, `Bring ${name} in ${countCues(doc, [cueId])} to ${formatLevel(read.levelDb)}`);
};

/** Turns cells up or down and keeps their differences. */
export const nudgeCueLevels = (doc: Template, cells: readonly CueCell[], byDb: Decibels): Planned => {
  const heard = cells.filter((cell) => levelIn(doc, cell)?.levelDb !== null && levelIn(doc, cell));
  return heard.length
    ? planned([{ kind: "cueLevels.shift", cells: heard, byDb }])
    : unplanned("What is selected is not heard in that cue yet: type a level first.");
};

/** Channels of the talkback and click of a template. */
const NAMES = { click: "Click", talkback: "Talkback" } as const;

/** Adds a click or talkback, heard in every cue. It goes nowhere else. */
export const addBeside = (
  doc: Template,
  { kind, ids }: { readonly kind: "click" | "talkback"; readonly ids: IdSource },
): Planned => {
  const id = ids<ChannelId>(kind);
  const count = entriesOf<Channel>(doc.channels).filter((channel) => channel.kind === kind).length;
  const name = count ? `${NAMES[kind]} ${count + 1}` : NAMES[kind];
  const cues = cuesOf(doc);
  return planned(
    [
      { kind: "channels.add", channels: [{ kind, id, name, output: { kind: "nowhere" } }], feedIds: [] },
      ...(cues.length
        ? [
            {
              kind: "cueLevels.put",
              levels: cues.map(({ id: cueId }) => ({
                id: ids<CueLevelId>("level"),
                cueId,
                sourceId: id,
                levelDb: BESIDE_DB,
                tap: "before" as const,
              })),
            } as const,
          ]
        : []),
    ],
    cues.length
      ? `Add ${name.toLowerCase()} to ${cues.length === 1 ? "the cue" : `all ${cues.length} cues`}`
      : `Add ${name.toLowerCase()}`,
  );
};
