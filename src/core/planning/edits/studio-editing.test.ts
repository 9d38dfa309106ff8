import { describe, expect, it } from "vitest";
import { demoStudio } from "../../demo/studio";
import { EMPTY_HISTORY } from "../../history/history";
import { COLOUR_NAMES, COLOURS, colourFault, colourHex, contrast, THREAD_GROUNDS } from "../../model/colours";
import { FAMILIES, FAMILY_DEFAULTS } from "../../model/families";
import { colourName, DEFAULT_TARGETS_MS, newStudio, type Studio } from "../../model/studio";
import { studioFaults } from "../../model/studio-schema";
import { brokenStudio } from "../../testing/broken-studio";
import { undoingEdits } from "../../testing/undoing";
import { type StudioEdit, studioEditing } from "./studio-editing";

const heather = { id: "own-heather", name: "heather", cloth: "#7a4f8f", night: "#c79adf" } as const;
const done = (studio: Studio, ...edits: readonly StudioEdit[]): Studio => {
  const applied = studioEditing.applyAll(studio, edits);
  if (!applied.ok) throw new Error(applied.refusal.message);
  expect([brokenStudio(applied.doc), studioFaults(applied.doc)]).toEqual([[], []]);
  return applied.doc;
};
const refusal = (command: unknown, studio = demoStudio) => {
  const applied = studioEditing.apply(studio, command as StudioEdit);
  return applied.ok ? "" : applied.refusal.message;
};

describe("a studio", () => {
  it("of which nothing is known has the defaults of the house", () => {
    const studio = newStudio("A mill");
    expect([brokenStudio(studio), studioFaults(studio)]).toEqual([[], []]);
    for (const family of FAMILIES)
      expect(studio.families[family]).toMatchObject({
        colour: FAMILY_DEFAULTS[family].colour,
        icon: FAMILY_DEFAULTS[family].icon,
      });
    expect(Object.values(studio.targets).map((target) => target.ms)).toEqual(Object.values(DEFAULT_TARGETS_MS));
    expect(Object.values(studio.kinds).every((kind) => kind.sampleRateHz === 48000 && kind.bitDepth === 24)).toBe(true);
  });

  it("of the demo keeps the rules", () =>
    expect([brokenStudio(demoStudio), studioFaults(demoStudio)]).toEqual([[], []]));

  it("takes rooms, people and dyes, and lets them go", () => {
    const studio = done(demoStudio, {
      kind: "entries.add",
      entries: {
        rooms: [{ id: "granary", name: "Granary", note: "", volumeM3: null, decayS: null } as never],
        colours: [heather],
      },
    });
    expect([studio.rooms["granary" as never], studio.colours["own-heather"]]).toMatchObject([
      { name: "Granary" },
      heather,
    ]);
    expect(done(studio, { kind: "entries.remove", table: "rooms", ids: ["granary" as never] }).rooms).toEqual(
      demoStudio.rooms,
    );
  });

  it("a family whose own dye is taken away falls back to one of the house", () => {
    const coloured = done(
      demoStudio,
      { kind: "entries.add", entries: { colours: [heather] } },
      { kind: "entries.set", table: "families", ids: ["keys"], set: { colour: "own-heather" } },
    );
    expect(coloured.families.keys.colour).toBe("own-heather");
    expect(
      done(coloured, { kind: "entries.remove", table: "colours", ids: ["own-heather"] }).families.keys.colour,
    ).toBe("slate");
  });

  it("undone gives back the very studio", () => {
    const { perform, undo } = undoingEdits(studioEditing);
    const step = perform(demoStudio, EMPTY_HISTORY, {
      edits: [
        { kind: "entries.add", entries: { colours: [heather] } },
        { kind: "settings.set", set: { namePattern: "{player}" } },
      ],
    });
    if (!step.ok) throw new Error(step.refusal.message);
    expect(undo(step.doc, step.history)).toMatchObject({ ok: true, doc: demoStudio });
  });

  it.each([
    [{ kind: "entries.set", table: "people", ids: ["tom"], set: { name: "pell marrow" } }, "two people called"],
    [{ kind: "entries.set", table: "rooms", ids: ["loft"], set: { name: "Booth" } }, "two rooms called Booth"],
    [{ kind: "entries.set", table: "rooms", ids: ["loft"], set: { name: "" } }, "A room needs a name"],
    [{ kind: "entries.set", table: "targets", ids: ["voice"], set: { ms: 0 } }, "does not fit at ms"],
    [
      { kind: "entries.set", table: "families", ids: ["keys"], set: { colour: "own-nobody" } },
      "keys has a dye that is not there",
    ],
    [{ kind: "entries.add", entries: { colours: [{ ...heather, cloth: "#fff0c0" }] } }, "a thread needs 3 : 1"],
    [{ kind: "entries.add", entries: { colours: [{ ...heather, id: "madder" }] } }, "does not fit"],
    [{ kind: "settings.set", set: { namePattern: "" } }, "does not fit"],
    [{ kind: "settings.set", set: { id: "x" } }, "has no field id"],
    [{ kind: "entries.remove", table: "people", ids: [] }, "No person was named"],
    [{ kind: "entries.add", entries: {} }, "nothing to add"],
  ])("refuses %j", (command, words) => expect(refusal(command)).toContain(words));

  it.each([
    [{ kind: "entries.set", table: "people", ids: ["tom"], set: { does: "runner" } }, "Set the part of Tom Hallgarth"],
    [
      { kind: "entries.set", table: "families", ids: ["low-strings"], set: { colour: "madder" } },
      "Set the dye of low strings",
    ],
    [{ kind: "entries.set", table: "kinds", ids: ["solo"], set: { sampleRateHz: 96000 } }, "Set the rate of solo"],
    [{ kind: "entries.remove", table: "rooms", ids: ["loft"] }, "Remove Loft"],
    [{ kind: "settings.set", set: { namePattern: "{player}" } }, "Set the naming pattern"],
    [{ kind: "document.rename", name: "The mill" }, "Rename the studio to The mill"],
  ])("%j has a name a person would use", (command, name) => {
    const applied = studioEditing.apply(demoStudio, command as StudioEdit);
    expect(applied.ok && applied.name).toBe(name);
  });
});

describe("colours", () => {
  it("contrast is 21 from black to white, 1 with itself, and the same both ways", () => {
    expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 10);
    expect(contrast("#ca4137", "#ca4137")).toBe(1);
    expect(contrast("#123456", "#fedcba")).toBe(contrast("#fedcba", "#123456"));
  });

  it("every dye of the house has 3 : 1 or more against ground and raised, on both surfaces", () => {
    for (const colour of COLOUR_NAMES)
      for (const surface of ["cloth", "night"] as const) {
        expect(colourFault(COLOURS[colour][surface], surface)).toBeNull();
        for (const ground of THREAD_GROUNDS[surface])
          expect(contrast(COLOURS[colour][surface], ground)).toBeGreaterThanOrEqual(3);
      }
  });

  it.each([
    ["#fff0c0", "cloth", "darker"],
    ["#202020", "night", "lighter"],
    ["red", "cloth", "six digits"],
  ] as const)("%s can't be one on %s: make it %s", (hex, surface, words) =>
    expect(colourFault(hex, surface)).toContain(words),
  );

  it("an own one is found by its id; one of another studio is shown undyed and said to be so", () => {
    expect([
      colourHex("own-heather", "night", [heather]),
      colourHex("own-heather", "cloth"),
      colourHex("madder", "cloth"),
    ]).toEqual([heather.night, COLOURS.slate.cloth, COLOURS.madder.cloth]);
    expect([colourName("own-heather", [heather]), colourName("own-heather"), colourName("weld")]).toEqual([
      "heather",
      "a dye of another studio",
      "weld",
    ]);
  });
});
