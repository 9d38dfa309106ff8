import { describe, expect, it } from "vitest";
import { DEMO_RIGS, wheelhouseCart, wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { COLOUR_NAMES, type Colour } from "../model/colours";
import type { Rig } from "../model/rig";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import type { RigEdit } from "../planning/edits/rig-editing";
import { rigEditing } from "../planning/edits/rig-editing";
import { apply, applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { evaluate, evaluateAll } from ".";
import { acceptCommand } from "./cause";
import { colourCloseness, LEAST_DISTANCE } from "./colour-clash";
import { contextOf } from "./context";
import type { CheckContext, Finding } from "./finding";
import { rigFindings } from "./rig-findings";

const seen = (doc: Template, rig: Rig = wheelhouseCart): CheckContext => ({ doc, rig, otherRigs: [] });
const look = (doc: Template, rig?: Rig): readonly Finding[] => evaluate(seen(doc, rig));
const of = (rule: string, doc: Template, rig?: Rig) => look(doc, rig).filter((finding) => finding.rule === rule);
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const applied = applyAll(doc, edits);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.doc;
};
const fixed = (doc: Template, finding: Finding | undefined, at = 0): Template =>
  done(doc, ...(finding?.fixes[at]?.edits ?? []));

describe("dyes that the studio does not have", () => {
  const doc = done(
    aTemplate()
      .folder("Strings")
      .track("Fiddle", { input: "1", folder: "Strings" })
      .track("Snare", { input: "2" })
      .build(),
    { kind: "entries.set", table: "folders", ids: ["folder-1" as never], set: { colour: "own-heather" } },
    { kind: "entries.set", table: "channels", ids: ["track-2" as never], set: { colour: "own-heather" } },
  );

  it("are told once each, with everyone who has them, and taken off in one", () => {
    const [finding, ...others] = of("colour-not-here", doc);
    expect(others).toEqual([]);
    expect(finding?.message).toBe(
      "Strings and Snare have a dye that this studio does not have: removed from it, or of another. They are shown undyed.",
    );
    expect(finding?.places.map(({ kind, id }) => [kind, id])).toEqual([
      ["folder", "folder-1"],
      ["track", "track-2"],
    ]);
    expect(of("colour-not-here", fixed(doc, finding))).toEqual([]);
  });

  it("are no finding where the studio has them", () => {
    const heather = { id: "own-heather", name: "heather", cloth: "#7a4f8f", night: "#c79adf" } as const;
    expect(evaluate({ ...seen(doc), ownColours: [heather] }).filter(({ rule }) => rule === "colour-not-here")).toEqual(
      [],
    );
  });
});

describe("microphones on the shelf", () => {
  const doc = aTemplate()
    .track("Snare", { input: "1", microphone: "Moving-coil 1" })
    .track("Tom", { input: "2", microphone: "Moving-coil 1" })
    .build();

  it("one asked for twice is told, with the next of its kind", () => {
    const [finding] = of("microphone-overused", doc);
    expect(finding?.message).toBe("Moving-coil 1 is asked for twice, by Snare and Tom, and the shelf has one.");
    expect(finding?.fixes.map((fix) => fix.label)).toEqual(["Give Tom Moving-coil 2", "Take the microphone off Tom"]);
    expect(of("microphone-overused", fixed(doc, finding))).toEqual([]);
  });

  it("a pair may stand on two lines, not on three", () => {
    const pair = aTemplate().track("Above", { input: ["1", "2"], microphone: "Small condenser pair", phantom: true });
    expect(of("microphone-overused", pair.build())).toEqual([]);
    expect(
      of(
        "microphone-overused",
        pair.track("Room", { input: "3", microphone: "Small condenser pair", phantom: true }).build(),
      ),
    ).toHaveLength(1);
  });
});

describe("dyes that can't be told apart", () => {
  it("the same dye on neighbours is told, another is offered that suits both sides", () => {
    const doc = aTemplate().folder("Brass", "ochre").folder("Winds", "ochre").folder("Keys", "verdigris").build();
    const [finding] = of("dye-clash", doc);
    expect(finding).toMatchObject({
      severity: "hint",
      message: "Brass and Winds stand side by side and both are ochre. Their threads can't be told apart.",
    });
    expect(of("dye-clash", fixed(doc, finding))).toEqual([]);
  });

  it("dyes that are alike only with a deficiency are told with its name", () => {
    const doc = aTemplate().folder("Speech", "saffron").folder("Harp", "weld").build();
    expect(of("dye-clash", doc)[0]?.message).toContain("weld and saffron look alike with deuteranopia");
  });

  it("folders that are no neighbours may share a dye, and inner ones inherit theirs", () => {
    const doc = aTemplate().folder("Brass", "ochre").folder("Keys", "verdigris").folder("Winds", "ochre").build();
    expect(of("dye-clash", doc)).toEqual([]);
    const nested = apply(doc, {
      kind: "entries.add",
      entries: {
        folders: ["a", "b"]
          .map((id) => ({ id: id as never, name: id, colour: null }))
          .map((folder) => ({ ...folder, parentId: "folder-1" as never })),
      },
    });
    expect(nested.ok && of("dye-clash", nested.doc)).toEqual([]);
  });

  it("closeness is the same both ways, nought for a dye with itself, and no two dyes of the house are alike in usual sight", () => {
    for (const a of COLOUR_NAMES)
      for (const b of COLOUR_NAMES) {
        expect(colourCloseness(a, b)).toEqual(colourCloseness(b, a));
        if (a === b) expect(colourCloseness(a, b).distance).toBe(0);
        else if (colourCloseness(a, b).distance < LEAST_DISTANCE) expect(colourCloseness(a, b).sight).not.toBe("");
      }
    expect(colourCloseness("madder" as Colour, "woad" as Colour).distance).toBeGreaterThan(LEAST_DISTANCE);
  });
});

describe("picture", () => {
  it.each([
    [44100, true],
    [88200, true],
    [48000, false],
    [96000, false],
  ] as const)("%i Hz for picture is told: %s", (sampleRateHz, told) => {
    const made = apply(aTemplate().build(), {
      kind: "settings.set",
      set: { format: { sampleRateHz, meetsPicture: true } },
    });
    const doc = made.ok ? made.doc : aTemplate().build();
    expect(of("picture-rate", doc).length > 0).toBe(told);
    if (told) expect(of("picture-rate", fixed(doc, of("picture-rate", doc)[0]))).toEqual([]);
  });
});

describe("one player in two rooms", () => {
  const builder = () =>
    aTemplate()
      .track("Fiddle", { input: "1", player: "Wynn Solari", room: "Wheelhouse" })
      .track("Harp", { input: "2", player: "wynn solari", room: "Booth" });

  it("is told, and put right either way", () => {
    const [finding] = of("player-in-two-rooms", builder().build());
    expect(finding?.message).toBe(
      "Wynn Solari is in two rooms at once: Fiddle is played in the Wheelhouse, Harp in the Booth.",
    );
    for (const at of [0, 1]) expect(of("player-in-two-rooms", fixed(builder().build(), finding, at))).toEqual([]);
  });

  it("is all right by turns, and where no room is said", () => {
    const turns = builder()
      .does({ kind: "entries.set", table: "channels", ids: ["track-2" as never], set: { sharing: "by-turns" } })
      .build();
    expect(of("player-in-two-rooms", turns)).toEqual([]);
    expect(
      of(
        "player-in-two-rooms",
        aTemplate().track("A", { player: "X", room: "Loft" }).track("B", { player: "X" }).build(),
      ),
    ).toEqual([]);
  });
});

describe("gain and connectors", () => {
  it("a gain the preamp does not have is told by the preamp that is reached", () => {
    const doc = aTemplate()
      .track("Fiddle", { input: "9", microphone: "Moving-coil 1", gainDb: 70 as never })
      .build();
    const [finding] = of("gain-out-of-range", doc);
    expect(finding?.message).toBe("Fiddle asks for 70 dB, and input 9 gives 12 dB to 66 dB.");
    expect(of("gain-out-of-range", fixed(doc, finding))).toEqual([]);
  });

  it("a microphone on a jack needs an adapter", () => {
    const made = rigEditing.apply(wheelhouseCart, {
      kind: "entries.set",
      table: "ports",
      ids: ["brindle:in:1" as never],
      set: { connector: "jack" },
    });
    const rig = made.ok ? made.doc : wheelhouseCart;
    const doc = aTemplate().track("Snare", { input: "1", microphone: "Moving-coil 1" }).build();
    expect(of("connector-not-accepted", doc, rig)[0]?.message).toBe(
      "Snare comes on XLR, and input 1 takes jack. Have an adapter ready, or choose another input.",
    );
    expect(of("connector-not-accepted", doc)).toEqual([]);
  });
});

describe("names that file systems do not take", () => {
  it.each([
    ["CON", "is a name that file systems keep for devices"],
    ["lpt1.wav", "is a name that file systems keep for devices"],
    ["é".repeat(120), "is too long for a file name: 240 bytes"],
    ["a/b", "because of /"],
    ["Take.", "full stop"],
  ])("%s", (name, words) => {
    const doc = aTemplate().track(name, { input: "1" }).build();
    const [finding] = of("track-name", doc);
    expect(finding?.message).toContain(words);
    expect(of("track-name", fixed(doc, finding))).toEqual([]);
  });

  it("also of the template and of folders", () => {
    const renamed = apply(aTemplate().folder("Nul").build(), { kind: "document.rename", name: "Mill: evening" });
    const doc = renamed.ok ? renamed.doc : aTemplate().build();
    const findings = of("document-name", doc);
    expect(findings.map((finding) => finding.message)).toEqual([
      "“Mill: evening” can't be a file name because of :.",
      "The folder “Nul” is a name that file systems keep for devices.",
    ]);
    expect(
      of(
        "document-name",
        findings.reduce((at, finding) => fixed(at, finding), doc),
      ),
    ).toEqual([]);
  });
});

describe("the clock and the links of a rig", () => {
  const changed = (rig: Rig, ...edits: readonly RigEdit[]): Rig => {
    const applied = rigEditing.applyAll(rig, edits);
    if (!applied.ok) throw new Error(applied.refusal.message);
    return applied.doc;
  };
  const clock = (id: string, to: object): RigEdit => ({
    kind: "entries.set",
    table: "devices",
    ids: [id as never],
    set: { clock: to as never },
  });

  it("are in order in every rig of the demo", () => expect(DEMO_RIGS.flatMap(rigFindings)).toEqual([]));

  it.each([
    ["no leader", [clock("brindle", { kind: "follows", linkId: null })], "No device leads the clock"],
    ["two leaders", [clock("eight", { kind: "leads" })], "Brindle 16 and Brindle Eight both lead the clock"],
    ["a follower without a link", [clock("eight", { kind: "follows", linkId: null })], "no link brings it one"],
    [
      "a follower through a link that leads elsewhere",
      [clock("eight", { kind: "follows", linkId: "brindle:optical-b" })],
      "Optical B does not lead to it",
    ],
    [
      "an expander on nothing",
      [{ kind: "links.plug", linkId: "brindle:optical-a", deviceId: null }],
      "is not plugged into any digital socket",
    ],
    [
      "a link beyond its count",
      [
        {
          kind: "entries.set",
          table: "links",
          ids: ["brindle:optical-a"],
          set: { channels: { single: 4, double: 2, quadruple: 1 } },
        },
      ],
      "has 8 inputs, and Optical A carries 4",
    ],
  ] as const)("%s is told, and its fix clears it", (_what, edits, words) => {
    const rig = changed(wholeMill, ...(edits as unknown as readonly RigEdit[]));
    const finding = rigFindings(rig).find((candidate) => candidate.message.includes(words));
    expect(
      rigFindings(rig)
        .map((candidate) => candidate.message)
        .join(),
    ).toContain(words);
    for (const fix of finding?.fixes ?? [])
      expect(rigFindings(changed(rig, ...fix.edits)).map((candidate) => candidate.id)).not.toContain(finding?.id);
    expect(finding?.fixes.length).toBeGreaterThan(0);
  });
});

describe("accepting a finding", () => {
  const doc = aTemplate(wholeMill).track("Clarinet", { input: "E1", microphone: "Active ribbon" }).build();
  const [finding] = look(doc, wholeMill);
  const accept = (reason: string) => apply(doc, acceptCommand(seen(doc, wholeMill), finding as Finding, reason));

  it("needs a reason, and keeps it", () => {
    expect(accept("  ")).toMatchObject({ ok: false });
    const accepted = accept("it has its own supply");
    if (!accepted.ok) throw new Error(accepted.refusal.message);
    expect(evaluateAll(seen(accepted.doc, wholeMill))).toMatchObject({
      open: [],
      accepted: [{ reason: "it has its own supply" }],
    });
    expect(accepted.name).toBe("Accept a finding: it has its own supply");
  });

  it.each([
    [
      "another name changes nothing",
      { kind: "entries.set", table: "channels", ids: ["track-1"], set: { name: "Basset" } },
      0,
    ],
    [
      "another input brings it back",
      { kind: "lines.patch", inputs: [{ lineId: "line-1", portId: "eight:in:2", requestedInput: null }] },
      1,
    ],
    ["another rate brings it back", { kind: "settings.set", set: { format: { sampleRateHz: 96000 } } }, 1],
    ["reopening brings it back", { kind: "entries.remove", table: "accepted", ids: ["phantom-missing:line-1"] }, 1],
  ])("%s", (_what, command, open) => {
    const accepted = accept("as agreed");
    const changed = apply(accepted.ok ? accepted.doc : doc, command as never);
    expect(changed.ok && evaluateAll(seen(changed.doc, wholeMill)).open).toHaveLength(open);
  });
});

describe("a template whose rig is not here", () => {
  const doc = {
    ...aTemplate().track("Fiddle", { input: "9" }).track("Fiddle", { input: "9" }).build(),
    rigId: "gone" as never,
  };
  const context = contextOf({ doc, rigs: DEMO_RIGS, studio: demoStudio });

  it("says so, says nothing of inputs, and is judged on no other rig", () => {
    const found = evaluate(context);
    expect(found.map((finding) => finding.rule)).toEqual(["rig-missing", "track-name"]);
    expect(found[0]?.message).toContain("is not here: it was deleted, or never came along");
    expect([context.rig.id, context.otherRigs.length]).toEqual(["gone", DEMO_RIGS.length]);
  });

  it("is fitted to one that is here, with the inputs that are the same there", () => {
    const [fix] = evaluate(context)[0]?.fixes ?? [];
    const fitted = applyAll(doc, fix?.edits ?? []);
    expect(fitted.ok && fitted.doc.rigId).toBe(DEMO_RIGS[0]?.id);
    expect(
      fitted.ok &&
        evaluate(contextOf({ doc: fitted.doc, rigs: DEMO_RIGS, studio: demoStudio })).map((finding) => finding.rule),
    ).not.toContain("rig-missing");
  });
});
