import { describe, expect, it } from "vitest";
import { templateEngine } from "../../commands/template-engine";
import { TEMPLATE } from "../../model/template";
import { aTemplate } from "../../testing/a-template";
import { gestureCompleted } from "./gesture-completed";

const doc = aTemplate().folder("Strings").track("Fiddle", { input: "9", folder: "Strings" }).build();

/** A track as version 2 wrote it. */
const {
  trimDb: _trim,
  faderDb: _fader,
  pan: _pan,
  muted: _muted,
  parked: _parked,
  ...old
} = doc.channels["track-1" as never] as unknown as Record<string, unknown>;

describe("gestures of version 2", () => {
  it("bring back what they removed, with what they did not know as it begins", () => {
    const removed = templateEngine.applyAll(doc, [{ kind: "remove", table: "channels", ids: ["track-1"] }]);
    const bare = removed.ok ? removed.doc : expect.unreachable();
    const lines = Object.values(doc.lines).map((value) => ({ op: "add" as const, path: ["lines", value.id], value }));
    const undo = {
      kind: "restore" as const,
      undoes: "Remove Fiddle",
      patches: [{ op: "add" as const, path: ["channels", "track-1"], value: old }, ...lines],
    };
    expect(templateEngine.applyAll(bare, [undo]).ok).toBe(false);
    const back = templateEngine.applyAll(bare, gestureCompleted(TEMPLATE.tables, [undo]));
    expect(back.ok && back.doc).toEqual(doc);
  });

  it("add what they bring, and are otherwise as they were", () => {
    const folder = { id: "f", name: "Winds", colour: null, parentId: null, open: true };
    const commands = gestureCompleted(TEMPLATE.tables, [
      { kind: "add", table: "folders", entries: [folder] },
      { kind: "set", table: "channels", values: { "track-1": { name: "Viola" } } },
    ]);
    expect(commands).toEqual([
      { kind: "add", table: "folders", entries: [{ ...folder, busId: null }] },
      { kind: "set", table: "channels", values: { "track-1": { name: "Viola" } } },
    ]);
    expect(templateEngine.applyAll(doc, commands).ok).toBe(true);
  });
});
