import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { layoutRows } from "../layout/rows";
import type { ChannelId, IdSource } from "../model/ids";
import { aTemplate } from "../testing/a-template";
import { applyAll } from "./edits/template-editing";
import { writeCell } from "./write-cell";

let made = 0;
const ids: IdSource = <T extends string>(kind: string) => `${kind}-new-${made++}` as T;
const doc = aTemplate(wholeMill)
  .folder("Drums")
  .folder("Strings")
  .track("Guide", { input: "1" })
  .track("Snare", { input: "2", folder: "Drums" })
  .track("Trumpet", { input: "3", folder: "Drums" })
  .track("Fiddle", { input: "4", folder: "Strings" })
  .build();

const put = (names: readonly string[], folder: string) => {
  const trackIds = Object.values(doc.channels).flatMap(({ id, name }) =>
    names.includes(name) ? [id as ChannelId] : [],
  );
  const plan = writeCell(doc, wholeMill, { trackIds, column: "folder", text: folder, ids });
  const done = plan.ok ? applyAll(doc, plan.gesture.edits) : expect.unreachable(plan.message);
  const after = done.ok ? done.doc : expect.unreachable(done.refusal.message);
  return layoutRows(after, { unfold: true }).map((row) =>
    row.kind === "folder" ? `/${row.folder.name}` : row.track.name,
  );
};

describe("a new folder stands where its tracks stood", () => {
  it("beside the folder that they came from, in front of the next", () => {
    expect(put(["Trumpet"], "Horns")).toEqual(["Guide", "/Drums", "Snare", "/Horns", "Trumpet", "/Strings", "Fiddle"]);
  });

  it("in front of all folders, where they lay in none", () => {
    expect(put(["Guide"], "Beds")[0]).toBe("/Beds");
  });

  it("at the end, where they came from the last", () => {
    expect(put(["Fiddle"], "Bowed").slice(-2)).toEqual(["/Bowed", "Fiddle"]);
  });
});
