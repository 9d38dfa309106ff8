import { describe, expect, it } from "vitest";
import { DEMO_RIGS, duoRig, wheelhouseCart, wholeMill } from "../demo/rigs";
import type { Rig } from "../model/rig";
import type { Template } from "../model/template";
import { applyAll } from "../planning/edits/template-editing";
import { fileName } from "../reading/file-name";
import { aTemplate } from "../testing/a-template";
import { evaluate } from ".";
import type { Finding } from "./finding";

const look = (doc: Template, rig: Rig = wheelhouseCart, otherRigs: readonly Rig[] = []): readonly Finding[] =>
  evaluate({ doc, rig, otherRigs });
const messages = (doc: Template, rig?: Rig) => look(doc, rig).map((finding) => finding.message);
const labels = (finding: Finding | undefined) => finding?.fixes.map((fix) => fix.label) ?? [];

const fixed = (doc: Template, finding: Finding | undefined, at = 0): Template => {
  const done = applyAll(doc, finding?.fixes[at]?.edits ?? []);
  if (!done.ok) throw new Error(done.refusal.message);
  return done.doc;
};

describe("a sound template", () => {
  it("has nothing to complain of", () => {
    const doc = aTemplate()
      .track("Snare", { input: "1", microphone: "Moving-coil 1" })
      .track("Above", { input: ["5", "6"], microphone: "Small condenser pair", phantom: true })
      .build();
    expect(look(doc)).toEqual([]);
  });
});

describe("line without port", () => {
  const doc = aTemplate().track("Fiddle", { microphone: "Clip-on condenser 1", phantom: true }).build();

  it("is a hint that offers the first free input that suits", () => {
    const [finding] = look(doc);
    expect(finding).toMatchObject({
      severity: "hint",
      message: "Fiddle has no input yet. Give it one before the session.",
    });
    expect(labels(finding)).toEqual(["Put Fiddle on input 1"]);
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("says so when no input is free", () => {
    const full = aTemplate(duoRig).track("A", { input: "1" }).track("B", { input: "2" }).track("C").build();
    expect(messages(full, duoRig)).toEqual([
      "C has no input yet, and Duo has no free one that suits it. Free one, or fit the template to another rig before the session.",
    ]);
  });
});

describe("port that the rig has not", () => {
  const doc = aTemplate().track("Lead voice", { input: "17", microphone: "Large condenser B", phantom: true }).build();

  it("names the input that was asked for", () => {
    expect(messages(doc)).toEqual(["Lead voice asks for input 17, and Wheelhouse cart has no such input."]);
  });

  it("offers a free input of this rig first", () => {
    const [finding] = look(doc);
    expect(labels(finding)).toEqual(["Move Lead voice to input 1", "Take Lead voice off its input for now"]);
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("offers another rig when this one is full, and that rig's own input 17", () => {
    const cart = aTemplate();
    for (let input = 1; input <= 14; input++) cart.track(`Source ${input}`, { input: String(input) });
    const full = cart.track("Lead voice", { input: "17" }).build();
    const [finding] = look(full, wheelhouseCart, [wholeMill]);
    expect(labels(finding)).toEqual([
      "Fit to Whole mill, which has that input",
      "Take Lead voice off its input for now",
    ]);
    const moved = fixed(full, finding);
    expect(moved.lines["line-15" as never]).toMatchObject({ portId: "eight:in:1", requestedInput: null });
    expect(look(moved, wholeMill)).toEqual([]);
  });

  it("tells an expander's ports that do not exist at this rate", () => {
    const fast = aTemplate(wholeMill)
      .track("Choir", { input: "E5" })
      .does({ kind: "settings.set", set: { format: { sampleRateHz: 96000 } } })
      .build();
    expect(messages(fast, wholeMill)).toEqual([
      "Choir is on Brindle Eight input 5, which does not exist at 96 kHz: Optical A carries 4 channels at this rate.",
    ]);
  });

  it.each([
    [48000, 8],
    [96000, 4],
    [192000, 2],
  ] as const)("at %d Hz the optical link carries %d channels", (sampleRateHz, carried) => {
    const eight = aTemplate(wholeMill).does({ kind: "settings.set", set: { format: { sampleRateHz } } });
    for (let input = 1; input <= 8; input++) eight.track(`Voice ${input}`, { input: `E${input}` });
    expect(look(eight.build(), wholeMill).filter((finding) => finding.rule === "port-not-on-rig")).toHaveLength(
      8 - carried,
    );
  });
});

describe("level not accepted", () => {
  it("says what the input takes and what it carries", () => {
    const doc = aTemplate().track("Clarinet", { input: "15", microphone: "Active ribbon", phantom: true }).build();
    expect(messages(doc)).toEqual([
      "Clarinet (Active ribbon) is on input 15, which takes line level only and carries the Stair.",
    ]);
  });

  it("leaves a microphone on a line input alone when a preamp is wired to it", () => {
    expect(look(aTemplate().track("Fiddle", { input: "9", microphone: "Moving-coil 1" }).build())).toEqual([]);
  });

  it("a line source takes a line input, not a microphone preamp", () => {
    expect(look(aTemplate().track("Backing", { input: "1", microphone: "line" }).build())).toEqual([]);
    expect(messages(aTemplate().track("Backing", { input: "9", microphone: "line" }).build())).toEqual([
      "Backing (line) is on input 9, which takes microphone level only.",
    ]);
  });
});

describe("two lines on one port", () => {
  const doc = aTemplate().track("Guitar", { input: "2" }).track("Spare guitar", { input: "2" }).build();

  it("offers to move the second, or to call them one source", () => {
    const [finding] = look(doc);
    expect(finding?.message).toBe("Guitar and Spare guitar are both on input 2. Only one of them can be plugged in.");
    expect(labels(finding)).toEqual([
      "Move Spare guitar to input 1",
      "Take Spare guitar off its input for now",
      "It is one source: record both tracks by turns",
      "It is one source: record both tracks at once",
    ]);
  });

  it.each([
    [0, []],
    [2, []],
    // At once it is; that both are heard is another matter.
    [3, ["heard-twice"]],
  ])("fix %d clears it", (at, left) => {
    expect(look(fixed(doc, look(doc)[0], at)).map(({ rule }) => rule)).toEqual(left);
  });

  it("tells each further line on the port", () => {
    expect(
      look(aTemplate().track("A", { input: "2" }).track("B", { input: "2" }).track("C", { input: "2" }).build()),
    ).toHaveLength(2);
  });
});

describe("two tracks on one line", () => {
  const doc = aTemplate().track("Voice", { input: "1" }).trackOnLine("Voice, second pass", "line-1").build();

  it("asks whether at once or by turns, and takes either answer", () => {
    const [finding] = look(doc);
    expect(finding?.message).toBe(
      "Voice and Voice, second pass take the same line, and nobody has said whether at once or by turns.",
    );
    expect([0, 1].map((at) => look(fixed(doc, finding, at)).map(({ rule }) => rule))).toEqual([[], ["heard-twice"]]);
  });
});

describe("stereo on inputs that are no neighbours", () => {
  it("moves both sides together", () => {
    const doc = aTemplate()
      .track("Harp", { input: ["4", "5"] })
      .build();
    const [finding] = look(doc);
    expect(finding?.message).toBe("Harp is stereo on inputs 4 and 5, which are not neighbours.");
    expect(labels(finding)).toEqual(["Move Harp to inputs 1 and 2"]);
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("tells crossed sides and puts them right", () => {
    const doc = aTemplate()
      .track("Harp", { input: ["6", "5"] })
      .build();
    const [finding] = look(doc);
    expect(finding?.message).toBe("Harp has its left on input 6 and its right on 5: the sides are crossed.");
    expect(labels(finding)).toEqual(["Put left on 5 and right on 6"]);
    expect(look(fixed(doc, finding))).toEqual([]);
  });
});

describe("phantom on a passive ribbon", () => {
  it("by its own switch", () => {
    const doc = aTemplate()
      .track("Cimbalom", { input: "13", microphone: "Passive ribbon pair", phantom: true })
      .build();
    const [finding] = look(doc);
    expect(finding?.message).toContain("48 V can ruin it");
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("through the bank it shares, with who switched it on and where it could go", () => {
    const doc = aTemplate()
      .track("Cimbalom", { input: "6", microphone: "Passive ribbon pair" })
      .track("Accordion", { input: "7", microphone: "Large condenser A", phantom: true })
      .build();
    const [finding] = look(doc);
    expect(finding?.message).toBe(
      "Cimbalom is a passive ribbon on input 6, and bank 5–8 carries 48 V for Accordion. Move it to input 1, or use another microphone.",
    );
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("through a bank of an outside preamp", () => {
    const doc = aTemplate()
      .track("Cimbalom", { input: "11", microphone: "Passive ribbon pair" })
      .track("Fiddle", { input: "12", microphone: "Clip-on condenser 1", phantom: true })
      .build();
    expect(messages(doc)[0]).toContain("bank Thistle 3–4 carries 48 V for Fiddle");
  });

  it("offers to switch the bank off when nobody on it needs it", () => {
    const doc = aTemplate()
      .track("Cimbalom", { input: "6", microphone: "Passive ribbon pair" })
      .track("Snare", { input: "7", microphone: "Moving-coil 1", phantom: true })
      .build();
    const [finding] = look(doc);
    expect(labels(finding)[0]).toBe("Switch phantom off for Snare");
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("is no matter on another bank or on a switch of its own", () => {
    const doc = aTemplate()
      .track("Cimbalom", { input: "1", microphone: "Passive ribbon pair" })
      .track("Accordion", { input: "7", microphone: "Large condenser A", phantom: true })
      .build();
    expect(look(doc)).toEqual([]);
  });
});

describe("phantom missing", () => {
  it.each([
    ["Large condenser A", "a condenser"],
    ["Active ribbon", "an active ribbon"],
    ["DI box active", "an active DI box"],
  ])("%s needs it", (microphone, kind) => {
    const doc = aTemplate().track("Source", { input: "1", microphone }).build();
    const [finding] = look(doc);
    expect(finding).toMatchObject({
      severity: "problem",
      message: `Source is ${kind} and needs 48 V, but phantom is off.`,
    });
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it.each(["Moving-coil 1", "Passive ribbon pair", "DI box passive 1"])("%s does not", (microphone) => {
    expect(look(aTemplate().track("Source", { input: "1", microphone }).build())).toEqual([]);
  });

  it("is only a hint while others on the bank switch it on", () => {
    const doc = aTemplate()
      .track("Alto", { input: "1", microphone: "Large condenser A", phantom: true })
      .track("Tenor", { input: "2", microphone: "Large condenser B" })
      .build();
    expect(look(doc)).toMatchObject([
      {
        severity: "hint",
        message:
          "Tenor is a condenser and needs 48 V, but gets it only because Alto switches it on for the whole bank.",
      },
    ]);
  });

  it("moves the condenser away from a ribbon's bank instead of switching it on there", () => {
    const doc = aTemplate()
      .track("Cimbalom", { input: "1", microphone: "Passive ribbon pair" })
      .track("Alto", { input: "2", microphone: "Large condenser A" })
      .build();
    const [finding] = look(doc);
    expect(labels(finding)).toEqual(["Move Alto to input 5 and switch phantom on"]);
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("tells an input that gives none, once, and not beside its level", () => {
    const doc = aTemplate().track("Clarinet", { input: "16", microphone: "Active ribbon", phantom: true }).build();
    expect(look(doc).map((finding) => finding.rule)).toEqual(["level-not-accepted"]);
  });
});

describe("track names", () => {
  it.each([
    ["", "A track has no name. Its files would have none either."],
    ["Vox/Gtr", "“Vox/Gtr” can't be a file name because of /."],
    ["Lead?: *", "“Lead?: *” can't be a file name because of ? : *."],
    ["Fiddle.", "“Fiddle.” begins or ends with a space or a full stop, which file systems drop."],
    [" Fiddle", "“Fiddle” begins or ends with a space or a full stop, which file systems drop."],
  ])("%j", (name, message) => {
    const doc = aTemplate().track(name, { input: "1" }).build();
    const [finding] = look(doc);
    expect(finding?.message).toBe(message);
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it.each([
    ["Fiddle", "Fiddle"],
    ["Fiddle", "fiddle"],
    ["Café", "Café"],
  ])("%j and %j would be one file", (first, second) => {
    const doc = aTemplate().track(first, { input: "1" }).track(second, { input: "2" }).build();
    const [finding] = look(doc);
    expect(finding?.message).toBe(`Two tracks are called ${second}. Their files would overwrite each other.`);
    expect(look(fixed(doc, finding))).toEqual([]);
  });

  it("counts on past names that are taken", () => {
    const doc = aTemplate()
      .track("Choir", { input: "1" })
      .track("Choir 2", { input: "2" })
      .track("Choir", { input: "3" })
      .build();
    expect(labels(look(doc)[0])).toEqual(["Name it Choir 3"]);
  });

  it.each([
    ["a/b", "a-b"],
    ["  x. ", "x"],
    ["tab\there", "tab-here"],
  ])("%j is kept as the file name %j", (name, file) => expect(fileName(name)).toBe(file));
});

describe("the whole", () => {
  it("puts problems before hints", () => {
    const doc = aTemplate()
      .track("Loose")
      .track("Cimbalom", { input: "13", microphone: "Passive ribbon pair", phantom: true })
      .build();
    expect(look(doc).map((finding) => finding.severity)).toEqual(["problem", "hint"]);
  });

  it("does not depend on which rigs there are besides", () => {
    const doc = aTemplate().track("Snare", { input: "1" }).build();
    expect(evaluate({ doc, rig: wheelhouseCart, otherRigs: DEMO_RIGS.slice(1) })).toEqual(look(doc));
  });
});
