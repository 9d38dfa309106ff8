import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import type { ChannelId, FolderId, SendId } from "../model/ids";
import type { Template } from "../model/template";
import type { ChannelChange, Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { causeOf } from "./cause";
import type { CheckContext, Finding } from "./finding";
import { passesBus } from "./past-the-family";
import { ROUTING_CHECKS } from "./routing";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const context = (doc: Template): CheckContext => ({ doc, rig: wheelhouseCart, otherRigs: [] });
const look = (doc: Template): readonly Finding[] =>
  [...ROUTING_CHECKS, passesBus].flatMap((rule) => rule.check(context(doc)));
const told = (doc: Template) => look(doc).map(({ message }) => message);
const set = (channel: string, change: ChannelChange): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id(channel)],
  set: change,
});
const nowhere = { output: { kind: "nowhere" } } as const;

/** Two strings on a bus of theirs, one of them sent to a plate, a voice beside them. */
const woven = (...more: readonly Edit[]): Template =>
  done(
    aTemplate()
      .folder("Strings")
      .track("Fiddle", { input: "9", folder: "Strings" })
      .track("Cello", { input: ["5", "6"], folder: "Strings" })
      .track("Voice", { input: "3" })
      .build(),
    { kind: "folders.sum", sums: [{ folderId: "folder-1" as FolderId, busId: id("strings") }] },
    { kind: "channels.add", channels: [{ kind: "return", id: id("plate"), name: "Plate" }], feedIds: [] },
    { kind: "sends.add", sends: [{ id: "s" as SendId, fromId: id("track-1"), toId: id("plate") }] },
    ...more,
  );

/** Every way that is offered clears what it is offered for, and brings nothing new. */
const cleared = (doc: Template): void => {
  for (const { id: found, fixes } of look(doc))
    for (const { edits, label } of fixes) {
      const left = look(done(doc, ...edits)).map((finding) => finding.id);
      expect(left, label).not.toContain(found);
      expect(
        left.filter((one) => !look(doc).some((finding) => finding.id === one)),
        label,
      ).toEqual([]);
    }
};

describe("checks of the routing", () => {
  it("have nothing to say of what is in order", () => expect(told(woven())).toEqual([]));

  it.each([
    [
      "a bus that goes nowhere",
      [set("strings", nowhere)],
      "Strings goes nowhere, and 2 channels feed it: nothing of that is heard.",
    ],
    [
      "a main bus that goes nowhere",
      [set("main", nowhere)],
      "Main goes nowhere, and 3 channels feed it: nothing of that is heard.",
    ],
    [
      "an output that is not there",
      [set("track-3", { output: { kind: "hardware", portIds: ["gone:out:1"] as never } })],
      "Voice goes to an output that Wheelhouse cart does not have.",
    ],
    [
      "main outputs that are not there",
      [set("main", { output: { kind: "hardware", portIds: ["gone:out:1"] as never } })],
      "Main goes to an output that Wheelhouse cart does not have.",
    ],
    [
      "a return that nothing is sent to",
      [{ kind: "entries.remove", table: "sends", ids: ["s"] }],
      "Nothing is sent to the return Plate.",
    ],
    [
      "a bus that nothing is routed to",
      [{ kind: "channels.add", channels: [{ kind: "bus", id: id("b"), name: "Spare" }], feedIds: [] }],
      "Nothing is routed to the bus Spare.",
    ],
    ["a return that is parked", [set("plate", { parked: true })], "Plate is parked, and 1 send leads there."],
    ["a return that is muted", [set("plate", { muted: true })], "Plate is muted, and 1 send leads there."],
    [
      "a member that goes past its bus",
      [set("track-1", { output: { kind: "channel", channelId: id("main") } })],
      "Fiddle goes to Main past the bus Strings, which the others of the folder use.",
    ],
    [
      "a mono return under stereo",
      [
        { kind: "sends.add", sends: [{ id: "t" as SendId, fromId: id("track-2"), toId: id("plate") }] },
        set("plate", { layout: "mono" }),
      ],
      "Plate is mono, and Cello is stereo: left and right are added up there.",
    ],
    [
      "the last fader",
      [set("main", { faderDb: -2 as never })],
      "The fader of Main stands away from 0 dB. Set levels in the buses before it.",
    ],
    [
      "reverb that stays",
      [set("strings", { faderDb: -5 as never })],
      "Strings is not at 0 dB, and its members are sent to Plate, which goes past it: the balance of dry and sent changes with that fader.",
    ],
  ] as const)("%s is told, and cleared by what is offered", (_what, edits, message) => {
    const doc = woven(...(edits as readonly Edit[]));
    expect(told(doc)).toEqual([message]);
    cleared(doc);
  });

  it("know that what goes nowhere itself can be sent on", () => {
    const parallel: Edit = {
      kind: "sends.add",
      sends: [{ id: "p" as SendId, fromId: id("strings"), toId: id("plate") }],
    };
    expect(told(woven(set("strings", nowhere), parallel))).toEqual([]);
  });

  it("leave alone what is parked, sends that are off, a track that goes nowhere, and a return that goes through the bus", () => {
    expect(told(woven(set("track-3", nowhere)))).toEqual([]);
    expect(
      told(
        woven(
          { kind: "entries.set", table: "sends", ids: ["s" as SendId], set: { on: false } },
          set("plate", { muted: true }),
        ),
      ),
    ).toEqual([]);
    expect(
      told(
        woven(
          set("plate", { output: { kind: "channel", channelId: id("strings") } }),
          set("strings", { faderDb: -5 as never }),
        ),
      ),
    ).toEqual([]);
    expect(
      told(woven({ kind: "entries.remove", table: "sends", ids: ["s" as SendId] }, set("plate", { parked: true }))),
    ).toEqual([]);
  });

  it("come back when what they come from changes, after they were accepted", () => {
    const one = woven(set("plate", { muted: true }));
    const two = done(one, {
      kind: "sends.add",
      sends: [{ id: "t" as SendId, fromId: id("track-3"), toId: id("plate") }],
    });
    const cause = (doc: Template) => look(doc).map((finding) => causeOf(context(doc), finding));
    expect(cause(one)).toEqual(cause(done(one, set("track-3", { note: "warm" }))));
    expect(cause(two)).not.toEqual(cause(one));
  });
});
