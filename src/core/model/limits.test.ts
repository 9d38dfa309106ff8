import { describe, expect, it } from "vitest";
import { brokenInvariants, templateEngine } from "../commands/template-engine";
import { readTemplateJson, writeDocument } from "../formats/document-json";
import type { Edit } from "../planning/edits/edit";
import { apply, applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { MOST } from "./limits";
import { newLine } from "./tables/lines";
import type { Template } from "./template";

const empty = aTemplate().build();
const add = (count: number, from = 0): Edit => {
  const lines = Array.from({ length: count }, (_, at) => newLine({ id: `l${from + at}` as never }));
  const tracks = lines.map((line, at) => ({
    id: `t${from + at}` as never,
    name: `T${at}`,
    note: "",
    colour: null,
    icon: null,
    input: { kind: "line", lineId: line.id } as const,
    sharing: null,
  }));
  return { kind: "tracks.add", tracks, lines, folderId: null, before: null };
};
const message = (doc: Template, command: Edit): string => {
  const done = apply(doc, command);
  return done.ok ? "" : done.refusal.message;
};

describe("how much a template holds", () => {
  it(`is ${MOST.lines} lines on as many tracks, added in one act or several, and not one more`, () => {
    const full = applyAll(empty, [add(MOST.lines - 1), add(1, MOST.lines)]);
    expect(full.ok && brokenInvariants(full.doc)).toEqual([]);
    expect(full.ok && message(full.doc, add(1, 2 * MOST.lines))).toMatch(
      /holds up to 8192 tracks.*Make a second template/,
    );
    expect(message(empty, add(MOST.lines + 1))).toContain("8192");
  });

  it("is told of a document that is read", () => {
    const full = applyAll(empty, [add(MOST.lines)]);
    const doc = full.ok ? full.doc : empty;
    const more = { ...doc, lines: { ...doc.lines, surplus: newLine({ id: "surplus" as never }) } };
    expect(readTemplateJson(writeDocument(more))).toMatchObject({ ok: false, pointer: "/lines" });
  });
});

const nested = (depth: number): Template => ({
  ...empty,
  folders: Object.fromEntries(
    Array.from({ length: depth }, (_, at) => [
      `f${at}`,
      {
        id: `f${at}`,
        name: `F${at}`,
        parentId: at ? `f${at - 1}` : null,
        order: "a0",
        colour: null,
        open: true,
        busId: null,
      },
    ]),
  ) as never,
});

describe("how deep folders lie in one another", () => {
  it(`is ${MOST.depth}, when they are made, moved and read`, () => {
    const deepest = nested(MOST.depth);
    expect(brokenInvariants(deepest)).toEqual([]);
    const inner = {
      kind: "entries.add",
      entries: { folders: [{ id: "x", name: "X", colour: null, parentId: `f${MOST.depth - 1}` }] },
    } as never;
    expect(message(deepest, inner)).toContain("64 deep");
    const beside = applyAll(deepest, [
      { kind: "entries.add", entries: { folders: [{ id: "a", name: "A", colour: null }] } } as never,
      { kind: "entries.add", entries: { folders: [{ id: "b", name: "B", colour: null, parentId: "a" }] } } as never,
    ]);
    const move = {
      kind: "entries.move",
      table: "folders",
      ids: ["a"],
      parent: `f${MOST.depth - 2}`,
      before: null,
    } as never;
    expect(beside.ok && message(beside.doc, move)).toContain("64 deep");
    expect(
      beside.ok &&
        message(beside.doc, {
          kind: "entries.move",
          table: "folders",
          ids: ["a"],
          parent: `f${MOST.depth - 3}`,
          before: null,
        } as never),
    ).toBe("");
    expect(readTemplateJson(writeDocument(nested(1200)))).toMatchObject({
      ok: false,
      message: expect.stringContaining("1200 deep in one another, and 64 is the most"),
    });
  });

  it("is looked at in one walk, also when it is a hundred thousand and a ring", () => {
    const ring = nested(2000);
    const closed = {
      ...ring,
      folders: { ...ring.folders, f0: { ...ring.folders["f0" as never], parentId: "f1999" } },
    } as Template;
    expect(brokenInvariants(closed).some((fault) => fault.includes("lies in itself"))).toBe(true);
    expect(brokenInvariants(nested(100_000)).some((fault) => fault.includes("100000 deep"))).toBe(true);
  });

  it("of a document of before does not keep a person from undoing something else in it", () => {
    const old = nested(100);
    const renamed = apply(old, { kind: "document.rename", name: "Renamed" });
    expect(
      renamed.ok && templateEngine.apply(renamed.doc, { kind: "restore", undoes: "x", patches: renamed.inverse }),
    ).toMatchObject({ ok: true, doc: { name: old.name } });
  });
});
