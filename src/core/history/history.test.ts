import { describe, expect, it } from "vitest";
import type { Command } from "../commands/command";
import { templateEngine } from "../commands/template-engine";
import { tracksOf } from "../model/read-template";
import type { Edit } from "../planning/edits/edit";
import { apply, templateEditing } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { perform, redo, undo } from "../testing/undoing";
import { EMPTY_HISTORY } from "./history";
import { rebase } from "./rebase";

const doc = aTemplate().track("Fiddle", { input: "9" }).track("Snare", { input: "1" }).build();
const rename = (id: string, name: string): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id as never],
  set: { name },
});
const remove = (id: string): Edit => ({ kind: "entries.remove", table: "channels", ids: [id as never] });

const must = <T extends { ok: boolean }>(step: T): Extract<T, { ok: true }> => {
  if (!step.ok) throw new Error(JSON.stringify(step));
  return step as Extract<T, { ok: true }>;
};

describe("history", () => {
  it("names what it would undo and redo", () => {
    const step = must(perform(doc, EMPTY_HISTORY, { edits: [rename("track-1", "Viola")] }));
    expect(step.history.past.at(-1)?.name).toBe("Rename Fiddle to Viola");
    const back = must(undo(step.doc, step.history));
    expect(back.name).toBe("Undo: Rename Fiddle to Viola");
    expect(back.history.future.at(-1)?.name).toBe("Rename Fiddle to Viola");
  });

  it("takes a gesture of several commands back as one", () => {
    const step = must(
      perform(doc, EMPTY_HISTORY, { name: "Name two", edits: [rename("track-1", "A"), rename("track-2", "B")] }),
    );
    expect(step.history.past).toHaveLength(1);
    expect(must(undo(step.doc, step.history)).doc).toEqual(doc);
  });

  it("does not note what changes nothing", () => {
    expect(must(perform(doc, EMPTY_HISTORY, { edits: [rename("track-1", "Fiddle")] }))).toMatchObject({
      commands: [],
      history: EMPTY_HISTORY,
    });
  });

  it("forgets what was undone once something new is done", () => {
    const one = must(perform(doc, EMPTY_HISTORY, { edits: [rename("track-1", "A")] }));
    const back = must(undo(one.doc, one.history));
    expect(must(perform(back.doc, back.history, { edits: [rename("track-1", "B")] })).history.future).toEqual([]);
  });

  it("says that there is nothing to undo or redo", () => {
    expect(undo(doc, EMPTY_HISTORY)).toMatchObject({ ok: false, refusal: { message: "There is nothing to undo." } });
    expect(redo(doc, EMPTY_HISTORY)).toMatchObject({ ok: false, refusal: { message: "There is nothing to redo." } });
  });

  it("refuses to undo what another window removed, says why, and goes on with the one before", () => {
    const one = must(perform(doc, EMPTY_HISTORY, { edits: [rename("track-2", "Side drum")] }));
    const two = must(perform(one.doc, one.history, { edits: [rename("track-1", "Viola")] }));
    const elsewhere = must(apply(two.doc, remove("track-1")));
    const refused = undo(elsewhere.doc, two.history);
    expect(refused).toMatchObject({
      ok: false,
      refusal: { message: "“Rename Fiddle to Viola” can't be undone: what it changed is no longer there." },
    });
    const next = must(undo(elsewhere.doc, refused.history));
    expect(next.doc.channels["track-2" as never]).toMatchObject({ name: "Snare" });
  });

  it("puts what it takes back before what another window has put in its place since", () => {
    const rows = aTemplate().track("A").track("B").track("C").build();
    const order = (of: typeof rows) =>
      tracksOf(of)
        .map((track) => track.name)
        .join("");
    const moved = must(
      perform(rows, EMPTY_HISTORY, {
        edits: [{ kind: "entries.move", table: "channels", ids: ["track-1" as never], parent: null, before: null }],
      }),
    );
    const elsewhere = must(
      apply(moved.doc, {
        kind: "entries.move",
        table: "channels",
        ids: ["track-3" as never],
        parent: null,
        before: "track-2" as never,
      }),
    );
    expect([order(moved.doc), order(elsewhere.doc)]).toEqual(["BCA", "CBA"]);
    const back = must(undo(elsewhere.doc, moved.history));
    expect(new Set(tracksOf(back.doc).map((track) => track.order)).size).toBe(3);
    expect(order(back.doc)[0]).toBe("A");
  });

  it("refuses to undo a removal twice over", () => {
    const step = must(
      perform(doc, EMPTY_HISTORY, {
        edits: [
          { kind: "entries.add", entries: { folders: [{ id: "folder-9" as never, name: "Strings", colour: null }] } },
        ],
      }),
    );
    const filled = must(
      apply(step.doc, {
        kind: "entries.move",
        table: "channels",
        ids: ["track-1" as never],
        parent: "folder-9" as never,
        before: null,
      }),
    );
    expect(undo(filled.doc, step.history)).toMatchObject({ ok: false, refusal: { code: "unfit" } });
  });
});

describe("a restoring patch", () => {
  const restore = (path: string[], value: unknown = "x"): Command => ({
    kind: "restore",
    undoes: "Something",
    patches: [{ op: "replace", path, value }],
  });

  it.each([
    [["schema"]],
    [["id"]],
    [["__proto__", "x"]],
    [["lines", "nope", "source"]],
    [["channels", "track-1", "constructor"]],
  ])("does not reach %j", (path) => {
    expect(templateEngine.apply(doc, restore(path))).toMatchObject({ ok: false });
  });

  it("does not break the schema or the rules", () => {
    expect(templateEngine.apply(doc, restore(["channels", "track-1", "name"], 5))).toMatchObject({ ok: false });
    expect(templateEngine.apply(doc, restore(["channels", "track-1", "folderId"], "nope"))).toMatchObject({
      ok: false,
      refusal: { code: "unfit" },
    });
  });
});

describe("rebase", () => {
  const gesture = (id: string, ...edits: Edit[]) => ({
    id,
    name: id,
    commands: must(templateEditing.plan(doc, edits)).commands,
  });

  it("does pending gestures again on what is newer", () => {
    const newer = must(apply(doc, rename("track-2", "Side drum"))).doc;
    const { doc: both, lost } = rebase(templateEngine, newer, [gesture("a", rename("track-1", "Viola"))]);
    expect(lost).toEqual([]);
    expect([both.channels["track-1" as never], both.channels["track-2" as never]]).toMatchObject([
      { name: "Viola" },
      { name: "Side drum" },
    ]);
  });

  it("tells what can't be done, why, and goes on with the rest", () => {
    const newer = must(apply(doc, remove("track-1"))).doc;
    const {
      doc: rest,
      kept,
      lost,
    } = rebase(templateEngine, newer, [
      gesture("name it", rename("track-1", "Viola")),
      gesture("b", rename("track-2", "Side drum")),
    ]);
    expect(lost).toEqual([
      { name: "name it", why: "The track this was meant for is no longer there: it was removed in the meantime." },
    ]);
    expect(kept.map((entry) => entry.id)).toEqual(["b"]);
    expect(rest.channels["track-2" as never]).toMatchObject({ name: "Side drum" });
  });
});
