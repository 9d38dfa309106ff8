import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../commands/template-engine";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { EMPTY_HISTORY, type History } from "../history/history";
import { wayOf } from "../layout/signal-path";
import { type ChannelId, type IdSource, sequentialIds } from "../model/ids";
import { trackOf } from "../model/read-template";
import { entriesOf } from "../model/table";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { reductionDb } from "../processors/dynamics";
import { processorsOf } from "../queries/chains";
import { isThrow } from "../queries/sends";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns } from "../testing/random-edits";
import { perform, undo } from "../testing/undoing";
import { keptChains } from "./chain-plans";
import type { Edit } from "./edits/edit";
import { apply } from "./edits/template-editing";
import { parallelBus, playedDbu, reAmp, splitInBands, throwTo } from "./further-ways";
import type { Planned } from "./gesture";
import { blend, commonName, duck, duckerOf, readBalance, recordSeveralWays, restOfShare } from "./weave-plans";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, planned: Planned): Template => {
  if (!planned.ok) throw new Error(planned.message);
  const made = perform(doc, EMPTY_HISTORY, planned.gesture);
  if (!made.ok) throw new Error(made.refusal.message);
  // What changes nothing is not noted, and there is nothing to take back.
  if (made.doc === doc) return doc;
  expect(brokenInvariants(made.doc)).toEqual([]);
  const back = undo(made.doc, made.history);
  expect(back.ok && back.doc).toEqual(doc);
  return made.doc;
};
const edit = (doc: Template, command: Edit): Template => done(doc, { ok: true, gesture: { edits: [command] } });
const says = (planned: Planned) => (planned.ok ? (planned.gesture.name ?? "") : planned.message);
const named = (doc: Template, name: string) =>
  entriesOf(doc.channels).find((channel) => channel.name === name) ?? expect.unreachable(name);
const routes = (doc: Template) =>
  Object.fromEntries(
    entriesOf(doc.channels).map(({ name, output }) => [
      name,
      output.kind === "channel" ? doc.channels[output.channelId]?.name : output.kind,
    ]),
  );
const faders = (doc: Template, ...names: readonly string[]) => names.map((name) => named(doc, name).faderDb);
const fader = (doc: Template, name: string, faderDb: number | null): Template =>
  edit(doc, { kind: "entries.set", table: "channels", ids: [named(doc, name).id], set: { faderDb: faderDb as never } });
let ids: IdSource = sequentialIds();
const fresh = (): void => {
  ids = sequentialIds();
  const made = ids;
  ids = ((kind: string) => `new-${made(kind)}`) as IdSource;
};

const pair = () =>
  aTemplate()
    .folder("Low")
    .track("Bass DI", { input: "1", folder: "Low" })
    .track("Bass microphone", { input: "2", folder: "Low" })
    .track("Voice", { input: "3" })
    .build();
const blended = () => {
  fresh();
  return done(
    pair(),
    blend(pair(), { channelIds: [id("track-1"), id("track-2")], name: "Bass", balance: ["70 %", "30 %"], ids }),
  );
};

describe("a blend to one track", () => {
  it("takes each line through its own channel at its own balance into a bus that one track records", () => {
    const doc = blended();
    expect(routes(doc)).toEqual({
      "Bass DI": "Bass blend",
      "Bass microphone": "Bass blend",
      Bass: "Main",
      "Bass blend": "nowhere",
      Voice: "Main",
      Main: "hardware",
    });
    expect(faders(doc, "Bass DI", "Bass microphone")).toEqual([-3.1, -10.46]);
    expect(named(doc, "Bass")).toMatchObject({
      kind: "track",
      input: { kind: "bus", busId: named(doc, "Bass blend").id },
      folderId: "folder-1",
    });
    const way = wayOf(doc, wheelhouseCart, named(doc, "Bass DI")).map(({ title }) => title);
    expect(way).toEqual(["Input 1", "Bass DI", "Bass blend", "Recorded on Bass", "Nowhere"]);
    expect(wayOf(doc, wheelhouseCart, named(doc, "Bass")).map(({ title, detail }) => `${title}: ${detail}`)).toEqual([
      "Bass blend: sums 2",
      "Bass: records its bus here",
      "Main: sums 2",
      expect.stringContaining("Outputs 1–2"),
    ]);
  });

  it("is held together: one fader moves both, at the end stop too, and back to the same difference", () => {
    const doc = blended();
    const up = fader(doc, "Bass microphone", 6);
    expect(faders(up, "Bass DI", "Bass microphone")).toEqual([12, 6]);
    expect(faders(fader(up, "Bass microphone", -10.46), "Bass DI", "Bass microphone")).toEqual([-3.1, -10.46]);
    // The one at its end is pulled itself: the other goes as far as keeps the difference.
    expect(faders(fader(up, "Bass DI", 10), "Bass DI", "Bass microphone")).toEqual([10, 2.64]);
    const alone = edit(doc, {
      kind: "entries.set",
      table: "channels",
      ids: [named(doc, "Bass DI").id],
      set: { faderDb: 0 as never },
      alone: true,
    });
    expect(faders(alone, "Bass DI", "Bass microphone")).toEqual([0, -10.46]);
    const muted = edit(doc, {
      kind: "entries.set",
      table: "channels",
      ids: [named(doc, "Bass DI").id],
      set: { muted: true },
    });
    expect(named(muted, "Bass microphone")).toMatchObject({ muted: true });
  });

  it("says what it can't read", () => {
    fresh();
    const of = (balance: readonly string[], name = "Bass", channels = ["track-1", "track-2"]) =>
      says(blend(pair(), { channelIds: channels.map(id), name, balance, ids }));
    expect(of(["loud"])).toContain("“loud” is no level");
    expect(of([], " ")).toContain("needs a name");
    expect(of([], "Bass", ["track-1"])).toContain("two tracks or more");
    expect(of([])).toBe("Blend 2 channels to one track, Bass");
  });

  it.each([
    ["70 %", -3.1],
    ["100 %", 0],
    ["0 %", null],
    ["−6", -6],
    ["-6,5 dB", -6.5],
    ["−∞", null],
    ["101 %", undefined],
    ["x", undefined],
    ["", undefined],
  ])("%s is %s dB", (text, db) => expect(readBalance(text)).toBe(db));

  it("fills in the other side of a share, and names itself after what its lines have in common", () => {
    expect([restOfShare("70 %"), restOfShare("−3"), restOfShare("120 %")]).toEqual(["30 %", "", ""]);
    expect([
      commonName(["Bass DI", "Bass microphone"]),
      commonName(["Above L", "Above R"]),
      commonName(["Snare", "Floor tom"]),
      commonName(["Tuba 1", "Tuba 1"]),
    ]).toEqual(["Bass", "Above", "Snare", "Tuba 1"]);
  });
});

describe("a gang", () => {
  it("keeps differences through any moves that stay within what is remembered, and leaves silence silent", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc = fader(blended(), "Bass DI", Math.round(chance() * 20) - 15);
        const [a, b] = faders(doc, "Bass DI", "Bass microphone") as unknown as readonly [number, number];
        const history: History = EMPTY_HISTORY;
        for (let n = 0; n < 6; n++) {
          const channelIds = [named(doc, chance() < 0.5 ? "Bass DI" : "Bass microphone").id];
          const made = perform(doc, history, {
            edits: [{ kind: "channels.shift", channelIds, byDb: (Math.round(chance() * 40) - 20) as never }],
          });
          if (made.ok) doc = made.doc;
        }
        const back = fader(doc, "Bass DI", a);
        expect(faders(back, "Bass DI", "Bass microphone")[1]).toBeCloseTo(b, 2);
      }),
      { numRuns: runs(40, 400), seed: 20261202 },
    );
    const silent = edit(blended(), {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-1")],
      set: { faderDb: null },
      alone: true,
    });
    expect(faders(fader(silent, "Bass microphone", 0), "Bass DI", "Bass microphone")).toEqual([null, 0]);
  });

  it("that goes to −∞ comes back with its balance; one that was silent by itself stays so", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = fader(blended(), "Bass DI", Math.round(chance() * 20) - 15);
        const [a, b] = faders(doc, "Bass DI", "Bass microphone") as unknown as readonly [number, number];
        const [one, other] = chance() < 0.5 ? ["Bass DI", "Bass microphone"] : ["Bass microphone", "Bass DI"];
        const silent = fader(doc, one as string, null);
        expect(faders(silent, "Bass DI", "Bass microphone")).toEqual([null, null]);
        const to = Math.round(chance() * 10) - 20;
        const back = fader(silent, other as string, to);
        const [x, y] = faders(back, "Bass DI", "Bass microphone") as unknown as readonly [number, number];
        expect(y - x).toBeCloseTo(b - a, 2);
        expect(faders(back, other as string)).toEqual([to]);
      }),
      { numRuns: runs(40, 400), seed: 20261203 },
    );
    const both = edit(blended(), {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-1"), id("track-2")],
      set: { faderDb: null },
    });
    const was = faders(blended(), "Bass DI", "Bass microphone") as unknown as readonly [number, number];
    const is = faders(fader(both, "Bass DI", -10), "Bass DI", "Bass microphone") as unknown as readonly [
      number,
      number,
    ];
    expect(is[1] - is[0]).toBeCloseTo(was[1] - was[0], 2);
    const alone = edit(blended(), {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-1")],
      set: { faderDb: null },
      alone: true,
    });
    expect(
      faders(fader(fader(alone, "Bass microphone", null), "Bass microphone", -4), "Bass DI", "Bass microphone"),
    ).toEqual([null, -4]);
  });

  it("holds what it is told to: sends made, set and taken off on one go for all", () => {
    fresh();
    let doc = edit(pair(), {
      kind: "channels.add",
      channels: [{ kind: "return", id: id("plate"), name: "Plate" }],
      feedIds: [],
    });
    doc = edit(doc, {
      kind: "gangs.add",
      gang: { id: "g" as never, name: "Pair", level: false, mute: false, pan: true, sends: true },
      channelIds: [id("track-1"), id("track-2")],
    });
    doc = edit(doc, {
      kind: "sends.add",
      sends: [{ id: "s" as never, fromId: id("track-1"), toId: id("plate"), levelDb: -12 as never }],
    });
    expect(entriesOf(doc.sends).map(({ fromId, levelDb }) => [fromId, levelDb])).toEqual([
      ["track-1", -12],
      ["track-2", -12],
    ]);
    doc = edit(doc, {
      kind: "entries.set",
      table: "sends",
      ids: [entriesOf(doc.sends)[1]?.id as never],
      set: { tap: "before", levelDb: -20 as never },
    });
    expect(entriesOf(doc.sends).map(({ tap, levelDb }) => [tap, levelDb])).toEqual([
      ["before", -20],
      ["before", -20],
    ]);
    expect(entriesOf(edit(doc, { kind: "entries.remove", table: "sends", ids: ["s" as never] }).sends)).toEqual([]);
    doc = edit(doc, {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-1")],
      set: { pan: -30, faderDb: -6 as never },
    });
    expect(doc.channels[id("track-2")]).toMatchObject({ pan: -30, faderDb: 0 });
  });

  it("goes when nothing is in it any more, and holds two or more that are not the main bus", () => {
    fresh();
    const gang = { id: "g" as never, name: "", level: true, mute: false, pan: false, sends: false };
    const refused = (command: Edit) => {
      const made = apply(pair(), command);
      return made.ok ? "" : made.refusal.message;
    };
    expect(refused({ kind: "gangs.add", gang, channelIds: [id("track-1")] })).toContain("two channels or more");
    expect(
      refused({ kind: "gangs.add", gang: { ...gang, level: false }, channelIds: [id("track-1"), id("track-2")] }),
    ).toContain("Say what is held together");
    expect(refused({ kind: "gangs.add", gang, channelIds: [id("track-1"), id("main")] })).toContain("held by nothing");
    const held = edit(pair(), { kind: "gangs.add", gang, channelIds: [id("track-1"), id("track-2")] });
    const more = edit(held, { kind: "gangs.join", channelIds: [id("track-3")], gangId: "g" as never });
    const out = edit(more, {
      kind: "gangs.join",
      channelIds: [id("track-1"), id("track-2"), id("track-3")],
      gangId: null,
    });
    expect([Object.keys(more.gangs), Object.keys(out.gangs)]).toEqual([["g"], []]);
    expect(
      edit(held, { kind: "entries.set", table: "gangs", ids: ["g" as never], set: { name: "Bass", mute: true } }).gangs[
        "g" as never
      ],
    ).toMatchObject({
      name: "Bass",
      mute: true,
    });
  });
});

describe("control faders", () => {
  const control = (controlId: string, name: string, channels: readonly string[]): Edit => ({
    kind: "controls.add",
    control: { id: controlId as never, name },
    channelIds: channels.map(id),
  });
  it("are laid over channels, ride on one another without a circle, and go without taking anything along", () => {
    fresh();
    let doc = edit(edit(pair(), control("c1", "Low", ["track-1", "track-2"])), control("c2", "All", []));
    doc = edit(doc, { kind: "entries.set", table: "controls", ids: ["c1" as never], set: { parentId: "c2" as never } });
    doc = edit(doc, { kind: "controls.ride", channelIds: [id("track-3")], controlId: "c2" as never, on: true });
    expect([trackOf(doc, id("track-1"))?.controlIds, trackOf(doc, id("track-3"))?.controlIds]).toEqual([
      ["c1"],
      ["c2"],
    ]);
    const circle = apply(doc, {
      kind: "entries.set",
      table: "controls",
      ids: ["c2" as never],
      set: { parentId: "c1" as never },
    });
    expect(circle.ok ? "" : circle.refusal.message).toContain("lies in itself");
    const gone = edit(doc, { kind: "entries.remove", table: "controls", ids: ["c2" as never] });
    expect([trackOf(gone, id("track-3"))?.controlIds, gone.controls["c1" as never]?.parentId]).toEqual([[], null]);
    expect(
      trackOf(
        edit(doc, { kind: "controls.ride", channelIds: [id("track-1")], controlId: "c1" as never, on: false }),
        id("track-1"),
      )?.controlIds,
    ).toEqual([]);
    const nameless = apply(pair(), control("c", " ", []));
    expect(nameless.ok ? "" : nameless.refusal.message).toContain("needs a name");
  });
});

describe("recording several ways", () => {
  const narrator = () => aTemplate().folder("Speech").track("Narrator", { input: "1", folder: "Speech" }).build();
  const chains = keptChains(demoStudio).filter(({ name }) => ["Close speech", "Telephone"].includes(name));
  it("lays a further track for each chain on the same line, recorded after it, at once, and tells what each passes", () => {
    fresh();
    const planned = recordSeveralWays(narrator(), demoStudio, {
      trackId: id("track-1"),
      chainIds: chains.map((chain) => chain.id),
      ids,
    });
    const doc = done(narrator(), planned);
    expect(says(planned)).toBe("Record Narrator 3 ways at once");
    const tracks = ["Narrator", "Narrator Close speech", "Narrator Telephone"].map((name) => named(doc, name));
    expect(
      tracks.map((track) =>
        track.kind === "track" ? [track.input, track.sharing, track.recordPoint, track.folderId] : [],
      ),
    ).toEqual([
      [{ kind: "line", lineId: "line-1" }, "at-once", "before", "folder-1"],
      [{ kind: "line", lineId: "line-1" }, "at-once", "after", "folder-1"],
      [{ kind: "line", lineId: "line-1" }, "at-once", "after", "folder-1"],
    ]);
    const way = (name: string) =>
      wayOf(doc, wheelhouseCart, named(doc, name)).map(({ title, detail }) => `${title}: ${detail}`);
    expect(way("Narrator Telephone")).toEqual([
      expect.stringContaining("Input 1"),
      "Narrator Telephone: records here after its chain",
      "High-pass: 400 Hz, 24 dB/oct",
      "Low-pass: 3.2 kHz, 24 dB/oct",
      "Saturation: drive 9 dB",
      "Nowhere: it is recorded, and not heard",
    ]);
    expect(way("Narrator").filter((step) => step.startsWith("High-pass"))).toEqual([]);
    expect(says(recordSeveralWays(narrator(), demoStudio, { trackId: id("track-1"), chainIds: [], ids }))).toContain(
      "Choose one or more kept chains",
    );
    expect(says(recordSeveralWays(doc, demoStudio, { trackId: id("main"), chainIds: [], ids }))).toContain(
      "takes a line",
    );
  });
});

describe("ducking", () => {
  const play = () =>
    aTemplate()
      .track("Actor 1", { input: "1" })
      .track("Actor 2", { input: "2" })
      .track("Actor 3", { input: "3" })
      .track("Music", { input: "4" })
      .track("Effects", { input: "5" })
      .build();
  const actors = ["track-1", "track-2", "track-3"].map(id);
  const beds = ["track-4", "track-5"].map(id);
  it("is one act: a compressor on each that listens to all of them and takes off the depth, and no more", () => {
    fresh();
    const planned = duck(play(), { channelIds: beds, underIds: actors, depthText: "9", ids });
    const doc = done(play(), planned);
    expect([says(planned), entriesOf(doc.sideChains).length]).toEqual(["Duck 2 channels under 3 channels by 9 dB", 6]);
    const ducker = duckerOf(doc, id("track-4")) ?? expect.unreachable();
    expect([ducker.name, reductionDb(ducker, -24), reductionDb(ducker, 0)]).toEqual(["Ducking", 9, 9]);
    const steered = wayOf(doc, wheelhouseCart, named(doc, "Music")).find(({ title }) => title === "Ducking");
    expect(steered?.detail).toContain("steered by Actor 1, Actor 2, Actor 3");
    expect(
      wayOf(doc, wheelhouseCart, named(doc, "Actor 1"))
        .filter(({ title }) => title.startsWith("Steers"))
        .map(({ title }) => title),
    ).toEqual(["Steers Music", "Steers Effects"]);
    // An actor who goes takes their side-chains along, and only theirs.
    expect(
      entriesOf(edit(doc, { kind: "entries.remove", table: "channels", ids: [id("track-2")] }).sideChains),
    ).toHaveLength(4);
  });

  it("a second time sets what is there anew and adds who is new", () => {
    fresh();
    const first = done(
      play(),
      duck(play(), { channelIds: beds, underIds: actors.slice(0, 2), depthText: "9 dB", ids }),
    );
    const doc = done(first, duck(first, { channelIds: beds, underIds: actors, depthText: "−12", ids }));
    expect([
      processorsOf(doc, id("track-4")).map(processorName),
      entriesOf(doc.sideChains).length,
      duckerOf(doc, id("track-4"))?.rangeDb,
    ]).toEqual([["Ducking"], 6, 12]);
  });

  it("says what it can't do", () => {
    fresh();
    const of = (depthText: string, channelIds = beds, underIds = actors) =>
      says(duck(play(), { channelIds, underIds, depthText, ids }));
    expect([of("loud"), of("9", []), of("9", beds, []), of("9", actors, actors)]).toEqual([
      "“loud” is no depth from 0.5 to 40 dB.",
      "Select what should be ducked.",
      "Choose under what it should be ducked.",
      "Select what should be ducked.",
    ]);
  });
});

describe("further ways", () => {
  it("a bus beside what goes on as it is", () => {
    fresh();
    const planned = parallelBus(pair(), { channelIds: [id("track-1"), id("track-2")], name: "Crushed", ids });
    const doc = done(pair(), planned);
    expect([
      says(planned),
      routes(doc)["Bass DI"],
      routes(doc).Crushed,
      entriesOf(doc.sends).map(({ levelDb, tap }) => `${levelDb} ${tap}`),
    ]).toEqual(["Lay the bus Crushed beside 2 channels", "Main", "Main", ["0 after", "0 after"]]);
    expect(says(parallelBus(pair(), { channelIds: [], name: "x", ids }))).toContain("Select");
    expect(says(parallelBus(pair(), { channelIds: [id("track-1")], name: " ", ids }))).toContain("needs a name");
  });

  it("two bands of one source, each a bus with its half of the crossover", () => {
    fresh();
    const doc = done(
      pair(),
      splitInBands(pair(), { channelId: id("track-1"), lowText: "300", highText: "0.3 kHz", ids }),
    );
    expect(routes(doc)).toMatchObject({ "Bass DI": "nowhere", "Bass DI low": "Main", "Bass DI high": "Main" });
    expect(processorsOf(doc, named(doc, "Bass DI high").id)).toMatchObject([
      { kind: "filter", pass: "high-pass", frequencyHz: 300, slopeDb: 24, crossover: true },
    ]);
    expect(says(splitInBands(pair(), { channelId: id("track-1"), lowText: "deep", highText: "300", ids }))).toContain(
      "“deep” is no frequency",
    );
  });

  it("a throw reaches its return only", () => {
    fresh();
    const ready = edit(pair(), {
      kind: "channels.add",
      channels: [{ kind: "return", id: id("echo"), name: "Echo" }],
      feedIds: [],
    });
    const planned = throwTo(ready, { channelIds: [id("track-3")], returnId: id("echo"), ids });
    const doc = done(ready, planned);
    expect([says(planned), routes(doc).Voice]).toEqual(["Throw Voice into Echo", "nowhere"]);
    expect(wayOf(doc, wheelhouseCart, named(doc, "Voice")).at(-1)).toMatchObject({
      title: "Nowhere",
      detail: "thrown: heard only in what it is sent to",
    });
    expect([
      isThrow(doc, trackOf(doc, id("track-3")) ?? expect.unreachable()),
      isThrow(doc, trackOf(doc, id("track-1")) ?? expect.unreachable()),
    ]).toEqual([true, false]);
    for (const returnId of [id("gone"), id("track-1")])
      expect(says(throwTo(ready, { channelIds: [id("track-3")], returnId, ids }))).toBe(
        "The return that it should ring in is no longer there.",
      );
  });

  it("a throw reaches the one of two returns of the same name that was chosen", () => {
    fresh();
    const twice = (["echo", "echo-2"] as const).map((one) => ({ kind: "return", id: id(one), name: "Echo" }) as const);
    const ready = edit(pair(), { kind: "channels.add", channels: twice, feedIds: [] });
    const doc = done(ready, throwTo(ready, { channelIds: [id("track-3")], returnId: id("echo-2"), ids }));
    expect(entriesOf(doc.sends)).toMatchObject([{ fromId: id("track-3"), toId: id("echo-2") }]);
  });

  it("a recorded track goes out to an amplifier at a set level and is recorded again, without a loop", () => {
    fresh();
    const planned = reAmp(pair(), wheelhouseCart, {
      trackId: id("track-1"),
      outputText: "Outputs 9–10",
      levelText: "−12",
      inputText: "5",
      ids,
    });
    const doc = done(pair(), planned);
    expect([says(planned), routes(doc)]).toMatchObject([
      "Play Bass DI through an amplifier at −12 dB and record it again",
      { "Bass DI to amplifier": "hardware", "Bass DI amplified": "Main", "Bass DI": "Main" },
    ]);
    const output = named(doc, "Bass DI to amplifier").output;
    expect(output.kind === "hardware" && playedDbu(wheelhouseCart, output.portIds, -12, -18)).toBe(-10);
    const again = named(doc, "Bass DI amplified");
    expect(again.kind === "track" && again.folderId).toBe("folder-1");
    const back = apply(doc, {
      kind: "entries.set",
      table: "channels",
      ids: [again.id],
      set: { output: { kind: "channel", channelId: named(doc, "Bass DI to amplifier").id } },
    });
    // That would be no loop in the computer, but it would be one through the room: it stays the engineer's to choose.
    expect(back.ok).toBe(true);
    const single = reAmp(pair(), wheelhouseCart, {
      trackId: id("track-1"),
      outputText: "Output 9",
      levelText: "−12",
      inputText: "",
      ids,
    });
    expect(entriesOf(done(pair(), single).channels).find(({ kind }) => kind === "bus")).toMatchObject({
      layout: "mono",
      output: { kind: "hardware", portIds: ["brindle:out:9"] },
    });
    const of = (over: object) =>
      says(
        reAmp(pair(), wheelhouseCart, {
          trackId: id("track-1"),
          outputText: "Outputs 9–10",
          levelText: "",
          inputText: "",
          ids,
          ...over,
        }),
      );
    expect(
      [of({ outputText: "x" }), of({ levelText: "x" }), of({ inputText: "99" }), of({ trackId: id("main") })].map(
        (text) => text.slice(0, 22),
      ),
    ).toEqual(["“x” is no output of Wh", "“x” is no level from −", "Wheelhouse cart has no", "Select the track that "]);
  });
});
