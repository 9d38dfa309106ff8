import { describe, expect, it } from "vitest";
import { wholeMill } from "../../demo/rigs";
import { sequentialIds } from "../../model/ids";
import { type Dressed, dressedList, type KnownTrack, sameCell } from "../../testing/dressed-lists";
import { runs } from "../../testing/how-many";
import type { ListRow, Mark } from "./list-types";
import { planImport } from "./plan-import";
import { readInputList } from "./read-input-list";

interface Wrong {
  readonly seed: number;
  readonly cell: string;
  readonly told: boolean;
}

interface Score {
  readonly cells: number;
  readonly wrong: readonly Wrong[];
}

const FIELD_OF: Readonly<Partial<Record<keyof KnownTrack, readonly Mark["field"][]>>> = {
  name: ["source", "track"],
  inputs: ["input"],
  pair: ["format", "input"],
  microphone: ["microphone"],
  phantom: ["phantom"],
  player: ["player"],
};

const cellsOf = (row: ListRow, phantom: boolean): Readonly<Record<keyof KnownTrack, string>> => ({
  name: row.name,
  inputs: row.sides.map(({ input }) => input ?? "").join("–"),
  microphone: row.sides[0].microphone,
  phantom: String(phantom),
  pair: String(row.sides.length === 2),
  folder: row.folder.join("/"),
  player: row.sides[0].values.player ?? "",
  note: row.note,
});

const knownCells = (track: KnownTrack): Readonly<Record<keyof KnownTrack, string>> => ({
  ...track,
  inputs: track.inputs.join("–"),
  phantom: String(track.phantom),
  pair: String(track.pair),
});

/** Every cell that a dressed list says, against the plan that it was dressed from; by its first input, then by its name. */
const scoreOf = (seed: number, { text, tracks, says }: Dressed): Score => {
  const read = readInputList(text, { people: ["Pell Marrow", "Bram Teller", "Ilse Varga"] });
  const cells = tracks.length * says.size;
  if (!read.ok)
    return {
      cells,
      wrong: Array.from({ length: cells }, () => ({ seed, cell: `refused: ${read.message}`, told: true })),
    };
  const { list } = read;
  const plan = planImport(list, wholeMill, sequentialIds());
  const wrong: Wrong[] = [];
  for (const track of tracks) {
    const at = list.rows.findIndex(({ sides }) => sides[0].input === track.inputs[0]);
    const row = list.rows[at] ?? list.rows.find(({ name }) => sameCell(name, track.name));
    if (!row) {
      for (const key of says) wrong.push({ seed, cell: `${track.name}: ${key} is missing`, told: false });
      continue;
    }
    const [is, should] = [cellsOf(row, plan.tracks[at]?.lines[0]?.phantom ?? false), knownCells(track)];
    for (const key of says) {
      if (sameCell(is[key], should[key])) continue;
      const told = row.marks.some(({ field }) => FIELD_OF[key]?.includes(field));
      wrong.push({ seed, cell: `${track.name}: ${key} is “${is[key]}”, should be “${should[key]}”`, told });
    }
  }
  const more = list.rows.length - tracks.length;
  for (let extra = 0; extra < more; extra++)
    wrong.push({ seed, cell: `a track too many, of ${list.rows.map(({ name }) => name).join(", ")}`, told: false });
  return { cells, wrong };
};

describe("known plans in the dress of lists as people write them", () => {
  it("come out right in 99 of 100 cells at least, and no wrong one is silent", () => {
    const scores = Array.from({ length: runs(400, 6000) }, (_, seed) => scoreOf(seed, dressedList(seed)));
    const cells = scores.reduce((sum, score) => sum + score.cells, 0);
    const wrong = scores.flatMap((score) => score.wrong);
    const silent = wrong.filter(({ told }) => !told);
    const worst = [...scores.entries()]
      .sort(([, a], [, b]) => b.wrong.length - a.wrong.length)
      .slice(0, 40)
      .flatMap(([seed, score]) =>
        score.wrong.slice(0, 3).map(({ cell }) => `${seed} (${dressedList(seed).dress}): ${cell}`),
      );
    expect(silent.slice(0, 40).map(({ seed, cell }) => `${seed} (${dressedList(seed).dress}): ${cell}`)).toEqual([]);
    expect(wrong.length / cells, worst.join("\n")).toBeLessThan(0.01);
    expect(cells).toBeGreaterThan(runs(10_000, 150_000));
  });
});
