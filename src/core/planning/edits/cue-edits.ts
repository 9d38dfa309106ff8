import { type Refusal, refuse } from "../../commands/command";
import type { ChannelId, CueId } from "../../model/ids";
import { type CueLevel, newCueLevel } from "../../model/tables/cue-levels";
import type { Template } from "../../model/template";
import { type CueCell, levelIn } from "../../queries/cues";
import { counted } from "../../units/counted";
import { type Decibels, formatLevel } from "../../units/decibels";
import { countChannels } from "./channel-edits";
import type { EditOf, Planners } from "./edit";
import { firstOf, goneFrom, tooMany } from "./refusals";
import { stopped } from "./together";

/** "Ilse" for one, "3 cues" for several. */
export const countCues = (doc: Template, ids: readonly CueId[]): string =>
  ids.length === 1 && ids[0] ? (doc.cues[ids[0]]?.name ?? "a cue") : counted(ids.length, "cue");

const missingCues = (doc: Template, ids: readonly CueId[]): Refusal | null =>
  ids.length ? goneFrom(doc.cues, ids, "cue") : refuse("empty", "", "No cue was named. Select one or more.");

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
  levels.every(
    ({ levelDb, tap, on, pan }) =>
      levelDb === levels[0]?.levelDb && tap === levels[0]?.tap && on === levels[0]?.on && pan === levels[0]?.pan,
  );

const shifted = (
  levels: readonly CueLevel[],
  byDb: Decibels,
): Readonly<Record<string, { readonly levelDb: Decibels }>> =>
  Object.fromEntries(
    levels.flatMap(({ id, levelDb }) => (levelDb === null ? [] : [[id, { levelDb: stopped(levelDb + byDb).faderDb }]])),
  );

const there = (doc: Template, cells: readonly CueCell[]): readonly CueLevel[] =>
  cells.flatMap((cell) => levelIn(doc, cell) ?? []);

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
        ...(fresh.length
          ? [{ kind: "add", table: "cueLevels", entries: fresh.map((level) => newCueLevel(level)) } as const]
          : []),
        ...(Object.keys(values).length ? [{ kind: "set", table: "cueLevels", values } as const] : []),
      ];
    },
    name: (doc, { levels }) =>
      alike(levels)
        ? `Put ${cellsInWords(doc, levels)} ${putWords(levels)}`
        : `Put ${cellsInWords(doc, levels)} each at its level`,
  },
  "cueLevels.shift": {
    plan: (doc, { cells, byDb }) => {
      const refusal = missingCells(doc, cells);
      if (refusal) return refusal;
      const values = shifted(there(doc, cells), byDb);
      return Object.keys(values).length
        ? [{ kind: "set", table: "cueLevels", values }]
        : refuse(
            "empty",
            "",
            `${cellsInWords(doc, cells)} ${cells.length === 1 ? "is" : "are"} not heard yet: type a level first.`,
          );
    },
    name: (doc, { cells, byDb }) =>
      `${byDb < 0 ? "Less" : "More"} of ${cellsInWords(doc, cells)}, by ${formatLevel(Math.abs(byDb) as Decibels)}`,
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
