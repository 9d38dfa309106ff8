import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../commands/template-engine";
import { wheelhouseCart } from "../demo/rigs";
import { loomThreads } from "../layout/loom";
import { layoutRows } from "../layout/rows";
import { type ChannelId, type FolderId, sequentialIds } from "../model/ids";
import { rigInputOf, rigInputsOf } from "../model/read-rig";
import { linesOfTrack, tracksOf } from "../model/read-template";
import type { Template } from "../model/template";
import { aTemplate } from "../testing/a-template";
import { dropFolder, dropTracks, plugInto, stepFolder, unplug } from "./arrange";
import { duplicateTracks } from "./duplicate";
import { applyAll } from "./edits/template-editing";
import { setFamily, setFolderFamily } from "./family";
import type { Planned } from "./gesture";
import { nameByPattern } from "./name-pattern";
import { changeGain, shiftInputs } from "./numbers";
import { inputsInRowOrder, rowsInInputOrder } from "./order";

const rig = wheelhouseCart;
const ids = () => {
  const next = sequentialIds();
  return <T extends string>(kind: string) => `new-${next<T>(kind)}` as T;
};
const id = (text: string) => text as ChannelId & FolderId;

const done = (doc: Template, plan: Planned): Template => {
  if (!plan.ok) throw new Error(plan.message);
  const applied = applyAll(doc, plan.gesture.edits);
  if (!applied.ok) throw new Error(applied.refusal.message);
  expect(brokenInvariants(applied.doc)).toEqual([]);
  return applied.doc;
};
const refusal = (plan: Planned) => (plan.ok ? "" : plan.message);
const inputs = (doc: Template) =>
  Object.fromEntries(
    tracksOf(doc).map((track) => [
      track.name,
      linesOfTrack(doc, track)
        .map((line) => rigInputOf(rig, line.portId)?.label ?? line.requestedInput)
        .join("+"),
    ]),
  );
const view = (doc: Template) =>
  layoutRows(doc, { unfold: true }).map(
    (row) => `${" ".repeat(row.depth)}${row.kind === "folder" ? row.folder.name : row.track.name}`,
  );

const crossed = () =>
  aTemplate()
    .folder("Strings", "weld")
    .folder("Drums", "madder")
    .track("Fiddle", {
      input: "9",
      folder: "Strings",
      microphone: "Clip-on condenser 1",
      phantom: true,
      gainDb: 30 as never,
      player: "Wynn Solari",
    })
    .track("Harp", { input: "3", folder: "Strings" })
    .track("Above", { input: ["5", "6"], folder: "Drums", microphone: "Small condenser pair", phantom: true })
    .track("Snare", { input: "1", folder: "Drums", microphone: "Moving-coil 1", gainDb: 40 as never })
    .build();

describe("crossed threads", () => {
  const crossings = (doc: Template) => {
    const seats = new Map(rigInputsOf(rig).map((rigInput, at) => [rigInput.port.id, at]));
    const threads = loomThreads(layoutRows(doc, { unfold: true }), { inputY: seats, rowY: (index) => index * 100 });
    return threads.flatMap((a) => threads.filter((b) => a.fromY < b.fromY && a.toY > b.toY)).length;
  };

  it("are straightened by putting rows in input order, within their folders", () => {
    const doc = done(crossed(), rowsInInputOrder(crossed(), rig));
    expect(view(doc)).toEqual(["Drums", " Snare", " Above", "Strings", " Harp", " Fiddle"]);
    // Harp on 3 stands between Snare on 1 and Above on 5–6: the folders keep it away from them.
    expect([crossings(crossed()), crossings(doc)]).toEqual([7, 2]);
    expect(refusal(rowsInInputOrder(doc, rig))).toContain("already");
  });

  it("or by dealing the inputs in use out again in row order, each to what suits it", () => {
    const order = ["track-1", "track-2", "track-3", "track-4"].map(id);
    const doc = done(crossed(), inputsInRowOrder(crossed(), rig, order));
    expect(inputs(doc)).toEqual({ Fiddle: "1", Harp: "3", Above: "5+6", Snare: "9" });
    expect(new Set(Object.values(doc.lines).map((line) => line.portId))).toEqual(
      new Set(Object.values(crossed().lines).map((line) => line.portId)),
    );
    expect(crossings(doc)).toBe(0);
  });
});

describe("a duplicate has everything of its original, below it", () => {
  const copy = (input: "by-turns" | "next-free" | "none") => {
    const made = duplicateTracks(crossed(), rig, { trackIds: [id("track-1")], input, ids: ids() });
    return { doc: done(crossed(), made.planned), copyId: made.trackIds[0] as ChannelId };
  };

  it("on the same line by turns", () => {
    const { doc, copyId } = copy("by-turns");
    expect(view(doc).slice(0, 4)).toEqual(["Strings", " Fiddle", " Fiddle 2", " Harp"]);
    expect(
      tracksOf(doc)
        .filter((track) => track.sharing === "by-turns")
        .map((track) => track.name),
    ).toEqual(["Fiddle", "Fiddle 2"]);
    expect(doc.channels[copyId]).toMatchObject({ input: { kind: "line", lineId: "line-1" } });
  });

  it("on the next free input that suits it", () => {
    const { doc } = copy("next-free");
    expect(inputs(doc)["Fiddle 2"]).toBe("2");
    expect(Object.values(doc.lines).find((line) => line.id.startsWith("new"))).toMatchObject({
      gainDb: 30,
      phantom: true,
      player: "Wynn Solari",
      microphone: { name: "Clip-on condenser 1" },
    });
  });

  it("on nothing yet, and a pair keeps two lines", () => {
    expect(inputs(copy("none").doc)["Fiddle 2"]).toBe("");
    const pair = duplicateTracks(crossed(), rig, { trackIds: [id("track-3")], input: "next-free", ids: ids() });
    expect(inputs(done(crossed(), pair.planned))["Above 2"]).toBe("7+8");
  });
});

describe("numbers on many at once", () => {
  const both = [id("track-1"), id("track-4")];

  it("are set to one value, or shifted with their differences kept", () => {
    const gains = (doc: Template) =>
      ["line-1", "line-5"].map((line) => doc.lines[line as never as keyof typeof doc.lines]?.gainDb);
    expect(gains(done(crossed(), changeGain(crossed(), both, { how: "set", text: "32 dB" })))).toEqual([32, 32]);
    expect(gains(done(crossed(), changeGain(crossed(), both, { how: "shift", text: "−3" })))).toEqual([27, 37]);
    expect(refusal(changeGain(crossed(), both, { how: "set", text: "loud" }))).toContain("number of dB");
  });

  it("a shift beyond what can be is refused whole, and so is one where nothing is set", () => {
    const plan = changeGain(crossed(), both, { how: "shift", text: "110" });
    expect(plan.ok && applyAll(crossed(), plan.gesture.edits)).toMatchObject({
      ok: false,
      refusal: { message: expect.stringContaining("beyond") },
    });
    const unset = changeGain(crossed(), [id("track-2")], { how: "shift", text: "3" });
    expect(unset.ok && applyAll(crossed(), unset.gesture.edits)).toMatchObject({ ok: false });
  });

  it("inputs shift along as they sit, or not at all", () => {
    expect(
      inputs(done(crossed(), shiftInputs(crossed(), rig, { trackIds: [id("track-2"), id("track-4")], by: 1 }))),
    ).toMatchObject({ Harp: "4", Snare: "2" });
    expect(refusal(shiftInputs(crossed(), rig, { trackIds: [id("track-1")], by: 6 }))).toBe(
      "Fiddle would come to input 15, which carries the Stair.",
    );
    expect(refusal(shiftInputs(crossed(), rig, { trackIds: [id("track-4")], by: -1 }))).toContain("none 1 before it");
  });
});

describe("names and families", () => {
  it("a pattern fills in what each track has", () => {
    const doc = done(
      crossed(),
      nameByPattern(crossed(), rig, {
        trackIds: [id("track-1"), id("track-4")],
        pattern: "{source} ({microphone}) {input}",
      }),
    );
    expect(tracksOf(doc).map((track) => track.name)).toEqual(
      expect.arrayContaining(["Fiddle (Clip-on condenser 1) 9", "Snare (Moving-coil 1) 1"]),
    );
  });

  it("alike names are numbered, unknown parts are told", () => {
    const doc = done(
      crossed(),
      nameByPattern(crossed(), rig, { trackIds: [id("track-1"), id("track-2")], pattern: "{folder}" }),
    );
    expect(tracksOf(doc).map((track) => track.name)).toEqual(expect.arrayContaining(["Strings", "Strings 2"]));
    expect(refusal(nameByPattern(crossed(), rig, { trackIds: [id("track-1")], pattern: "{colour}" }))).toContain(
      "{source}",
    );
    expect(refusal(nameByPattern(crossed(), rig, { trackIds: [id("track-1")], pattern: "Fiddle" }))).toContain(
      "differs",
    );
  });

  it("a family sets dye and icon, and names what has no name that says anything", () => {
    const start = aTemplate().track("Input 1", { input: "1" }).track("Tuba", { input: "2" }).build();
    const doc = done(start, setFamily(start, [id("track-1"), id("track-2")], "brass"));
    expect(tracksOf(doc)).toMatchObject([
      { name: "Brass", colour: "ochre", icon: "brass" },
      { name: "Tuba", colour: "ochre", icon: "brass" },
    ]);
    expect(done(crossed(), setFolderFamily(id("folder-1"), "voices")).folders[id("folder-1")]).toMatchObject({
      name: "Voices",
      colour: "cochineal",
    });
  });
});

describe("dropped by hand", () => {
  const drop = (command: ReturnType<typeof dropTracks>) =>
    command ? done(crossed(), { ok: true, gesture: { edits: [command] } }) : crossed();

  it("tracks go above, below and into", () => {
    expect(
      view(drop(dropTracks(crossed(), [id("track-4")], { rowId: id("track-1"), edge: "above" }))).slice(0, 3),
    ).toEqual(["Strings", " Snare", " Fiddle"]);
    expect(
      view(drop(dropTracks(crossed(), [id("track-4"), id("track-1")], { rowId: id("track-2"), edge: "below" }))).slice(
        0,
        4,
      ),
    ).toEqual(["Strings", " Harp", " Fiddle", " Snare"]);
    expect(view(drop(dropTracks(crossed(), [id("track-1")], { rowId: id("folder-2"), edge: "in" }))).at(-1)).toBe(
      " Fiddle",
    );
    expect(dropTracks(crossed(), [id("track-1")], { rowId: id("track-1"), edge: "below" })).toBeNull();
  });

  it("folders go among each other and into each other, never into themselves", () => {
    expect(view(drop(dropFolder(crossed(), id("folder-2"), { rowId: id("folder-1"), edge: "above" })))[0]).toBe(
      "Drums",
    );
    const nested = drop(dropFolder(crossed(), id("folder-2"), { rowId: id("folder-1"), edge: "in" }));
    expect(view(nested)).toEqual(["Strings", " Fiddle", " Harp", " Drums", "  Above", "  Snare"]);
    const loop = dropFolder(nested, id("folder-1"), { rowId: id("folder-2"), edge: "in" });
    expect(loop && applyAll(nested, [loop])).toMatchObject({
      ok: false,
      refusal: { message: "Strings can't lie in itself, or in a folder that it holds." },
    });
    expect(view(drop(stepFolder(crossed(), id("folder-1"), 1)))[0]).toBe("Drums");
    expect(stepFolder(crossed(), id("folder-1"), -1)).toBeNull();
  });

  it("a jack plugged into a track that another stands on lets the two change inputs", () => {
    const plan = plugInto(crossed(), rig, { trackId: id("track-1"), portId: "brindle:in:1" as never });
    expect(plan).toMatchObject({ gesture: { name: "Fiddle and Snare change inputs" } });
    expect(inputs(done(crossed(), plan))).toMatchObject({ Fiddle: "1", Snare: "9" });
    expect(
      inputs(done(crossed(), plugInto(crossed(), rig, { trackId: id("track-3"), portId: "brindle:in:7" as never }))),
    ).toMatchObject({ Above: "7+8" });
    expect(refusal(plugInto(crossed(), rig, { trackId: id("track-1"), portId: "brindle:in:15" as never }))).toContain(
      "carries the Stair",
    );
    expect(
      inputs(done(crossed(), plugInto(crossed(), rig, { trackId: id("track-3"), portId: "brindle:in:8" as never }))),
    ).toMatchObject({ Above: "7+8" });
    expect(inputs(done(crossed(), unplug(crossed(), id("track-3"))))).toMatchObject({ Above: "+" });
  });
});
