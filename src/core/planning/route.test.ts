import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { type ChannelId, type FolderId, sequentialIds } from "../model/ids";
import { entriesOf } from "../model/table";
import type { Template } from "../model/template";
import { cellText } from "../queries/cells";
import { aTemplate } from "../testing/a-template";
import { panText } from "../units/pan";
import { clearCells, fillDown } from "./block";
import { duplicateTracks } from "./duplicate";
import { apply, applyAll } from "./edits/template-editing";
import type { Planned } from "./gesture";
import { readPan, routeByName, routeChoices, sendByName, sendChoices, setMixed, takesAlong } from "./route";
import { writeCell } from "./write-cell";

const id = (name: string) => name as ChannelId;
const ids =
  () =>
  <T extends string>(kind: string) =>
    `${kind}-new` as T;
const base = () => {
  const built = aTemplate()
    .folder("Strings")
    .track("Fiddle", { input: "9", folder: "Strings" })
    .track("Cello", { input: "10", folder: "Strings" })
    .track("Voice", { input: "3" })
    .build();
  const made = apply(built, {
    kind: "folders.sum",
    sums: [{ folderId: "folder-1" as FolderId, busId: id("strings") }],
  });
  return made.ok ? made.doc : expect.unreachable();
};
const said = (plan: Planned): string => (plan.ok ? "" : plan.message);
const done = (doc: Template, plan: Planned): Template => {
  const made = plan.ok ? applyAll(doc, plan.gesture.edits) : expect.unreachable(said(plan));
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const outputOf = (doc: Template, channel: string): string => {
  const output = doc.channels[id(channel)]?.output;
  return output?.kind === "channel"
    ? output.channelId
    : output?.kind === "hardware"
      ? output.portIds.join(" ")
      : "nowhere";
};

describe("routing by typing a name", () => {
  const route = (doc: Template, name: string, ...channels: readonly string[]) =>
    routeByName(doc, wheelhouseCart, { channelIds: channels.map(id), name, ids: ids() });

  it.each([
    ["strings", "strings"],
    ["MAIN", "main"],
    ["outputs 3–4", "brindle:out:3 brindle:out:4"],
    ["Outputs 3-4", "brindle:out:3 brindle:out:4"],
    ["nowhere", "nowhere"],
  ])("%s leads to %s", (name, to) =>
    expect(outputOf(done(base(), route(base(), name, "track-3")), "track-3")).toBe(to),
  );

  it("makes a bus of a new name, which goes where they all went", () => {
    const plan = route(base(), " Bowed ", "track-1", "track-2");
    const doc = done(base(), plan);
    expect([
      plan.ok && plan.gesture.name,
      outputOf(doc, "track-1"),
      outputOf(doc, "bus-new"),
      doc.channels[id("bus-new")]?.name,
    ]).toEqual(["Route 2 channels to the new bus Bowed", "bus-new", "strings", "Bowed"]);
    expect(outputOf(done(base(), route(base(), "Both", "track-1", "track-3")), "bus-new")).toBe("main");
    expect(said(route(base(), " ", "track-1"))).toContain("Type the name");
  });

  it("offers nothing that would come back to where it is", () => {
    expect(routeChoices(base(), wheelhouseCart, [id("track-1")])).toEqual(
      expect.arrayContaining(["Main", "Strings", "Outputs 1–2", "Nowhere"]),
    );
    const doc = done(base(), route(base(), "Outer", "strings"));
    expect(routeChoices(doc, wheelhouseCart, [id("bus-new")])).not.toContain("Strings");
    expect(routeChoices(doc, wheelhouseCart, [id("strings")])).toContain("Outer");
  });
});

describe("sending by typing a name", () => {
  const send = (doc: Template, name: string, levelText = "−12") =>
    sendByName(doc, {
      channelIds: [id("track-1"), id("track-2")],
      name,
      levelText,
      tap: "before",
      ids: sequentialIds(),
    });

  it("makes a return of a new name beside what they go to, and sends all of them at the level", () => {
    const doc = done(base(), send(base(), "Plate", "-9"));
    expect(entriesOf(doc.sends).map(({ fromId, toId, levelDb, tap }) => [fromId, toId, levelDb, tap])).toEqual([
      ["track-1", "return-1", -9, "before"],
      ["track-2", "return-1", -9, "before"],
    ]);
    expect([outputOf(doc, "return-1"), sendChoices(doc)]).toEqual(["strings", ["Strings", "Plate"]]);
  });

  it("takes what is there, and tells a level that is none", () => {
    const doc = done(
      base(),
      sendByName(base(), {
        channelIds: [id("track-3")],
        name: "strings",
        levelText: "",
        tap: "after",
        ids: sequentialIds(),
      }),
    );
    expect(entriesOf(doc.sends)).toMatchObject([{ toId: "strings", levelDb: -12 }]);
    expect(said(send(base(), "Plate", "loud"))).toBe("“loud” is no number of dB from −120 to 12.");
    expect(said(send(base(), ""))).toContain("Type the name");
  });
});

describe("levels and pans that are typed", () => {
  const set = (field: "faderDb" | "trimDb" | "pan", text: string) =>
    setMixed(base(), { channelIds: [id("track-1")], field, text });
  const value = (field: "faderDb" | "trimDb" | "pan", text: string) =>
    (done(base(), set(field, text)).channels[id("track-1")] as unknown as Record<string, unknown>)[field];

  it.each([
    ["faderDb", "−4,5", -4.5],
    ["faderDb", "-inf", null],
    ["faderDb", "−∞", null],
    ["faderDb", "", 0],
    ["trimDb", "3 dB", 3],
    ["trimDb", "", 0],
    ["pan", "L 30", -30],
    ["pan", "r100", 100],
    ["pan", "−20", -20],
    ["pan", "middle", 0],
  ] as const)("%s %j is %j", (field, text, is) => expect(value(field, text)).toBe(is));

  it.each([
    ["faderDb", "13", "is no number of dB from −120 to 12"],
    ["faderDb", "loud", "is no number of dB"],
    ["trimDb", "off", "mute it or pull its fader"],
    ["pan", "L 130", "is no pan"],
    ["pan", "L −3", "is no pan"],
  ] as const)("%s %j is told: %s", (field, text, says) => expect(said(set(field, text))).toContain(says));

  it("are read as they are shown", () => {
    for (const pan of [-100, -30, 0, 1, 100]) expect(readPan(panText(pan))).toBe(pan);
  });
});

describe("what goes with a bus that is taken away", () => {
  it("is said before", () => {
    const doc = done(
      base(),
      sendByName(base(), {
        channelIds: [id("track-3")],
        name: "Strings",
        levelText: "−12",
        tap: "after",
        ids: sequentialIds(),
      }),
    );
    expect(takesAlong(doc, [id("strings")])).toBe(
      "2 channels go where it went; 1 send goes along; Strings no longer sums.",
    );
    const plain = done(base(), routeByName(base(), wheelhouseCart, { channelIds: [], name: "Empty", ids: ids() }));
    expect(takesAlong(plain, [id("bus-new")])).toBeNull();
  });
});

describe("the output in the input list", () => {
  const write = (doc: Template, text: string, ...tracks: readonly string[]) =>
    writeCell(doc, wheelhouseCart, { trackIds: tracks.map(id), column: "output", text, ids: ids() });
  const shown = (doc: Template, track: string) =>
    cellText(doc, wheelhouseCart, { track: doc.channels[id(track)] as never, column: "output" });

  it("is typed by name, shown as it can be typed, and told when there is none of that name", () => {
    const doc = done(base(), write(base(), "outputs 3-4", "track-1"));
    expect([shown(doc, "track-1"), shown(doc, "track-2")]).toEqual(["Outputs 3–4", "Strings"]);
    expect(said(write(base(), "Winds", "track-1"))).toMatch(
      /There is no bus and no output Winds\. There is Main, Strings.*Signal flow page/,
    );
  });

  it("is emptied to where the folder goes, filled down, and kept by a duplicate with its sends", () => {
    const away = done(base(), write(base(), "Nowhere", "track-1", "track-3"));
    const cleared = clearCells(away, wheelhouseCart, {
      block: { trackIds: [id("track-1"), id("track-3")], columns: ["output"] },
      ids: ids(),
    });
    expect([shown(done(away, cleared.planned), "track-1"), shown(done(away, cleared.planned), "track-3")]).toEqual([
      "Strings",
      "Main",
    ]);
    const filled = fillDown(away, wheelhouseCart, {
      block: { trackIds: [id("track-1"), id("track-2")], columns: ["output", "fader"] },
      ids: ids(),
    });
    expect(shown(done(away, filled.planned), "track-2")).toBe("Nowhere");
    const sent = done(
      away,
      sendByName(away, {
        channelIds: [id("track-1")],
        name: "Plate",
        levelText: "−3",
        tap: "after",
        ids: sequentialIds(),
      }),
    );
    const copied = duplicateTracks(sent, wheelhouseCart, {
      trackIds: [id("track-1")],
      input: "none",
      ids: <T extends string>(kind: string) => `${kind}-copy` as T,
    });
    const after = done(sent, copied.planned);
    expect([shown(after, "track-copy"), after.sends["send-copy" as never]]).toMatchObject([
      "Nowhere",
      { fromId: "track-copy", toId: "return-1", levelDb: -3 },
    ]);
  });
});
