import { type Refusal, refuse } from "../../commands/command";
import { fieldWords } from "../../commands/naming";
import type { ChannelId, CueId } from "../../model/ids";
import { type CueLevel, newCueLevel } from "../../model/tables/cue-levels";
import { CUES, newCue } from "../../model/tables/cues";
import type { Template } from "../../model/template";
import { type CueCell, levelIn } from "../../queries/cues";
import { counted } from "../../units/counted";
import { type Decibels, formatLevel } from "../../units/decibels";
import { countChannels } from "./channel-edits";
import { type EditOf, type Planners, toAll } from "./edit";
import { firstOf, goneFrom, tooMany } from "./refusals";
import { stopped } from "./together";

/** "Ilse" for one, "3 cues" for several. */
export const countCues = (doc: Template, ids: readonly CueId[]): string => (ids.length === 1 && ids[0] ? (doc.cues[ids[0]]?.name ?? "a cue") : counted(ids.length, "cue"));

const missingCues = (doc: Template, ids: readonly CueId[]): Refusal | null =>
  ids.length ? goneFrom(doc.cues, ids, "cue") : refuse("empty", "", "No cue was named. Select one or more.");

const named = (name: string | undefined): Refusal | null =>
  name === undefined || name.trim() ? null : refuse("empty", "", "A cue needs a name, for example that of who wears it.");

const missingCells = (doc: Template, cells: readonly CueCell[]): Refusal | null =>
  firstOf(
    () => (cells.length ? null : refuse("empty", "", "No source was named. Select one or more.")),
    () =>
      missingCues(
        doc,
        cells.map(({ cueId }) => cueId),
      ),
    () =>
      goneFrom(
        doc.channels,
        cells.map(({ sourceId }) => sourceId),
        "channel",
      ),
  );

const cellsInWords = (doc: Template, cells: readonly CueCell[]): string =>
  `${countChannels(doc, [...new Set<ChannelId>(cells.map(({ sourceId }) => sourceId))])} in ${countCues(doc, [...new Set(cells.map(({ cueId }) => cueId))])}`;

type Put = EditOf<"cueLevels.put">["levels"][number];

const putWords = ([first]: readonly Put[]): string => {
  if (!first) return "Set";
  if (first.levelDb !== undefined) return `at ${formatLevel(first.levelDb)}`;
  if (first.tap !== undefined) return `${first.tap} the fader`;
  if (first.on !== undefined) return first.on ? "switched on" : "switched off";
  return "panned";
};

const alike = (levels: readonly Put[]): boolean =>
  levels.every(({ levelDb, tap, on, pan }) => levelDb === levels[0]?.levelDb && tap === levels[0]?.tap && on === levels[0]?.on && pan === levels[0]?.pan);

export const cueEdits: Planners<"cues"> = {
  "cues.add": {
    plan: (doc, { cues, levels, before }) =>
      firstOf(
        () => (cues.length ? null : refuse("empty", "", "Nothing to add: say who hears it.")),
        () => cues.map(({ name }) => named(name)).find((refusal) => refusal !== null) ?? null,
        () => tooMany(doc, { cues, cueLevels: levels }),
      ) ?? [
        { kind: "add", table: "cues", entries: cues.map((cue) => newCue({ ...cue, name: cue.name.trim() })), before },
        ...(levels.length ? [{ kind: "add", table: "cueLevels", entries: levels } as const] : []),
      ],
    name: (_doc, { cues }) => (cues.length === 1 ? `Add the cue ${cues[0]?.name.trim()}` : `Add ${cues.length} cues`),
  },
  "cues.set": {
    plan: (doc, { cueIds, set }) =>
      firstOf(
        () => missingCues(doc, cueIds),
        () => named(set.name),
      ) ?? [{ kind: "set", table: "cues", values: toAll(cueIds, set.name === undefined ? set : { ...set, name: set.name.trim() }) }],
    name: (doc, { cueIds, set }) => {
      const who = countCues(doc, cueIds);
      if (set.name !== undefined) return `Rename the cue ${who} to ${set.name.trim()}`;
      if (set.levelDb !== undefined) return `Set the cue ${who} to ${formatLevel(set.levelDb)}`;
      if (set.mixedIn !== undefined) return `Mix ${who} in the ${set.mixedIn === "interface" ? "interface" : "computer"}`;
      return `Set ${fieldWords(CUES.fields, Object.keys(set))} of ${who}`;
    },
  },
  "cues.move": {
    plan: (doc, { cueIds, before }) =>
      firstOf(
        () => missingCues(doc, cueIds),
        () => (before ? goneFrom(doc.cues, [before], "cue") : null),
      ) ?? [{ kind: "move", table: "cues", ids: cueIds, before }],
    name: (doc, { cueIds }) => `Move ${countCues(doc, cueIds)}`,
  },
  "cues.remove": {
    plan: (doc, { cueIds }) => missingCues(doc, cueIds) ?? [{ kind: "remove", table: "cues", ids: cueIds }],
    name: (doc, { cueIds }) => `Remove the cue ${countCues(doc, cueIds)}`,
  },
};

const shifted = (levels: readonly CueLevel[], byDb: Decibels): Readonly<Record<string, { readonly levelDb: Decibels }>> =>
  Object.fromEntries(levels.flatMap(({ id, levelDb }) => (levelDb === null ? [] : [[id, { levelDb: stopped(levelDb + byDb).faderDb }]])));

const there = (doc: Template, cells: readonly CueCell[]): readonly CueLevel[] => cells.flatMap((cell) => levelIn(doc, cell) ?? []);

export const cueLevelEdits: Planners<"cueLevels"> = {
  "cueLevels.put": {
    plan: (doc, { levels }) => {
      const refusal = missingCells(doc, levels);
      if (refusal) return refusal;
      const fresh = levels.filter((cell) => !levelIn(doc, cell));
      const more = tooMany(doc, { cueLevels: fresh });
      if (more) return more;
      const values = Object.fromEntries(
        levels.flatMap(({ id: _id, cueId, sourceId, ...set }) => {
          const level = levelIn(doc, { cueId, sourceId });
          return level ? [[level.id, set] as const] : [];
        }),
      );
      return [
        ...(fresh.length ? [{ kind: "add", table: "cueLevels", entries: fresh.map((level) => newCueLevel(level)) } as const] : []),
        ...(Object.keys(values).length ? [{ kind: "set", table: "cueLevels", values } as const] : []),
      ];
    },
    name: (doc, { levels }) => (alike(levels) ? `Put ${cellsInWords(doc, levels)} ${putWords(levels)}` : `Put ${cellsInWords(doc, levels)} each at its level`),
  },
  "cueLevels.shift": {
    plan: (doc, { cells, byDb }) => {
      const refusal = missingCells(doc, cells);
      if (refusal) return refusal;
      const values = shifted(there(doc, cells), byDb);
      return Object.keys(values).length
        ? [{ kind: "set", table: "cueLevels", values }]
        : refuse("empty", "", `${cellsInWords(doc, cells)} ${cells.length === 1 ? "is" : "are"} not heard yet: type a level first.`);
    },
    name: (doc, { cells, byDb }) => `${byDb < 0 ? "Less" : "More"} of ${cellsInWords(doc, cells)}, by ${formatLevel(Math.abs(byDb) as Decibels)}`,
  },
  "cueLevels.remove": {
    plan: (doc, { cells }) => {
      const refusal = missingCells(doc, cells);
      if (refusal) return refusal;
      const ids = there(doc, cells).map(({ id }) => id);
      return ids.length ? [{ kind: "remove", table: "cueLevels", ids }] : [];
    },
    name: (doc, { cells }) => `Take ${cellsInWords(doc, cells).replace(" in ", " out of ")}`,
  },
};
