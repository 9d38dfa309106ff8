import { describe, expect, it } from "vitest";
import { evaluate } from "../../checks";
import { wholeMill } from "../../demo/rigs";
import { sequentialIds, type TemplateId } from "../../model/ids";
import { monitorOutputs, rigInputOf } from "../../model/read-rig";
import { colourOf, linesOfTrack, tracksOf } from "../../model/read-template";
import { newStudio, type Studio } from "../../model/studio";
import { entriesOf } from "../../model/table";
import { emptyTemplate, type Template } from "../../model/template";
import { applyAll } from "../../planning/edits/template-editing";
import { planSession, type SessionAsked, type SessionPlan } from "./plan-session";
import { USUAL_SWITCHES } from "./session-row";

const empty = emptyTemplate({
  id: "t" as TemplateId,
  name: "T",
  kind: "band",
  rigId: wholeMill.id,
  mainOutputs: monitorOutputs(wholeMill),
});

const withCues = (count: number): Template => {
  const cues = Array.from({ length: count }, (_, at) => ({
    id: `cue-${at}` as never,
    name: `Cue ${at + 1}`,
    people: [],
    portIds: [`brindle:out:${3 + 2 * at}` as never, `brindle:out:${4 + 2 * at}` as never],
    hearing: "headphones" as const,
    mixedIn: "computer" as const,
    room: "",
  }));
  const made = applyAll(empty, [{ kind: "entries.add", entries: { cues } }]);
  return made.ok ? made.doc : expect.unreachable();
};

const plan = (text: string, more: Partial<SessionAsked> = {}): SessionPlan =>
  planSession({
    doc: empty,
    rig: wholeMill,
    studio: newStudio("Mill"),
    switches: USUAL_SWITCHES,
    from: "",
    changes: {},
    ids: sequentialIds(),
    text,
    ...more,
  });

const made = (of: SessionPlan, doc: Template = empty): Template => {
  if (!of.planned.ok) throw new Error(of.planned.message);
  const done = applyAll(doc, of.planned.gesture.edits);
  return done.ok ? done.doc : expect.unreachable(done.refusal.message);
};

/** Ids that no other plan of this file has given. */
const otherIds = () => {
  const ids = sequentialIds();
  return <T extends string>(kind: string): T => `other-${ids<string>(kind)}` as T;
};

const rowsOf = (of: SessionPlan) => of.groups.flatMap(({ rows }) => rows);
const names = (of: SessionPlan) => rowsOf(of).map(({ name, lines }) => (lines.length === 2 ? `${name} (pair)` : name));

const BAND =
  "Kick in/out\nSn T/B, HH, OH L/R\nBass DI + amp\nGtr 1-2\nPiano (stereo)\nTpt ribbon, Tenor sax\nLead vox LDC, BV x2";

describe("what an engineer would write", () => {
  it.each([
    ["Kick In, Kick Out, Sn T/B, OH L/R", ["Kick In", "Kick Out", "Snare top", "Snare bottom", "Overheads (pair)"]],
    ["Gtr 1-2", ["Guitar 1", "Guitar 2"]],
    ["Vox x3", ["Voice 1", "Voice 2", "Voice 3"]],
    ["2x Vox", ["Voice 1", "Voice 2"]],
    ["3 toms", ["toms 1", "toms 2", "toms 3"]],
    ["5-6 Piano", ["Piano (pair)"]],
    ["5-6 Trombones", ["Trombones 1", "Trombones 2"]],
    ["1-4 Choir (4 mics)", ["Choir 1", "Choir 2", "Choir 3", "Choir 4"]],
    ["Bass DI + amp", ["Bass DI", "Bass amp"]],
    ["Tom 1, 2, Vox", ["Tom 1", "Tom 2", "Voice"]],
    ["Wibble, Wobble", ["Wibble", "Wobble"]],
  ])("%s", (text, expected) => expect(names(plan(text))).toEqual(expected));

  it("a band of sixteen: its families, folders, buses, inputs, microphones and phantom before anything is done", () => {
    const of = plan(BAND);
    expect([of.headline, of.says]).toEqual([
      "16 tracks on 18 inputs",
      "7 folders, 7 buses · 14 microphones proposed · nothing left over",
    ]);
    expect(
      of.groups.map(
        ({ says, rows }) => `${says}: ${rows.map(({ name, inputs }) => `${name} ${inputs.join("–")}`).join(", ")}`,
      ),
    ).toEqual([
      "folder and bus Percussion: Kick in 1, Kick out 2, Snare top 3, Snare bottom 4, Hat 5, Overheads 7–8",
      "folder and bus Low strings: Bass DI 6, Bass amp 9",
      "folder and bus Plucked strings: Guitar 1 10, Guitar 2 11",
      "folder and bus Keys: Piano 13–14",
      "folder and bus Brass: Trumpet 12",
      "folder and bus Woodwind: Tenor sax E1",
      "folder and bus Voices: Lead voice E2, Backing 1 E3, Backing 2 E4",
    ]);
    expect(rowsOf(of).find(({ name }) => name === "Trumpet")?.asks).toBe("which ribbon? phantom stays off");
  });

  it("one gesture makes all of it, dyed, in folders, routed to their buses, in every cue; the checks find no problem", () => {
    const cues = withCues(3);
    const of = plan(BAND, { doc: cues });
    const doc = made(of, cues);
    expect(of.planned.ok && of.planned.gesture.name).toBe("Add 16 tracks");
    const tracks = tracksOf(doc);
    expect(tracks).toHaveLength(16);
    const kick = tracks.find(({ name }) => name === "Kick in") ?? expect.unreachable();
    expect([colourOf(doc, kick), kick.icon]).toEqual(["madder", "drum"]);
    expect(kick.output).toEqual({ kind: "channel", channelId: doc.folders[kick.folderId as never]?.busId });
    expect(entriesOf(doc.cueLevels)).toHaveLength(48);
    const found = evaluate({ doc, rig: wholeMill, otherRigs: [] }).filter(({ severity }) => severity === "problem");
    expect(found.map(({ message }) => message)).toEqual([]);
  });

  it("inputs, microphones, 48 V and players are taken where they are written", () => {
    const [row] = rowsOf(plan("9 Fiddle - clip, +48, Wynn Solari"));
    expect(row).toMatchObject({
      name: "Fiddle",
      inputs: ["9"],
      proposed: false,
      microphone: "clip",
      phantom: true,
      player: "Wynn Solari",
    });
  });

  it("what can't be known is asked, and an input that the rig lacks is told", () => {
    expect(rowsOf(plan("99 Kick"))[0]?.asks).toBe("Whole mill has no input 99.");
    expect(rowsOf(plan("Cimbalom ribbon"))[0]).toMatchObject({
      phantom: false,
      asks: "which ribbon? phantom stays off",
    });
    expect(rowsOf(plan("Cimbalom passive ribbon"))[0]?.asks).toBeNull();
  });

  it("other kinds of channel are made by their word", () => {
    const of = plan("Kick, bus Drums, return Plate\ninstrument Pads 4 outs\nreference Guide");
    expect(of.others.map(({ kind, name, outputs }) => `${kind} ${name} ${outputs}`)).toEqual([
      "bus Drums 1",
      "return Plate 1",
      "instrument Pads 4",
      "reference Guide 1",
    ]);
    const kinds = entriesOf(made(of).channels).map(({ kind, name }) => `${kind} ${name}`);
    expect(kinds).toEqual(
      expect.arrayContaining(["bus Drums", "return Plate", "instrument Pads", "reference Guide", "track Pads 4"]),
    );
  });

  it("rows out of a spreadsheet are read as lists are", () => {
    expect(
      rowsOf(plan("1\tKick\tdyn\n2\tSnare\tdyn\n3\tVox\tLDC")).map(
        ({ name, inputs, phantom }) => `${name} ${inputs} ${phantom}`,
      ),
    ).toEqual(["Kick 1 false", "Snare 2 false", "Voice 3 true"]);
  });

  it("so many from an input still are so many from an input", () => {
    const of = plan("8 mono from 3");
    expect([of.headline, of.says]).toEqual(["8 tracks", "8 mono tracks on inputs 3 to 10"]);
  });
});

describe("what is asked where tracks are written", () => {
  it("is what has an answer there: outputs of a pasted list are told as left out, and nothing is asked of them", () => {
    const of = plan("1\tKick\tdyn\n2\tSnare\tdyn\nOutputs\t\t\n1\tWedge 1\t\n");
    expect(of.questions).toEqual([]);
    expect(of.told.join("\n")).toContain("“Outputs”: 1 row is no input and left out.");
  });

  it("an input to begin from that the rig lacks is said, and nothing is planned", () => {
    const { planned } = plan("Kick", { from: "Z9" });
    expect(planned).toEqual({ ok: false, message: "Whole mill has no input Z9." });
    expect(rowsOf(plan("Kick, Snare", { from: "5" })).map(({ inputs }) => inputs)).toEqual([["5"], ["6"]]);
  });

  it("a bus takes the dye of the family that its name tells", () => {
    const buses = entriesOf(made(plan("bus Drums, bus Wibble")).channels).flatMap((channel) =>
      channel.kind === "bus" ? [[channel.name, channel.colour]] : [],
    );
    expect(buses).toEqual([
      ["Drums", "madder"],
      ["Wibble", null],
    ]);
  });
});

describe("what is changed in the preview", () => {
  it("holds for its row, whatever else is typed before it", () => {
    const changes = { "vox#1": { family: "speech", input: "E8", microphone: "moving coil" } };
    for (const text of ["Vox", "Kick, Vox"])
      expect(rowsOf(plan(text, { changes })).find(({ name }) => name === "Voice")).toMatchObject({
        family: "speech",
        inputs: ["E8"],
        microphone: "moving coil",
        phantom: false,
        usual: false,
      });
  });

  it("an input that is typed is kept free of what is proposed for others", () => {
    const rows = rowsOf(plan("Kick, Snare, Vox", { changes: { "vox#1": { input: "1" } } }));
    expect(rows.map(({ name, inputs }) => `${name} ${inputs}`)).toEqual(["Kick 2", "Snare 3", "Voice 1"]);
  });

  it("mono or stereo, and the folder", () => {
    const [row] = rowsOf(plan("Piano", { changes: { "piano#1": { layout: "stereo", folder: "Grand" } } }));
    expect(row).toMatchObject({ inputs: ["1", "2"], folder: "Grand" });
  });
});

describe("what the switches and the studio say", () => {
  it("without folders, buses, usual microphones and full names there are none", () => {
    const switches = { ...USUAL_SWITCHES, folders: false, buses: false, microphones: false, inFull: false };
    const of = plan("Sn T/B, OH", { switches });
    expect([names(of), of.groups.map(({ says }) => says)]).toEqual([["Sn T", "Sn B", "OH"], ["in no folder"]]);
    expect(rowsOf(of).map(({ microphone }) => microphone)).toEqual(["", "", ""]);
  });

  it("a folder that is there takes its own in, and no second is made", () => {
    const doc = made(plan("Kick"));
    const of = plan("Snare", { doc, ids: otherIds() });
    expect(of.groups[0]?.says).toBe("into the folder Percussion");
    const both = made(of, doc);
    expect(entriesOf(both.folders)).toHaveLength(1);
    expect(new Set(tracksOf(both).map(({ output }) => JSON.stringify(output))).size).toBe(1);
  });

  it("families have folders, buses, places, sends of the studio's own", () => {
    const studio = newStudio("Mill");
    const own: Studio = {
      ...studio,
      families: {
        ...studio.families,
        voices: { ...studio.families.voices, folder: "Vocals", bus: "Vox bus", place: 1, sendTo: "Plate", sendDb: -9 },
        percussion: { ...studio.families.percussion, folder: "Drums", place: 2 },
      },
    };
    const of = plan("Kick, Lead vox", { studio: own, switches: { ...USUAL_SWITCHES, chains: true } });
    expect(of.groups.map(({ says }) => says)).toEqual(["folder Vocals, bus Vox bus", "folder and bus Drums"]);
    const doc = made(of);
    const plate = entriesOf(doc.channels).find(({ name }) => name === "Plate");
    expect([plate?.kind, entriesOf(doc.sends)]).toMatchObject(["return", [{ toId: plate?.id, levelDb: -9 }]]);
    expect(entriesOf(doc.channels).flatMap(({ kind, name }) => (kind === "bus" ? [name] : []))).toEqual(
      expect.arrayContaining(["Vox bus", "Drums"]),
    );
  });

  it("two families with one bus share it, and one that is there already is taken", () => {
    const studio = newStudio("Mill");
    const { voices, speech } = studio.families;
    const families = { ...studio.families, voices: { ...voices, bus: "Talk" }, speech: { ...speech, bus: "Talk" } };
    const doc = made(plan("Lead vox, Narrator", { studio: { ...studio, families } }));
    const talk = entriesOf(doc.channels).filter(({ name }) => name === "Talk");
    expect(talk).toHaveLength(1);
    const later = plan("bus Talk");
    const there = made(later);
    const of = plan("Lead vox", { doc: there, studio: { ...studio, families }, ids: otherIds() });
    const both = made(of, there);
    expect(entriesOf(both.channels).filter(({ name }) => name === "Talk")).toHaveLength(1);
    for (const each of [doc, both])
      for (const track of tracksOf(each))
        expect(track.output).toMatchObject({
          channelId: entriesOf(each.channels).find(({ name }) => name === "Talk")?.id,
        });
  });

  it("a name that the studio was told the family of is known", () => {
    const studio = newStudio("Mill");
    const words = { w: { id: "w" as never, word: "Wibble", family: "keys" as const } };
    expect(rowsOf(plan("Wibble 2", { studio: { ...studio, taughtWords: words as never } }))[0]?.family).toBe("keys");
  });
});

describe("inputs that are proposed", () => {
  it("never put 48 V on a bank with a passive ribbon, never a microphone on a line input, never a loop-back", () => {
    const doc = made(plan("Cimbalom passive ribbon, Kick, Vox LDC, Synth line, OH L/R SDC, Fiddle SDC, Choir x8 SDC"));
    const found = evaluate({ doc, rig: wholeMill, otherRigs: [] }).filter(({ severity }) => severity === "problem");
    expect(found.map(({ message }) => message)).toEqual([]);
    const inputs = tracksOf(doc).flatMap((track) =>
      linesOfTrack(doc, track).map(({ portId }) => rigInputOf(wholeMill, portId)),
    );
    expect(inputs.every((input) => !input?.loopBack && !input?.occupied)).toBe(true);
  });

  it("run out with a word to each that finds none", () => {
    const of = plan("Vox x40 LDC");
    expect(rowsOf(of).filter(({ asks }) => asks === "no free input fits").length).toBe(
      of.trackIds.length - rowsOf(of).filter(({ inputs }) => inputs.length).length,
    );
    expect(of.says).toContain("without an input, as none fits");
  });
});

describe("what can't be done", () => {
  it.each([
    ["", "Type names"],
    ["x".repeat(60_001), "too long"],
    ["Choir x64\n".repeat(9), "too many at once"],
    ["???", "Nothing here names a track."],
  ])("%# says why", (text, says) => {
    const { planned } = plan(text);
    expect(planned.ok ? "" : planned.message).toContain(says);
  });
});
