import { describe, expect, it } from "vitest";
import { DEMO_RIGS } from "../demo/rigs";
import { demoTemplates } from "../demo/templates";
import type { Field, Fields } from "../model/describe/fields";
import { allFieldsOf } from "../model/describe/table";
import { tracksOf } from "../model/read-template";
import { TEMPLATE, type Template } from "../model/template";
import { apply } from "../planning/edits/template-editing";
import { changesBetween } from "./changes-between";
import { valueWords, type WordsAround } from "./value-words";
import { told } from "./words";

const around: WordsAround = {
  entry: () => ({ name: "Plate" }),
  called: () => "Plate",
  port: () => "E5",
  rig: () => "Whole mill",
};

/** Some values that a field can have. */
const valuesOf = (field: Field): readonly unknown[] => {
  if (field.samples) return field.samples;
  if (field.options) return field.options;
  if (field.kind === "flag") return [true, false];
  if (field.kind === "number" || field.kind === "decibels")
    return [field.range?.min, field.range?.max, ...(field.initial === null ? [null] : [])];
  if (field.kind === "reference")
    return Array.isArray(field.initial) ? [[], ["a", "b"]] : ["a", ...(field.initial === null ? [null] : [])];
  return field.kind === "text" ? ["", "Fiddle"] : ["elsewhere", ...(field.initial === null ? [null] : [])];
};

const everyField: readonly (readonly [string, string, Field])[] = [
  ...Object.entries(TEMPLATE.header as Fields).flatMap(([key, field]) =>
    field.fields
      ? Object.entries(field.fields).map(([part, inner]) => [`document.${key}.${part}`, part, inner] as const)
      : [[`document.${key}`, key, field] as const],
  ),
  ...Object.entries(TEMPLATE.tables).flatMap(([table, of]) =>
    Object.entries(allFieldsOf(of)).map(([key, field]) => [`${table}.${key}`, key, field] as const),
  ),
];

describe("the words of every field", () => {
  it.each(everyField)("%s", (_place, key, field) => {
    expect(field.word).toMatch(/\w/);
    for (const value of valuesOf(field)) {
      const words = valueWords({ key, field, value }, around);
      expect(words, JSON.stringify(value)).toMatch(/\S/);
      expect(words).not.toMatch(/object|undefined|NaN|\belsewhere\b|^-\d/);
    }
  });
});

describe("a difference in words", () => {
  const nine = demoTemplates().find(({ name }) => name === "The Tidewrack Nine") ?? expect.unreachable();
  const track = (name: string) => {
    const found = tracksOf(nine).find((one) => one.name === name);
    return found ?? expect.unreachable();
  };
  const lineOf = (name: string): string => {
    const { input } = track(name);
    return input.kind === "line" ? input.lineId : expect.unreachable();
  };
  const sumNamed = (name: string): string =>
    Object.values(nine.channels).find((one) => one.name === name)?.id ?? expect.unreachable();
  const once = (...edits: readonly object[]): Template =>
    edits.reduce<Template>((at, edit) => {
      const done = apply(at, edit as never);
      if (!done.ok) throw new Error(done.refusal.message);
      return done.doc;
    }, nine);
  const words = (there: Template, here = nine) =>
    told(changesBetween(TEMPLATE, { here, there }), { here, there, rigs: DEMO_RIGS }).map(
      ({ group, who, words: said }) => `${group} · ${who}: ${said}`,
    );
  const set = (table: string, id: string, to: object) => ({ kind: "entries.set", table, ids: [id], set: to });

  it("says what was patched elsewhere, by the numbers on the devices, and through which preamp", () => {
    const patched = (portId: string) => ({
      kind: "lines.patch",
      inputs: [{ lineId: lineOf("Fiddle"), portId, requestedInput: null }],
    });
    expect(words(once(patched("eight:in:5"), set("lines", lineOf("Lead voice"), { gainDb: 36 })))).toEqual([
      "lines · Fiddle: input 9 through Thistle Four 1 → E5",
      "lines · Lead voice: gain none → 36 dB",
    ]);
  });

  it("says levels of sends and cues as numbers, and whose", () => {
    const send = Object.values(nine.sends)[0] ?? expect.unreachable();
    const level = Object.values(nine.cueLevels)[0] ?? expect.unreachable();
    const said = words(once(set("sends", send.id, { levelDb: -9 }), set("cueLevels", level.id, { levelDb: -3 })));
    const name = (id: string) => nine.channels[id as never]?.name;
    expect(said).toEqual([
      `buses · ${name(send.fromId)}: ${name(send.toId)} −12 → −9 dB`,
      expect.stringMatching(
        new RegExp(`^cues · ${nine.cues[level.cueId]?.name}: ${name(level.sourceId)} \\S+ → −3 dB$`),
      ),
    ]);
  });

  it("says what comes and goes with what, and where something stands now", () => {
    const gone = once({ kind: "entries.remove", table: "channels", ids: [track("Fiddle").id] });
    expect(words(gone)[0]).toMatch(/^tracks · Fiddle: gone with \d+ /);
    expect(words(nine, gone)[0]).toMatch(/^tracks · Fiddle: new, input 9 through Thistle Four 1 with .*1 line/);
    const moved = once({
      kind: "entries.move",
      table: "channels",
      ids: [track("Snare").id],
      parent: track("Snare").folderId,
      before: track("Frame drum").id,
    });
    expect(words(moved)).toEqual(["tracks · Snare: before Frame drum"]);
    expect(sumNamed("Main")).toBe("main");
  });

  it("says what the document itself says", () => {
    expect(words(once({ kind: "settings.set", set: { format: { sampleRateHz: 96000 }, tags: ["loud"] } }))).toEqual([
      "format · Template: rate 48000 → 96000 Hz",
      "format · Template: tags none → loud",
    ]);
  });
});
