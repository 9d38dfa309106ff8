import { bench, describe } from "vitest";
import { evaluate } from "./checks";
import { apply } from "./commands/apply";
import { readInputList } from "./formats/input-list/read-input-list";
import { layoutRows } from "./layout/rows";
import type { ChannelId } from "./model/ids";
import { templateFaults } from "./model/template-schema";
import { aChoir, choirContext } from "./testing/a-choir";

/** A fresh document each time, or what is kept by document would be measured instead of the work. */
const fresh = (count: number) => {
  const doc = aChoir(count);
  return () => choirContext({ ...doc });
};

for (const count of [16, 128, 512, 4096]) {
  const context = fresh(count);
  const list = `Input,Source,Microphone\n${Array.from({ length: count }, (_, n) => `${n + 1},Voice ${n + 1},condenser`).join("\n")}`;
  const doc = aChoir(count);
  // The baseline of each group is the plainest pass over as many lines in the same run.
  describe(`${count} lines`, () => {
    bench("baseline: the document to JSON and back", () => void JSON.parse(JSON.stringify(doc)));
    bench("all checks, with their fixes", () => void evaluate(context()));
    bench("rows of the grid", () => void layoutRows({ ...doc }));
    bench("one command", () => void apply(doc, { kind: "tracks.set", trackIds: ["track-3" as ChannelId], set: { name: "Alto" } }));
    bench("document against its schema", () => void templateFaults(doc));
    if (count < 4096) bench("an input list read", () => void readInputList(list));
  });
}
