import { FAMILIES, type Family } from "../../model/families";
import { readAnswer } from "../../reading/answers";
import { readPlaces } from "../../reading/places";
import { readLayout } from "../../reading/read-cells";
import { FOLDER_SEPARATOR, type InputList, type ListRow, PAIR_SEPARATOR, type Side } from "./list-types";

/** Cells of the result that a person can set in the preview. */
export const RESULT_FIELDS = [
  "track",
  "input",
  "format",
  "microphone",
  "phantom",
  "polarity",
  "folder",
  "player",
  "family",
  "note",
] as const;
export type ResultField = (typeof RESULT_FIELDS)[number];
export type ResultChange = Partial<Readonly<Record<ResultField, string>>>;

/** Which track of a list a change is for: the row of the file, and the how-manieth of that row. */
export const keyOfRow = (rows: readonly ListRow[]): readonly string[] => {
  const times = new Map<number, number>();
  return rows.map(({ row }) => {
    const count = times.get(row) ?? 0;
    times.set(row, count + 1);
    return `${row}.${count}`;
  });
};

export const isFamily = (text: string | undefined): text is Family => FAMILIES.some((family) => family === text);

const sidesFor = (row: ListRow, stereo: boolean): ListRow["sides"] => {
  const [left, right] = row.sides;
  return stereo ? [left, right ?? { ...left, input: null }] : [left];
};

const setSides = (row: ListRow, change: ResultChange): ListRow["sides"] => {
  const places = change.input === undefined ? null : readPlaces(change.input);
  const layout = change.format === undefined ? null : readLayout(change.format);
  const stereo = layout ? layout === "stereo" : places?.kind === "pair" || row.sides.length === 2;
  const microphones = change.microphone?.split(PAIR_SEPARATOR);
  const set = (side: Side, at: number): Side => ({
    ...side,
    input: change.input === undefined ? side.input : (places?.labels[at] ?? null),
    microphone: microphones?.[at] ?? microphones?.[0] ?? side.microphone,
    saysPhantom: side.saysPhantom || change.phantom !== undefined,
    values: {
      ...side.values,
      ...(change.track === undefined ? {} : { source: change.track }),
      ...(change.phantom === undefined ? {} : { phantom: readAnswer(change.phantom) === "yes" }),
      ...(change.polarity === undefined ? {} : { polarityInverted: readAnswer(change.polarity) === "yes" }),
      ...(change.player === undefined ? {} : { player: change.player }),
    },
  });
  const sides = sidesFor(row, stereo);
  return sides.length === 2 ? [set(sides[0], 0), set(sides[1], 1)] : [set(sides[0], 0)];
};

const MARKED: Readonly<Partial<Record<string, ResultField>>> = {
  source: "track",
  track: "track",
  input: "input",
  format: "format",
  microphone: "microphone",
  phantom: "phantom",
  polarity: "polarity",
  folder: "folder",
  player: "player",
};

/** A list with what a person set in its preview; what was set is no longer open. */
export const withChanges = (list: InputList, changes: Readonly<Record<string, ResultChange>>): InputList => {
  const keys = keyOfRow(list.rows);
  const rows = list.rows.map((row, at): ListRow => {
    const change = changes[keys[at] ?? ""];
    if (!change) return row;
    return {
      ...row,
      name: change.track ?? row.name,
      sides: setSides(row, change),
      folder:
        change.folder === undefined
          ? row.folder
          : change.folder
              .split(FOLDER_SEPARATOR)
              .map((name) => name.trim())
              .filter(Boolean),
      note: change.note ?? row.note,
      marks: row.marks.filter(({ field }) => {
        const of = MARKED[field];
        return !of || change[of] === undefined;
      }),
    };
  });
  return { ...list, rows };
};
