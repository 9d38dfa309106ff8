import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { type ChannelId, type IdSource, sequentialIds } from "../model/ids";
import { trackOf, tracksOf } from "../model/read-template";
import type { Template } from "../model/template";
import { microphonesOffered } from "../queries/microphones-offered";
import { aTemplate } from "../testing/a-template";
import { pasteBlock } from "./block";
import { applyAll } from "./edits/template-editing";
import type { Planned } from "./gesture";
import { writeCell } from "./write-cell";

const made = sequentialIds();
const ids = ((kind: string) => `new-${made(kind)}`) as IdSource;
const did = (doc: Template, plan: Planned): Template => {
  const done = plan.ok ? applyAll(doc, plan.gesture.edits) : expect.unreachable(plan.message);
  return done.ok ? done.doc : expect.unreachable(done.refusal.message);
};
const studio = {
  ...demoStudio,
  families: {
    ...demoStudio.families,
    voices: { ...demoStudio.families.voices, colour: "woad" as const, icon: "speech" as const },
  },
};
const named = (doc: Template, id: string, text: string): Template =>
  did(doc, writeCell(doc, wholeMill, { trackIds: [id as ChannelId], column: "name", text, ids, studio }));
const look = (doc: Template, id: string) => {
  const { name, colour, icon } = trackOf(doc, id as ChannelId) ?? expect.unreachable(id);
  return [name, colour, icon];
};

describe("a name", () => {
  const doc = aTemplate(wholeMill)
    .folder("Band", "madder")
    .track("Input 3", { input: "3" })
    .track("Input 4", { input: "4", folder: "Band" })
    .build();

  it("that is typed gives dye and icon as the studio says; what was chosen by hand, and the dye of a folder, stay", () => {
    const sung = named(doc, "track-1", "Lead voice");
    expect(look(sung, "track-1")).toEqual(["Lead voice", "woad", "speech"]);
    expect(look(named(doc, "track-2", "Lead voice"), "track-2")).toEqual(["Lead voice", null, "speech"]);
    const own = did(sung, {
      ok: true,
      gesture: {
        edits: [{ kind: "entries.set", table: "channels", ids: ["track-1" as ChannelId], set: { colour: "walnut" } }],
      },
    });
    expect(look(named(own, "track-1", "Snare"), "track-1")).toEqual(["Snare", "walnut", "drum"]);
    expect(look(named(sung, "track-1", "Snare"), "track-1")).toEqual(["Snare", "madder", "drum"]);
    expect(look(named(sung, "track-1", "Thing"), "track-1")).toEqual(["Thing", "woad", "speech"]);
  });

  it("that is pasted does so too, also of tracks that come in with it", () => {
    const plan = pasteBlock(doc, wholeMill, {
      cells: [["Lead voice"], ["Snare"]],
      trackIds: ["track-1" as ChannelId],
      columns: ["name"],
      folderId: null,
      ids,
      studio,
    });
    const after = did(doc, plan.planned);
    const snare = tracksOf(after).find(({ name }) => name === "Snare") ?? expect.unreachable();
    expect([look(after, "track-1"), look(after, snare.id)]).toEqual([
      ["Lead voice", "woad", "speech"],
      ["Snare", "madder", "drum"],
    ]);
  });

  it("of a new folder gives its dye as the studio says", () => {
    const after = did(
      doc,
      writeCell(doc, wholeMill, { trackIds: ["track-1" as ChannelId], column: "folder", text: "Voices", ids, studio }),
    );
    expect(Object.values(after.folders).find(({ name }) => name === "Voices")?.colour).toBe("woad");
  });
});

describe("microphones that are offered", () => {
  it("are those that are free first, and those of which none is left are told behind them", () => {
    const all = microphonesOffered(aTemplate(wholeMill).build(), wholeMill);
    const single = Object.values(wholeMill.microphones).find(({ count }) => count === 1) ?? expect.unreachable();
    expect(all.every(({ usedUp }) => !usedUp)).toBe(true);
    const used = microphonesOffered(
      aTemplate(wholeMill).track("Fiddle", { microphone: single.name }).build(),
      wholeMill,
    );
    expect(used.at(-1)).toEqual({ name: single.name, usedUp: true });
    expect(used).toHaveLength(all.length);
  });
});
