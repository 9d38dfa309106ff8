import { describe, expect, it } from "vitest";
import { duoRig, wheelhouseCart, wholeMill } from "../demo/rigs";
import { type ChannelId, sequentialIds } from "../model/ids";
import { colourOf, linesOfTrack, trackOf, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { newStudio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Template } from "../model/template";
import { cellText, inputText } from "../queries/cells";
import { CELL_COLUMNS } from "../queries/columns";
import { freeInputs, nextFreePair } from "../queries/free-inputs";
import { aTemplate } from "../testing/a-template";
import { planAddTracks, readAddPhrase } from "./add-tracks";
import { applyAll } from "./edits/template-editing";
import { colourByFamily } from "./family";
import type { Planned } from "./gesture";
import { fitTo } from "./refit";
import { writeCell } from "./write-cell";

const apply = (doc: Template, plan: Planned): Template => {
  if (!plan.ok) throw new Error(plan.message);
  const done = applyAll(doc, plan.gesture.edits);
  if (!done.ok) throw new Error(done.refusal.message);
  return done.doc;
};

describe("what is typed to add tracks", () => {
  it.each([
    ["8 mono from 3", { count: 8, layout: "mono", from: "3", begin: {} }],
    ["8 x mono from input 3", { count: 8, layout: "mono", from: "3", begin: {} }],
    ["2 stereo from E5", { count: 2, layout: "stereo", from: "E5", begin: {} }],
    ["4", { count: 4, layout: "mono", from: null, begin: {} }],
    ["stereo", { count: 1, layout: "stereo", from: null, begin: {} }],
    ["12 tracks", { count: 12, layout: "mono", from: null, begin: {} }],
    ["3× mono from 1", { count: 3, layout: "mono", from: "1", begin: {} }],
    [
      "8 mono from 3, at -6, after the chain, direct",
      { count: 8, layout: "mono", from: "3", begin: { faderDb: -6, recordPoint: "after", monitor: "direct" } },
    ],
    ["stereo, −∞, not monitored", { count: 1, layout: "stereo", from: null, begin: { faderDb: null, monitor: "off" } }],
  ])("%j is read", (text, phrase) => expect(readAddPhrase(text)).toEqual(phrase));

  it.each([
    "",
    "some",
    "8 mono from",
    "mono 8",
    "from 3 to 5",
    "4 mono, loudly",
    "4, at 99",
    "4, at 1, at 2, at 3, at 4, at 5, loudly",
  ])("%j is not", (text) => expect(readAddPhrase(text)).toBeNull());
});

describe("adding tracks on ascending inputs", () => {
  const plan = (doc: Template, text: string, rig: Rig = wheelhouseCart) =>
    planAddTracks(doc, rig, { text, folderId: null, ids: sequentialIds() });
  const inputs = (doc: Template, rig: Rig = wheelhouseCart) => tracksOf(doc).map((track) => inputText(doc, rig, track));
  const empty = aTemplate().build();

  it("eleven mono from 3 take inputs 3 to 13", () => {
    const added = plan(empty, "11 mono from 3");
    expect(added.says).toBe("11 mono tracks on inputs 3 to 13");
    expect(inputs(apply(empty, added.planned))).toEqual(["3", "4", "5", "6", "7", "8", "9", "10", "11", "12", "13"]);
    expect(added.trackIds).toHaveLength(11);
  });

  it("begin at the level, record point and monitoring that are typed with them", () => {
    const added = plan(empty, "2 mono from 3, at −6, after the chain, not monitored");
    expect(added.says).toBe("2 mono tracks on inputs 3 to 4, at −6 dB, recorded after the chain, not monitored");
    for (const track of tracksOf(apply(empty, added.planned)))
      expect(track).toMatchObject({ faderDb: -6, recordPoint: "after", monitor: "off" });
  });

  it("pass over inputs that are used or carry a return", () => {
    const used = aTemplate().track("Snare", { input: "2" }).build();
    const doc = applyAll(used, plan(used, "14 mono from 1").planned.ok ? [] : []);
    expect(doc.ok).toBe(true);
    const added = planAddTracks(used, wheelhouseCart, {
      text: "14 mono from 1",
      folderId: null,
      ids: <T extends string>(kind: string) => `${kind}-x${Math.random()}` as T,
    });
    expect(added.says).toBe("14 mono tracks on inputs 1 to 14; 1 without an input, as no more are free");
  });

  it("stereo tracks take neighbours, odd before even", () => {
    const doc = apply(empty, plan(empty, "2 stereo from 2").planned);
    expect(inputs(doc)).toEqual(["3–4", "5–6"]);
  });

  it("go on from the interface to the expander", () => {
    const doc = apply(
      aTemplate(wholeMill).build(),
      plan(aTemplate(wholeMill).build(), "3 mono from 14", wholeMill).planned,
    );
    expect(inputs(doc, wholeMill)).toEqual(["14", "E1", "E2"]);
  });

  it("are named by their inputs, without two of one name", () => {
    const named = aTemplate().track("Input 3", { input: "1" }).build();
    const added = planAddTracks(named, wheelhouseCart, {
      text: "1 mono from 3",
      folderId: null,
      ids: <T extends string>(kind: string) => `${kind}-new` as T,
    });
    expect(tracksOf(apply(named, added.planned)).map((track) => track.name)).toEqual(["Input 3", "Input 3, 2"]);
  });

  it.each([
    ["0", "Between 1 and 512 tracks can be added at once."],
    ["900 mono", "Between 1 and 512 tracks can be added at once."],
    ["2 mono from 40", "Wheelhouse cart has no input 40."],
    ["lots", "Say how many, mono or stereo, and from which input: 8 mono from 3."],
  ])("%j is answered with what to do", (text, says) => {
    expect(plan(empty, text)).toMatchObject({ says, planned: { ok: false } });
  });
});

describe("cells", () => {
  const doc = aTemplate()
    .folder("Strings", "weld")
    .track("Fiddle", {
      input: "9",
      microphone: "Clip-on condenser 1",
      phantom: true,
      folder: "Strings",
      player: "Wynn Solari",
      note: "close",
    })
    .track("Above", { input: ["5", "6"] })
    .track("Voice", { input: "17" })
    .build();
  const [fiddle, above, voice] = ["track-1", "track-2", "track-3"].map((id) => trackOf(doc, id as ChannelId));
  const write = (ids: readonly string[], column: Exclude<(typeof CELL_COLUMNS)[number], "layout">, text: string) =>
    writeCell(doc, wheelhouseCart, {
      trackIds: ids as ChannelId[],
      column,
      text,
      ids: <T extends string>(kind: string) => `${kind}-new` as T,
    });
  const message = (plan: Planned) => (plan.ok ? "" : plan.message);

  it("show what can be typed again", () => {
    if (!fiddle || !above || !voice) throw new Error("expected three tracks");
    const texts = CELL_COLUMNS.map(
      (column) => [column, cellText(doc, wheelhouseCart, { track: fiddle, column })] as const,
    );
    const said = Object.fromEntries(texts.filter(([, text]) => text !== ""));
    expect(said).toEqual({
      name: "Fiddle",
      layout: "mono",
      source: "Fiddle",
      microphone: "Clip-on condenser 1",
      input: "9",
      phantom: "yes",
      pad: "no",
      polarity: "normal",
      folder: "Strings",
      output: "Main",
      fader: "0",
      player: "Wynn Solari",
      note: "close",
    });
    expect(inputText(doc, wheelhouseCart, above)).toBe("5–6");
    expect(inputText(doc, wheelhouseCart, voice)).toBe("17?");
  });

  it("typed again they change nothing", () => {
    if (!fiddle) throw new Error("expected a track");
    for (const column of CELL_COLUMNS)
      if (column !== "layout") {
        const after = apply(doc, write([fiddle.id], column, cellText(doc, wheelhouseCart, { track: fiddle, column })));
        expect(after, column).toEqual(doc);
      }
  });

  it("an input goes to the line; an empty one takes it off", () => {
    expect(linesOfTrack(apply(doc, write(["track-1"], "input", "10")), fiddle as never)[0]?.portId).toBe(
      "brindle:in:10",
    );
    expect(linesOfTrack(apply(doc, write(["track-1"], "input", "")), fiddle as never)[0]?.portId).toBeNull();
  });

  it("one input for a stereo track takes its neighbour along; two are taken as they are", () => {
    const ports = (text: string) =>
      linesOfTrack(apply(doc, write(["track-2"], "input", text)), above as never).map((line) => line.portId);
    expect(ports("7")).toEqual(["brindle:in:7", "brindle:in:8"]);
    expect(ports("3/9")).toEqual(["brindle:in:3", "brindle:in:9"]);
  });

  it("one input for several tracks ascends from it", () => {
    const after = apply(doc, write(["track-1", "track-3"], "input", "13"));
    expect([fiddle, voice].map((track) => inputText(after, wheelhouseCart, track as never))).toEqual(["13", "14"]);
  });

  it.each([
    [["track-1"], "input", "99", "Wheelhouse cart has no input 99. It has 1 to 16."],
    [["track-1"], "input", "left", "“left” is no input. Type its number, as 7, E5, or 5-6 for stereo."],
    [
      ["track-1"],
      "input",
      "5-6",
      "Two inputs are for one stereo track. Type one input, or make the track stereo first.",
    ],
    [["track-1", "track-2"], "input", "14", "From input 14 on there are only 1 inputs, and 3 are needed."],
    [["track-1"], "name", "  ", "A track needs a name: its files are called by it."],
    [
      ["track-1"],
      "colour",
      "mauve",
      "“mauve” is no dye. Choose one from the list, or type a hex value such as #2f9074.",
    ],
    [["track-1"], "icon", "piano roll", "There is no icon piano roll. Choose one from the list."],
    [["track-1"], "phantom", "perhaps", "“perhaps” says neither yes nor no."],
  ] as const)("%j %s %j is answered with what to type", (ids, column, text, says) =>
    expect(message(write(ids, column, text))).toBe(says),
  );

  it("a folder that is there takes the track, a new one is made in the dye of its family", () => {
    expect(Object.keys(apply(doc, write(["track-2"], "folder", "strings")).folders)).toEqual(["folder-1"]);
    const after = apply(doc, write(["track-1", "track-2"], "folder", "Percussion"));
    expect(after.folders["folder-new" as never]).toMatchObject({ name: "Percussion", colour: "madder" });
    expect(colourOf(after, trackOf(after, "track-1" as ChannelId) as never)).toBe("madder");
  });

  it("a microphone is taken from the shelf when it is there, else named with its kind", () => {
    const microphone = (text: string) =>
      linesOfTrack(apply(doc, write(["track-3"], "microphone", text)), voice as never)[0]?.microphone;
    expect(microphone("active RIBBON")).toMatchObject({ kind: "shelf", microphoneId: "ribbon-active" });
    expect(microphone("Some ribbon")).toEqual({ kind: "named", name: "Some ribbon", type: "ribbon-passive" });
    expect(microphone("")).toBeNull();
  });

  it("names of several tracks are numbered", () => {
    expect(tracksOf(apply(doc, write(["track-1", "track-3"], "name", "Choir"))).map((track) => track.name)).toEqual(
      expect.arrayContaining(["Choir 1", "Choir 2"]),
    );
  });

  it("tracks are dyed by the family their names tell, the others left", () => {
    const after = apply(doc, colourByFamily(doc, ["track-1", "track-3"] as ChannelId[]));
    expect(tracksOf(after).map((track) => [track.name, track.colour, track.icon])).toEqual(
      expect.arrayContaining([
        ["Fiddle", "lichen", "bowed"],
        ["Above", null, null],
        ["Voice", "cochineal", "voice"],
      ]),
    );
    expect(colourByFamily(aTemplate().track("Xyz").build(), ["track-1" as ChannelId])).toMatchObject({ ok: false });
    // What the studio was told of a name, and the parts that stand beside it.
    const taughtWords = { w: { id: "w", word: "Xyz", family: "brass" } } as never;
    const choir = aTemplate().track("Soprano").track("Alto").track("Bass").track("Xyz").build();
    const told = apply(
      choir,
      colourByFamily(choir, ["track-3", "track-4"] as ChannelId[], { ...newStudio("M"), taughtWords }),
    );
    expect(tracksOf(told).map(({ colour }) => colour)).toEqual([null, null, "cochineal", "ochre"]);
  });
});

describe("free inputs", () => {
  it("are those with nothing on them and nothing coming in", () => {
    expect(
      freeInputs(aTemplate().track("Snare", { input: "1" }).build(), wheelhouseCart).map((rigInput) => rigInput.label),
    ).toEqual(["2", "3", "4", "5", "6", "7", "8", "9", "10", "11", "12", "13", "14"]);
  });

  it("a pair whose sides can't share a bank is put where each has its own switch", () => {
    const doc = aTemplate()
      .track("Odd", { input: ["4", "5"] })
      .build();
    const [left, right] = entriesOf(doc.lines);
    if (!left || !right) throw new Error("expected two lines");
    const condenser = { ...left, microphone: { kind: "named", name: "c", type: "condenser" } as const, phantom: true };
    const ribbon = { ...right, microphone: { kind: "named", name: "r", type: "ribbon-passive" } as const };
    expect(nextFreePair(doc, wheelhouseCart, [condenser, ribbon])?.map((rigInput) => rigInput.label)).toEqual([
      "13",
      "14",
    ]);
  });
});

describe("fitting to another rig", () => {
  it("keeps the very same ports, and finds those that were asked for", () => {
    const doc = aTemplate().track("Snare", { input: "1" }).track("Voice", { input: "18" }).build();
    expect(fitTo(doc, { from: wheelhouseCart, to: wholeMill }).inputs).toEqual([
      { lineId: "line-1", portId: "brindle:in:1", requestedInput: null },
      { lineId: "line-2", portId: "eight:in:2", requestedInput: null },
    ]);
  });

  it("takes the input of the same label on other devices, and keeps what it lacks as asked for", () => {
    const doc = aTemplate().track("Guitar", { input: "2" }).track("Voice", { input: "7" }).build();
    expect(fitTo(doc, { from: wheelhouseCart, to: duoRig }).inputs).toEqual([
      { lineId: "line-1", portId: "duo:in:2", requestedInput: null },
      { lineId: "line-2", portId: null, requestedInput: "7" },
    ]);
  });

  it("lets cues take the headphones there are, in their order; those that stay where they are stay", () => {
    const cue = (id: string, ...portIds: readonly string[]) => ({
      id: id as never,
      name: id,
      portIds: portIds as never,
    });
    const doc = aTemplate()
      .does({
        kind: "entries.add",
        entries: {
          cues: [cue("a", "brindle:out:3", "brindle:out:4"), cue("b", "brindle:out:5", "brindle:out:6"), cue("c")],
        },
      })
      .build();
    expect(fitTo(doc, { from: wheelhouseCart, to: duoRig }).cueOutputs).toEqual([
      { cueId: "a", portIds: ["duo:out:3", "duo:out:4"] },
      { cueId: "b", portIds: [] },
    ]);
    expect(fitTo(doc, { from: wheelhouseCart, to: wholeMill }).cueOutputs).toEqual([]);
  });

  it("sends the main bus to the monitors there", () => {
    const doc = aTemplate().build();
    const done = applyAll(doc, [fitTo(doc, { from: wheelhouseCart, to: duoRig })]);
    expect(done.ok && done.doc.channels["main" as never]).toMatchObject({
      output: { kind: "hardware", portIds: ["duo:out:1", "duo:out:2"] },
    });
  });
});
