import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../../commands/template-engine";
import { wheelhouseCart } from "../../demo/rigs";
import type { ChannelId } from "../../model/ids";
import { MAIN_ID } from "../../model/tables/channel-fields";
import { newLine } from "../../model/tables/lines";
import type { Template } from "../../model/template";
import { templateFaults } from "../../model/template-schema";
import { aTemplate } from "../../testing/a-template";
import type { Edit } from "./edit";
import { rigEditing } from "./rig-editing";
import { applyAll } from "./template-editing";

const doc = aTemplate()
  .folder("Strings")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"] })
  .build();
const fiddle = "track-1" as ChannelId;
const above = "track-2" as ChannelId;
const lineId = (at: number) => Object.keys(doc.lines)[at] as never;
const track = (id: string, input: object) => ({
  id,
  name: id,
  note: "",
  colour: null,
  icon: null,
  input,
  sharing: null,
});
const add = (tracks: readonly object[], lines: readonly object[]) => ({
  kind: "tracks.add",
  tracks,
  lines,
  folderId: null,
  before: null,
});
const ports = Array.from({ length: 5000 }, (_, at) => `port-${at}`);

/** What would leave a document that no import takes and no undo accepts. */
const BREAKING: readonly (readonly [string, readonly object[], RegExp])[] = [
  [
    "a folder with the id of the main bus",
    [{ kind: "entries.add", entries: { folders: [{ id: MAIN_ID, name: "Main", colour: null }] } }],
    /already in this template/,
  ],
  [
    "a folder with the id of a track",
    [{ kind: "entries.add", entries: { folders: [{ id: "track-1", name: "X", colour: null }] } }],
    /already in this template/,
  ],
  [
    "a line with the id of a folder",
    [add([track("t", { kind: "line", lineId: "folder-1" })], [newLine({ id: "folder-1" as never })])],
    /already in this template/,
  ],
  [
    "a track with the id of a line it brings",
    [add([track("same", { kind: "line", lineId: "same" })], [newLine({ id: "same" as never })])],
    /already in this template/,
  ],
  [
    "a line that nobody takes",
    [add([track("t", { kind: "none" })], [newLine({ id: "stray" as never, source: "Stray" })])],
    /line Stray has no track/,
  ],
  [
    "one line as left and right",
    [add([track("t", { kind: "pair", leftId: "l", rightId: "l" })], [newLine({ id: "l" as never })])],
    /one line as left and right/,
  ],
  [
    "a port together with an input that is asked for",
    [
      add(
        [track("t", { kind: "line", lineId: "l" })],
        [newLine({ id: "l" as never, portId: "in:1" as never, requestedInput: "17" })],
      ),
    ],
    /has a port and asks for another/,
  ],
  [
    "a split onto the id of a line",
    [{ kind: "tracks.split", trackId: above, newTrackId: lineId(0) }],
    /already in this template/,
  ],
  [
    "no note where a text belongs",
    [{ kind: "entries.set", table: "channels", ids: [fiddle], set: { note: null } }],
    /does not fit at note of Fiddle/,
  ],
  ["no note of the template", [{ kind: "settings.set", set: { note: null } }], /does not fit at note/],
  [
    "5,000 main outputs",
    [{ kind: "template.fit", rigId: "cart", rigName: "Cart", inputs: [], mainOutputs: ports }],
    /does not fit at output portIds of Main/,
  ],
  [
    "a gain beyond any preamp",
    [{ kind: "entries.set", table: "lines", ids: [lineId(0)], set: { gainDb: 4000 } }],
    /does not fit at gainDb of Fiddle/,
  ],
  [
    "a dye that is none",
    [{ kind: "entries.set", table: "folders", ids: ["folder-1"], set: { colour: "puce" } }],
    /does not fit at colour of Strings/,
  ],
  [
    "a field that nothing has",
    [{ kind: "entries.set", table: "lines", ids: [lineId(0)], set: { colour: "red" } }],
    /line has no field colour/,
  ],
];

describe("a whole gesture is held to schema and rules", () => {
  it.each(BREAKING)("%s is refused", (_what, commands, words) => {
    const done = applyAll(doc, commands as readonly Edit[]);
    expect(done).toMatchObject({ ok: false, refusal: { message: expect.stringMatching(words) } });
  });

  it("also behind others that are all right, and nothing of them is kept", () => {
    for (const [, commands] of BREAKING) {
      const whole = applyAll(doc, [
        { kind: "entries.set", table: "channels", ids: [fiddle], set: { name: "Viola" } },
        ...(commands as readonly Edit[]),
      ]);
      expect(whole.ok).toBe(false);
    }
  });

  it("says which of several could not be done", () => {
    const done = applyAll(doc, [
      { kind: "entries.set", table: "channels", ids: [fiddle], set: { name: "Viola" } },
      { kind: "entries.remove", table: "channels", ids: ["gone" as never] },
    ]);
    expect(done).toMatchObject({ ok: false, refusal: { index: 1 } });
  });

  it("lets it pass through what would not stand, as long as it ends well", () => {
    const done = applyAll(doc, [
      add(
        [track("t", { kind: "none" })],
        [newLine({ id: "l" as never, portId: "in:1" as never, requestedInput: "17" })],
      ),
      { kind: "lines.patch", inputs: [{ lineId: "l", portId: null, requestedInput: "17" }] },
      { kind: "tracks.take", trackId: "t", input: { kind: "line", lineId: "l" }, lines: [] },
    ] as never);
    expect(done.ok && [templateFaults(done.doc), brokenInvariants(done.doc)]).toEqual([[], []]);
  });

  it("what was broken before, in a document of an older Wandel, keeps nobody from going on", () => {
    const old: Template = {
      ...doc,
      lines: { ...doc.lines, ["stray" as never]: newLine({ id: "stray" as never, source: "Stray" }) },
    };
    expect(applyAll(old, [{ kind: "entries.remove", table: "channels", ids: [above] }]).ok).toBe(true);
  });

  it("the same for a rig", () => {
    const [linkId] = Object.keys(wheelhouseCart.links) as never[];
    const done = rigEditing.applyAll(wheelhouseCart, [
      { kind: "entries.remove", table: "links", ids: linkId ? [linkId] : [] },
      { kind: "settings.set", set: { dimDb: 5 as never } },
    ]);
    expect(done).toMatchObject({ ok: false, refusal: { message: expect.stringContaining("dimDb") } });
  });
});
