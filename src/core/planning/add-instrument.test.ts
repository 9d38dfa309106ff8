import { describe, expect, it } from "vitest";
import { CHAIN_CHECKS } from "../checks/chains";
import { ROUTING_CHECKS } from "../checks/routing";
import { WOVEN_CHECKS } from "../checks/woven";
import { brokenInvariants } from "../commands/template-engine";
import { wheelhouseCart } from "../demo/rigs";
import { layoutFlow } from "../layout/flow/flow";
import { wayOf } from "../layout/signal-path";
import { emptyTables } from "../model/describe/table";
import { type ChannelId, sequentialIds } from "../model/ids";
import { RIG } from "../model/rig";
import { entriesOf } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import type { Template } from "../model/template";
import { aTemplate } from "../testing/a-template";
import { addInstrument, midiChoices, readOutputs } from "./add-instrument";
import type { Edit } from "./edits/edit";
import { apply, applyAll } from "./edits/template-editing";

const [port] = midiChoices(wheelhouseCart);
const asked = {
  name: "Drum machine",
  outputsText: "8",
  usedText: "1-3, 5",
  midiPortId: port?.id ?? null,
  midiChannelText: "10",
  ids: sequentialIds(),
};
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  const after = made.ok ? made.doc : expect.unreachable(made.refusal.message);
  expect(brokenInvariants(after)).toEqual([]);
  return after;
};
const made = (over: Partial<Parameters<typeof addInstrument>[2]> = {}): Template => {
  const base = aTemplate().track("Voice", { input: "3" }).build();
  const plan = addInstrument(base, wheelhouseCart, {
    ...asked,
    ids: (
      (make) => (kind: string) =>
        `m-${make(kind)}`
    )(sequentialIds()) as never,
    ...over,
  });
  return plan.ok ? done(base, ...plan.gesture.edits) : expect.unreachable(plan.message);
};
const says = (over: Partial<Parameters<typeof addInstrument>[2]>): string => {
  const plan = addInstrument(aTemplate().build(), wheelhouseCart, { ...asked, ...over });
  return plan.ok ? "" : plan.message;
};
const named = (doc: Template, name: string) =>
  entriesOf(doc.channels).find((channel) => channel.name === name) ?? expect.unreachable(name);
const refused = (doc: Template, edit: Edit): string => {
  const tried = apply(doc, edit);
  return tried.ok ? "" : tried.refusal.message;
};

describe("an instrument", () => {
  it("and several at once come into a folder that is there or is made, and go where they are told", () => {
    const doc = made({
      name: "Drum machine, Strings,  Pad",
      outputsText: "2",
      usedText: "",
      folderText: "Synths",
      outputText: "Outputs 3–4",
    });
    expect(
      entriesOf(doc.channels)
        .filter(({ kind }) => kind === "instrument")
        .map(({ name }) => name)
        .toSorted(),
    ).toEqual(["Drum machine", "Pad", "Strings"]);
    const folder = entriesOf(doc.folders).find(({ name }) => name === "Synths");
    for (const name of ["Drum machine 1", "Strings 2", "Pad 1"])
      expect(named(doc, name)).toMatchObject({ folderId: folder?.id, output: { kind: "hardware" } });
    expect(says({ outputText: "Basement" })).toContain("no bus and no output Basement");
    expect(says({ name: Array.from({ length: 17 }, (_, n) => `I${n}`).join() })).toContain("too many at once");
  });

  it("comes with a track for each output that is in use, in one act; the words tell what plays it", () => {
    const doc = made();
    expect(
      entriesOf(doc.channels).flatMap((channel) =>
        channel.kind === "track" && channel.input.kind === "instrument" ? [[channel.name, channel.input.output]] : [],
      ),
    ).toEqual([
      ["Drum machine 1", 1],
      ["Drum machine 2", 2],
      ["Drum machine 3", 3],
      ["Drum machine 5", 5],
    ]);
    expect(
      wayOf(doc, wheelhouseCart, named(doc, "Drum machine 5"))
        .map(({ title, detail }) => `${title}: ${detail}`)
        .slice(0, 3),
    ).toEqual([`${port?.label}: channel 10`, "Drum machine: output 5", "Drum machine 5: records output 5 here"]);
    expect(wayOf(doc, wheelhouseCart, named(doc, "Drum machine")).at(-1)).toMatchObject({
      title: "Nowhere",
      detail: "its tracks are heard",
    });
    expect(named(made({ usedText: "", outputsText: "1" }), "Drum machine instrument")).toMatchObject({
      kind: "instrument",
      outputs: 1,
    });
  });

  it("stands where the sound begins, and its tracks behind it", () => {
    const flow = layoutFlow(made(), wheelhouseCart, {
      width: 1000,
      height: 600,
      folded: new Set(),
      within: null,
      outputs: true,
      sends: true,
      parked: false,
    });
    const x = (label: string) => flow.nodes.find((node) => node.label === label)?.x ?? -1;
    expect([
      x("Drum machine"),
      x("Drum machine 1") > x("Drum machine"),
      flow.threads.filter(({ kind }) => kind === "input").length,
    ]).toEqual([x("Voice"), true, 4]);
  });

  it("that nobody plays is told, and played again by what is offered", () => {
    const look = (doc: Template, rig = wheelhouseCart) =>
      [...CHAIN_CHECKS, ...WOVEN_CHECKS, ...ROUTING_CHECKS].flatMap((rule) => rule.check({ doc, rig, otherRigs: [] }));
    const [finding] = look(made({ midiPortId: null }));
    expect(finding?.message).toBe("Nobody plays Drum machine: it is on no MIDI port.");
    expect(look(done(made({ midiPortId: null }), ...(finding?.fixes[0]?.edits ?? [])))).toEqual([]);
    const bare = {
      ...wheelhouseCart,
      ...(emptyTables({ ...RIG, tables: { midiPorts: RIG.tables.midiPorts } } as never) as object),
    };
    expect(look(made(), bare).map(({ message }) => message)).toContain(
      "Nobody plays Drum machine: the MIDI port it is on is not on Wheelhouse cart.",
    );
    expect(look(made())).toEqual([]);
  });

  it("goes, and its tracks record nothing then; an output that is in use can't be taken from it", () => {
    const doc = made();
    const id = named(doc, "Drum machine").id;
    const gone = done(doc, { kind: "entries.remove", table: "channels", ids: [id] });
    expect(named(gone, "Drum machine 1")).toMatchObject({ input: { kind: "none" } });
    expect(refused(doc, { kind: "entries.set", table: "channels", ids: [id], set: { outputs: 2 } })).toContain(
      "records an output that Drum machine does not have",
    );
    expect(
      refused(doc, { kind: "entries.set", table: "channels", ids: [named(doc, "Voice").id], set: { outputs: 2 } }),
    ).toContain("Only instrument channels have that");
    expect(
      refused(doc, {
        kind: "entries.set",
        table: "channels",
        ids: [named(doc, "Voice").id],
        set: { output: { kind: "channel", channelId: id } },
      }),
    ).toContain("is an instrument");
  });

  it("takes note processors, and nothing else does", () => {
    const doc = made();
    const notes = (channelId: ChannelId): Edit => ({
      kind: "entries.add",
      entries: {
        processors: [newProcessor("notes", { id: "n" as never, channelId, transposeSemitones: -12 }) as never],
      },
    });
    expect(entriesOf(done(doc, notes(named(doc, "Drum machine").id)).processors)).toHaveLength(1);
    expect(refused(doc, notes(named(doc, "Voice").id))).toContain("no instrument");
  });

  it.each([
    [{ name: " " }, "needs a name"],
    [{ outputsText: "0" }, "no number of outputs"],
    [{ outputsText: "many" }, "no number of outputs"],
    [{ usedText: "9" }, "names no outputs of 1 to 8"],
    [{ usedText: "a-b" }, "names no outputs"],
    [{ midiChannelText: "17" }, "no MIDI channel"],
  ])("%j is told", (over, words) => expect(says(over)).toContain(words));

  it.each([
    ["", [1, 2, 3]],
    ["2", [2]],
    ["3, 1-2", [1, 2, 3]],
    ["1–2", [1, 2]],
    ["0", null],
    ["2-1", null],
    ["1,", null],
  ])("outputs “%s” of three are %j", (text, outputs) => expect(readOutputs(text, 3)).toEqual(outputs));
});

describe("a reference", () => {
  it("goes out past the main bus, is named by its file, and is neither fed nor recorded", () => {
    const doc = done(made(), {
      kind: "channels.add",
      channels: [
        {
          kind: "reference",
          id: "ref" as ChannelId,
          name: "Last year",
          output: { kind: "hardware", portIds: ["brindle:out:1" as never] },
        },
      ],
      feedIds: [],
    });
    const set = done(doc, {
      kind: "entries.set",
      table: "channels",
      ids: ["ref" as ChannelId],
      set: { file: "last-year.wav" },
    });
    expect(wayOf(set, wheelhouseCart, named(set, "Last year"))[0]).toMatchObject({ detail: "last-year.wav" });
    expect(
      refused(doc, {
        kind: "entries.set",
        table: "channels",
        ids: [named(doc, "Voice").id],
        set: { output: { kind: "channel", channelId: "ref" as ChannelId } },
      }),
    ).toContain("is a reference");
    expect(
      entriesOf(done(doc, { kind: "entries.remove", table: "channels", ids: ["ref" as ChannelId] }).channels).some(
        ({ kind }) => kind === "reference",
      ),
    ).toBe(false);
  });
});

describe("how a template is mixed", () => {
  it("gives new sends their place, and is named", () => {
    const doc = made();
    const mixed = apply(doc, { kind: "settings.set", set: { mix: { sendTap: "before" } } });
    expect(mixed.ok && mixed.name).toBe("Set where new sends leave");
    const sent = done(
      doc,
      { kind: "settings.set", set: { mix: { sendTap: "before", panLawDb: -4.5 } } },
      { kind: "channels.add", channels: [{ kind: "return", id: "plate" as ChannelId, name: "Plate" }], feedIds: [] },
      { kind: "sends.add", sends: [{ id: "s" as never, fromId: named(doc, "Voice").id, toId: "plate" as ChannelId }] },
    );
    expect(sent.sends["s" as never]).toMatchObject({ tap: "before" });
    expect(sent.mix).toEqual({ panLawDb: -4.5, mutesBefore: false, sendTap: "before" });
  });
});
