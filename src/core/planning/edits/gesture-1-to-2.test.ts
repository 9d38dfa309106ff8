import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { layoutRows } from "../../layout/rows";
import { migrateRig } from "../../migrate/migrate-rig";
import { migrateStudio } from "../../migrate/migrate-studio";
import { migrateTemplate } from "../../migrate/migrate-template";
import type { Template } from "../../model/template";
import { gestureOneToTwo } from "./gesture-1-to-2";
import type { Editing } from "./plan-edits";
import { rigEditing } from "./rig-editing";
import { studioEditing } from "./studio-editing";
import { templateEditing } from "./template-editing";

const sample = (name: string) =>
  JSON.parse(readFileSync(new URL(`../../migrate/samples/${name}.json`, import.meta.url), "utf8"));
const migrated = <D>(read: { readonly ok: boolean; readonly doc?: D }): D => read.doc ?? expect.unreachable();

const template = migrated(migrateTemplate(sample("template-3")) as { ok: boolean; doc?: Template });
const kept = sample("gestures-1");

const doneTo = <D extends { readonly id: string }, E extends { readonly kind: string }>(
  editing: Editing<D, E>,
  doc: D,
  commands: readonly object[],
): D => {
  const now = gestureOneToTwo(editing, doc, commands);
  if (typeof now === "string") throw new Error(now);
  const applied = editing.engine.applyAll(doc, now);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.doc;
};
const rows = (doc: Template) =>
  layoutRows(doc, { unfold: true }).map((row) => (row.kind === "track" ? row.track.name : row.folder.name));

describe("gestures that a browser kept from before", () => {
  it("are done with today's words", () => {
    const doc = doneTo(templateEditing, template, kept.edits[0].commands);
    expect([doc.channels["t9" as never], doc.lines["l9" as never]]).toMatchObject([
      { colour: "weld" },
      { requestedInput: "21" },
    ]);
    const moved = doneTo(templateEditing, doc, kept.edits[1].commands);
    expect([moved.channels["t9" as never], moved.folders["f4" as never]]).toMatchObject([
      { folderId: "f4" },
      { name: "New", colour: "ochre" },
    ]);
  });

  it.each(["removed", "moved"])("%s: what they took back is taken back, and stands where it stood", (which) => {
    const done = doneTo(templateEditing, template, kept[which].edits);
    expect(rows(done)).not.toEqual(rows(template));
    const back = doneTo(templateEditing, done, kept[which].undo);
    expect(rows(back)).toEqual(rows(template));
    expect([back.format, back.lines["l9" as never]]).toEqual([template.format, template.lines["l9" as never]]);
  });

  it("of rigs and the studio as well, where places were numbers and colours had another name", () => {
    const rig = doneTo(rigEditing, migrated(migrateRig(sample("rig-2"))), kept.rig);
    expect(
      Object.values(rig.feeds)
        .sort((a, b) => (a.order < b.order ? -1 : 1))
        .map((feed) => feed.id),
    ).toEqual(["duo-headphones", "duo-monitors", "x"]);
    const studio = doneTo(studioEditing, migrated(migrateStudio(sample("studio-1"))), kept.studio);
    expect([studio.families.brass.colour, studio.colours["own-heather"]?.name]).toEqual(["own-heather", "Heath"]);
  });

  it.each([
    [[{ kind: "tracks.levitate", trackIds: ["t9"] }], "can't be read any more"],
    [[{ kind: "tracks.remove", trackIds: ["gone"] }], "no longer there"],
    [
      [
        {
          kind: "document.restore",
          undoes: "x",
          patches: [{ op: "replace", path: ["lines", "l9", "microphone", "name"], value: "x" }],
        },
      ],
      "can't be told any more",
    ],
    [[null], "can't be read any more"],
  ])("%j is answered with why it can't be", (commands, words) =>
    expect(gestureOneToTwo(templateEditing, template, commands as never)).toContain(words),
  );
});
