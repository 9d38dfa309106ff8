import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../commands/template-engine";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { EMPTY_HISTORY } from "../history/history";
import { chainInWords } from "../layout/chain-words";
import { type ChainProcessorId, type ChannelId, type IdSource, sequentialIds } from "../model/ids";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { bandsOf, keptProcessorsOf, processorsOf, stepsOf } from "../queries/chains";
import { aTemplate } from "../testing/a-template";
import { perform, undo } from "../testing/undoing";
import { dB } from "../units/decibels";
import {
  branchOff,
  copyChain,
  keepChain,
  keptChains,
  putChain,
  putEffect,
  putInsert,
  putProcessor,
  replacedInWords,
} from "./chain-plans";
import { duplicateTracks } from "./duplicate";
import type { Edit } from "./edits/edit";
import { studioEditing } from "./edits/studio-editing";
import { apply } from "./edits/template-editing";
import type { Planned } from "./gesture";

const id = (name: string) => name as ChannelId;
const processor = (name: string) => name as ChainProcessorId;
const band = () =>
  aTemplate().track("Lead", { input: "1" }).track("Second", { input: "2" }).track("Fiddle", { input: "3" }).build();
let ids: IdSource = sequentialIds();
/** Does what was planned, takes it back to see that nothing is left of it, and answers the document with its name. */
const done = (doc: Template, planned: Planned): Template => {
  if (!planned.ok) throw new Error(planned.message);
  const made = perform(doc, EMPTY_HISTORY, planned.gesture);
  if (!made.ok) throw new Error(made.refusal.message);
  expect(brokenInvariants(made.doc)).toEqual([]);
  const back = undo(made.doc, made.history);
  expect(back.ok && back.doc).toEqual(doc);
  return made.doc;
};
const nameOf = (planned: Planned) => (planned.ok ? planned.gesture.name : planned.message);
const edit = (doc: Template, command: Edit): Template => done(doc, { ok: true, gesture: { edits: [command] } });
const refused = (doc: Template, command: Edit): string => {
  const made = apply(doc, command);
  return made.ok ? "" : made.refusal.message;
};
const names = (doc: Template, channelId: string) => processorsOf(doc, id(channelId)).map(processorName);
const put = (doc: Template, kind: Parameters<typeof putProcessor>[1]["kind"], ...channels: string[]) =>
  done(doc, putProcessor(doc, { kind, channelIds: channels.map(id), ids }));

describe("processors", () => {
  it("are put on one channel or many, behind what is there or before it, each in its own chain", () => {
    ids = sequentialIds();
    const doc = put(put(band(), "filter", "track-1", "track-2"), "compressor", "track-1");
    expect([names(doc, "track-1"), names(doc, "track-2")]).toEqual([["High-pass", "Compressor"], ["High-pass"]]);
    const before = putProcessor(doc, {
      kind: "gate",
      channelIds: [id("track-1")],
      before: processor("processor-3"),
      ids,
    });
    expect([nameOf(before), names(done(doc, before), "track-1")]).toEqual([
      "Put a gate on Lead",
      ["High-pass", "Gate", "Compressor"],
    ]);
    expect(nameOf(putProcessor(doc, { kind: "equaliser", channelIds: [id("track-1"), id("track-2")], ids }))).toBe(
      "Put an equaliser on 2 channels",
    );
    expect(putProcessor(doc, { kind: "gate", channelIds: [], ids })).toMatchObject({ ok: false });
  });

  it("are reordered, moved to another channel, bypassed, set in real units, and taken off with their bands", () => {
    ids = sequentialIds();
    let doc = put(put(put(band(), "filter", "track-1"), "equaliser", "track-1"), "compressor", "track-1");
    const [filter, equaliser, compressor] = processorsOf(doc, id("track-1")).map((one) => one.id) as [
      ChainProcessorId,
      ChainProcessorId,
      ChainProcessorId,
    ];
    doc = edit(doc, {
      kind: "entries.move",
      table: "processors",
      ids: [compressor],
      parent: id("track-1"),
      before: filter,
    });
    expect(names(doc, "track-1")).toEqual(["Compressor", "High-pass", "Equaliser"]);
    doc = edit(doc, {
      kind: "entries.move",
      table: "processors",
      ids: [equaliser],
      parent: id("track-2"),
      before: null,
    });
    expect([names(doc, "track-1"), names(doc, "track-2"), bandsOf(doc, equaliser)]).toMatchObject([
      ["Compressor", "High-pass"],
      ["Equaliser"],
      [{ frequencyHz: 1000, gainDb: 0 }],
    ]);
    doc = edit(doc, {
      kind: "entries.set",
      table: "processors",
      ids: [compressor],
      set: { thresholdDb: dB(-30), bypassed: true, use: "not-while-recording" },
    });
    expect(chainInWords(doc, id("track-1"))[0]).toEqual({
      title: "Compressor",
      detail: "2.5 : 1, −30 dB, bypassed, not while recording",
    });
    expect(
      refused(doc, { kind: "entries.set", table: "processors", ids: [filter], set: { thresholdDb: dB(-30) } }),
    ).toContain("has no thresholdDb");
    expect(refused(doc, { kind: "entries.set", table: "processors", ids: [compressor], set: { ratio: 0 } })).toContain(
      "ratio",
    );
    expect(entriesOf(edit(doc, { kind: "entries.remove", table: "processors", ids: [equaliser] }).bands)).toEqual([]);
    expect(
      entriesOf(edit(doc, { kind: "entries.remove", table: "channels", ids: [id("track-1")] }).processors),
    ).toHaveLength(1);
  });

  it("of a duplicate are those of its original, with bands of their own", () => {
    ids = sequentialIds();
    const doc = put(put(band(), "equaliser", "track-1"), "compressor", "track-1");
    const { planned, trackIds } = duplicateTracks(doc, wheelhouseCart, {
      trackIds: [id("track-1")],
      input: "none",
      ids: ((kind: string) => `copy-${ids(kind)}`) as IdSource,
    });
    const after = done(doc, planned);
    expect(names(after, trackIds[0] ?? "")).toEqual(["Equaliser", "Compressor"]);
    expect(entriesOf(after.bands)).toHaveLength(2);
  });
});

describe("an effect", () => {
  it("for tracks comes with its return and the sends in one act; a second one has another name", () => {
    ids = sequentialIds();
    const planned = putEffect(band(), { kind: "reverb", channelIds: [id("track-1"), id("track-2")], ids });
    const doc = done(band(), planned);
    expect(nameOf(planned)).toBe("Put a reverb on a return for 2 channels");
    expect(entriesOf(doc.sends).map(({ fromId, toId, levelDb }) => [fromId, toId, levelDb])).toEqual([
      ["track-1", "return-1", -12],
      ["track-2", "return-1", -12],
    ]);
    expect([doc.channels[id("return-1")], names(doc, "return-1")]).toMatchObject([
      { kind: "return", name: "Reverb" },
      ["Reverb"],
    ]);
    const second = done(doc, putEffect(doc, { kind: "reverb", channelIds: [id("track-3")], ids }));
    expect(second.channels[id("return-2")]?.name).toBe("Reverb 2");
    expect(putEffect(band(), { kind: "reverb", channelIds: [id("main")], ids })).toMatchObject({ ok: false });
  });

  it("outside is reached through a send and return of the rig", () => {
    ids = sequentialIds();
    const planned = putInsert(band(), wheelhouseCart, {
      loopId: entriesOf(wheelhouseCart.loops)[0]?.id ?? "",
      channelIds: [id("track-1")],
      ids,
    });
    const doc = done(band(), planned);
    expect(processorsOf(doc, id("track-1"))).toMatchObject([
      { kind: "insert", name: "Stair", sendPortIds: [expect.any(String), expect.any(String)] },
    ]);
    expect(chainInWords(doc, id("track-1"))[0]?.detail).toBe("out and back through the interface");
    expect(putInsert(band(), wheelhouseCart, { loopId: "nothing", channelIds: [id("track-1")], ids })).toMatchObject({
      ok: false,
    });
  });
});

describe("a split", () => {
  it("lets a processor lie beside the line as it comes; without the split it stands in the row again", () => {
    ids = sequentialIds();
    const doc = put(put(band(), "amplifier", "track-1"), "compressor", "track-1");
    const [amplifier] = processorsOf(doc, id("track-1"));
    const planned = branchOff(doc, { processorIds: [amplifier?.id as ChainProcessorId], ids });
    const after = done(doc, planned);
    expect(nameOf(planned)).toBe("Put the amplifier beside the line as it comes");
    expect(
      stepsOf(processorsOf(after, id("track-1"))).map(({ processor: one, first, second }) => [
        one.kind,
        first.length,
        second.length,
      ]),
    ).toEqual([
      ["split", 0, 1],
      ["compressor", 0, 0],
    ]);
    expect(chainInWords(after, id("track-1")).map(({ title, detail }) => `${title}: ${detail}`)).toEqual([
      "Split: 0 dB beside 0 dB",
      "First branch: as it comes",
      "Amplifier: second branch, drive 0 dB",
      "Compressor: 2.5 : 1, −29 dB",
    ]);
    const split = processorsOf(after, id("track-1")).find(({ kind }) => kind === "split");
    const row = edit(after, { kind: "entries.remove", table: "processors", ids: [split?.id as ChainProcessorId] });
    expect(names(row, "track-1")).toEqual(["Amplifier", "Compressor"]);
    expect(branchOff(after, { processorIds: [split?.id as ChainProcessorId], ids })).toMatchObject({ ok: false });
    const moved = edit(after, {
      kind: "entries.move",
      table: "processors",
      ids: [split?.id as ChainProcessorId],
      parent: id("track-2"),
      before: null,
    });
    expect(names(moved, "track-2").sort()).toEqual(["Amplifier", "Split"]);
  });

  it("holds nothing of another chain, and no split", () => {
    ids = sequentialIds();
    const doc = put(put(band(), "split", "track-1"), "gain", "track-2");
    const [split, gain] = [processorsOf(doc, id("track-1"))[0]?.id, processorsOf(doc, id("track-2"))[0]?.id] as [
      ChainProcessorId,
      ChainProcessorId,
    ];
    expect(refused(doc, { kind: "entries.set", table: "processors", ids: [gain], set: { splitId: split } })).toContain(
      "split of another chain",
    );
    const two = put(doc, "split", "track-1");
    const other = processorsOf(two, id("track-1"))[1]?.id as ChainProcessorId;
    expect(refused(two, { kind: "entries.set", table: "processors", ids: [other], set: { splitId: split } })).toContain(
      "a split lies in a split",
    );
  });
});

describe("kept chains", () => {
  const lead = keptChains(demoStudio)[0];
  it("are put on many in place of what is there, which is said before", () => {
    ids = sequentialIds();
    const doc = put(band(), "gate", "track-2");
    const planned = putChain(doc, demoStudio, {
      chainId: lead?.id as never,
      channelIds: [id("track-1"), id("track-2")],
      ids,
    });
    const after = done(doc, planned);
    expect([nameOf(planned), replacedInWords(doc, [id("track-1"), id("track-2")])]).toEqual([
      "Put the chain Ilse, lead voice on 2 channels",
      "The chain of Second is replaced.",
    ]);
    expect([names(after, "track-1"), names(after, "track-2")]).toEqual([
      ["High-pass", "Compressor", "Equaliser", "De-esser"],
      ["High-pass", "Compressor", "Equaliser", "De-esser"],
    ]);
    const equaliser = processorsOf(after, id("track-2"))[2]?.id as ChainProcessorId;
    expect(bandsOf(after, equaliser).map(({ frequencyHz }) => frequencyHz)).toEqual([240, 3000, 9500]);
    expect(putChain(doc, demoStudio, { chainId: "gone" as never, channelIds: [id("track-1")], ids })).toMatchObject({
      ok: false,
    });
  });

  it("are kept from a channel, splits and bands too, and one of the same name is replaced", () => {
    ids = ((kind: string) => `own-${serial(kind)}`) as IdSource;
    const serial = sequentialIds();
    let doc = put(put(band(), "equaliser", "track-1"), "amplifier", "track-1");
    doc = done(
      doc,
      branchOff(doc, { processorIds: [processorsOf(doc, id("track-1"))[1]?.id as ChainProcessorId], ids }),
    );
    const keep = (studio: Studio, name: string): Studio => {
      const planned = keepChain(doc, studio, { channelId: id("track-1"), name, ids });
      if (!planned.ok) throw new Error(planned.message);
      const made = studioEditing.applyAll(studio, planned.edits);
      if (!made.ok) throw new Error(made.refusal.message);
      return made.doc;
    };
    const studio = keep(keep(demoStudio, "Clean beside amplified"), "clean BESIDE amplified ");
    expect(keptChains(studio)).toHaveLength(keptChains(demoStudio).length + 1);
    const again = done(
      doc,
      putChain(doc, studio, { chainId: keptChains(studio).at(-1)?.id as never, channelIds: [id("track-2")], ids }),
    );
    expect(names(again, "track-2")).toEqual(names(doc, "track-1"));
    expect(stepsOf(processorsOf(again, id("track-2"))).map(({ second }) => second.length)).toEqual([0, 1]);
    expect(keepChain(band(), studio, { channelId: id("track-1"), name: "x", ids })).toMatchObject({
      ok: false,
      message: "Lead has no chain to keep.",
    });
    expect(keepChain(doc, studio, { channelId: id("track-1"), name: " ", ids })).toMatchObject({ ok: false });
    expect(keptProcessorsOf(studio, "nothing" as never)).toEqual([]);
  });

  it("are copied from one channel to others with what steers them", () => {
    ids = sequentialIds();
    let doc = put(band(), "compressor", "track-1");
    const compressor = processorsOf(doc, id("track-1"))[0]?.id as ChainProcessorId;
    doc = edit(doc, {
      kind: "sideChains.add",
      sideChains: [{ id: "s" as never, fromId: id("track-3"), processorId: compressor, lowHz: 200, highHz: 4000 }],
    });
    const behind = copyChain(doc, { fromId: id("track-1"), toIds: [id("track-2")], behind: true, ids });
    expect(names(done(doc, behind), "track-2")).toEqual([...names(doc, "track-2"), ...names(doc, "track-1")]);
    const planned = copyChain(doc, {
      fromId: id("track-1"),
      toIds: [id("track-1"), id("track-2"), id("track-3")],
      ids,
    });
    const after = done(doc, planned);
    expect([nameOf(planned), names(after, "track-2"), names(after, "track-3")]).toEqual([
      "Copy the chain of Lead to 2 channels",
      ["Compressor"],
      ["Compressor"],
    ]);
    // Fiddle does not steer its own.
    expect(entriesOf(after.sideChains).map(({ fromId }) => fromId)).toEqual(["track-3", "track-3"]);
    expect(copyChain(band(), { fromId: id("track-1"), toIds: [id("track-2")], ids })).toMatchObject({ ok: false });
  });
});

describe("side-chains", () => {
  const ready = () => {
    ids = sequentialIds();
    return put(band(), "compressor", "track-1");
  };
  const steer = (fromId: string, processorId = "processor-1"): Edit => ({
    kind: "sideChains.add",
    sideChains: [
      {
        id: `s-${fromId}` as never,
        fromId: id(fromId),
        processorId: processor(processorId),
        lowHz: null,
        highHz: null,
      },
    ],
  });

  it("let a channel steer a processor of another, which then listens to it, and are told in words", () => {
    const doc = edit(ready(), steer("track-2"));
    expect(processorsOf(doc, id("track-1"))[0]).toMatchObject({ listens: "others" });
    expect(chainInWords(doc, id("track-1"))[0]?.detail).toBe("2.5 : 1, −29 dB, steered by Second");
    const narrow = edit(doc, {
      kind: "entries.set",
      table: "sideChains",
      ids: ["s-track-2" as never],
      set: { lowHz: 200, highHz: 4000 },
    });
    expect(chainInWords(narrow, id("track-1"))[0]?.detail).toContain("steered by Second, 200 Hz–4 kHz");
    expect(
      refused(doc, {
        kind: "entries.set",
        table: "sideChains",
        ids: ["s-track-2" as never],
        set: { lowHz: 5000, highHz: 200 },
      }),
    ).toContain("ends before it begins");
  });

  it("go with what steers and with what is steered", () => {
    const doc = edit(ready(), steer("track-2"));
    expect(
      entriesOf(edit(doc, { kind: "entries.remove", table: "channels", ids: [id("track-2")] }).sideChains),
    ).toEqual([]);
    expect(
      entriesOf(edit(doc, { kind: "entries.remove", table: "processors", ids: [processor("processor-1")] }).sideChains),
    ).toEqual([]);
    expect(
      entriesOf(edit(doc, { kind: "entries.remove", table: "sideChains", ids: ["s-track-2" as never] }).sideChains),
    ).toEqual([]);
  });

  it("are refused from the main bus, from the channel itself, into what can't be steered, and in a circle, with the circle told", () => {
    const doc = put(put(ready(), "compressor", "track-2"), "reverb", "track-3");
    expect(refused(doc, steer("main"))).toContain("main bus is last");
    expect(refused(doc, steer("track-1"))).toContain("hears itself");
    expect(refused(doc, steer("track-1", "processor-3"))).toContain("can't be steered");
    const one = edit(doc, steer("track-2"));
    expect(refused(one, steer("track-1", "processor-2"))).toBe(
      "That can't be: the sound would go round for ever: Lead → (by a side-chain) Second → (by a side-chain) Lead.",
    );
  });
});
