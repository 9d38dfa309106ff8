import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "@/core/demo/rigs";
import { findColumns } from "@/core/formats/input-list/columns";
import { MEANING_NAMES, MEANINGS } from "@/core/formats/input-list/meanings";
import { pasteColumns } from "@/core/formats/input-list/paste-columns";
import { planImport } from "@/core/formats/input-list/plan-import";
import { readInputList } from "@/core/formats/input-list/read-input-list";
import { writeInputList } from "@/core/formats/input-list/write-input-list";
import { patchingSheet } from "@/core/layout/patching-sheet";
import { searchText } from "@/core/layout/search-text";
import { checkerOf } from "@/core/model/checker";
import type { Field, Fields } from "@/core/model/describe/fields";
import {
  changeSchema,
  type DocumentDescription,
  documentSchema,
  entrySchema,
  fieldsOf,
  newEntrySchema,
} from "@/core/model/describe/table";
import { hashOf } from "@/core/model/hash";
import { sequentialIds } from "@/core/model/ids";
import { RIG } from "@/core/model/rig";
import { STUDIO } from "@/core/model/studio";
import type { Track } from "@/core/model/tables/channels";
import { LINES, type Line } from "@/core/model/tables/lines";
import { TEMPLATE, type Template } from "@/core/model/template";
import { apply, applyAll } from "@/core/planning/edits/template-editing";
import { writeCell } from "@/core/planning/write-cell";
import { cellText } from "@/core/queries/cells";
import {
  CELL_COLUMNS,
  canFill,
  fieldLabel,
  GRID_COLUMNS,
  INSPECTED_COLUMNS,
  LIST_COLUMNS,
} from "@/core/queries/columns";
import { aTemplate } from "@/core/testing/a-template";
import { sampleOf } from "@/core/testing/random-verbs";
import { forClients, openApi } from "@/server/http/openapi";
import { parseCommands } from "./validate";

const OPEN_API = JSON.stringify(openApi());
const DOCUMENTS: readonly DocumentDescription[] = [TEMPLATE, RIG, STUDIO];
const TABLES = DOCUMENTS.flatMap((description) =>
  Object.entries(description.tables).map(([name, table]) => ({ description, name, table })),
);
const FIELDS = TABLES.flatMap(({ description, name, table }) => {
  const all: Readonly<Record<string, Field>> = {
    ...table.fields,
    ...Object.assign({}, ...Object.values(table.kinds ?? {})),
  };
  return Object.entries(all).map(([key, field]) => ({ description, name, table, key, field }));
});

/** A sample that fits by itself; references to anything there. */
const sampleThatFits = (field: Field): unknown => {
  let drawn = 0;
  const chance = () => (drawn++ * 0.618034) % 1;
  for (let n = 0; n < 200; n++) {
    const value = sampleOf(chance, field, { [field.references?.[0]?.to ?? ""]: { there: {} } });
    if (checkerOf(field.schema).fits(value)) return value;
  }
  return undefined;
};

describe("every table is whole", () => {
  it.each(TABLES)("$name of a $description.what", ({ description, name, table }) => {
    expect(table.one.length * table.many.length * table.most).toBeGreaterThan(0);
    for (const schema of [entrySchema(table), newEntrySchema(table), changeSchema(table)])
      expect(() => checkerOf(schema)).not.toThrow();
    expect(JSON.stringify(documentSchema(description))).toContain(JSON.stringify(entrySchema(table)));
    expect(OPEN_API).toContain(JSON.stringify(forClients(newEntrySchema(table))));
    if (table.alongside) expect(Object.keys(description.tables)).toContain(table.alongside);
    if (table.order?.within)
      expect(Object.keys(fieldsOf(table, { kind: table.order.kinds?.[0] }))).toContain(table.order.within);
    if (table.order) expect(JSON.stringify(entrySchema(table))).toContain('"order"');
    expect(JSON.stringify(newEntrySchema(table))).not.toContain('"order":');
    expect(parseCommands(description.what as "template", [{ kind: "remove", table: name, ids: ["x"] }]).ok).toBe(true);
  });
});

describe("every field is whole", () => {
  it.each(FIELDS)("$key of $name of a $description.what", ({ description, name, table, key, field }) => {
    const what = description.what as "template";
    expect(field.word.length).toBeGreaterThan(2);
    const value = sampleThatFits(field);
    expect(value, "a value for tests").not.toBeUndefined();
    const id = "enum" in table.id ? (table.id.enum as readonly string[])[0] : "pattern" in table.id ? "own-x" : "x";
    const settable = key !== table.order?.within;
    expect(
      parseCommands(what, [{ kind: "set", table: name, values: { [id ?? "x"]: { [key]: value } } }]).ok,
      "the service",
    ).toBe(settable);
    expect(
      parseCommands(what, [
        { kind: "set", table: name, values: { [id ?? "x"]: { [key]: { nothing: "of the kind" } } } },
      ]).ok,
      "the service",
    ).toBe(false);
    for (const reference of field.references ?? []) {
      expect(Object.keys(description.tables), "a reference").toContain(reference.to);
      expect(reference.dangling, "what is said of a dangling one").toBeTruthy();
      for (const kind of reference.kinds ?? [])
        expect(Object.keys(description.tables[reference.to]?.kinds ?? {})).toContain(kind);
    }
    if (field.column) expect(GRID_COLUMNS.map((column) => column.id)).toContain(field.column.id);
    if (field.list) expect(LIST_COLUMNS.map((column) => column.meaning)).toContain(field.list.meaning);
  });

  it("columns have places and names of their own, in grid and inspector", () => {
    expect(new Set(CELL_COLUMNS).size).toBe(CELL_COLUMNS.length);
    expect(new Set(GRID_COLUMNS.map((column) => column.seat)).size).toBe(GRID_COLUMNS.length);
    expect(new Set(INSPECTED_COLUMNS.map(fieldLabel)).size).toBe(INSPECTED_COLUMNS.length);
    expect(INSPECTED_COLUMNS.length).toBe(GRID_COLUMNS.length - 1);
  });

  it("what is typed goes to all selected rows, but for the name, which each has of its own", () =>
    expect(GRID_COLUMNS.filter(({ own }) => own).map(({ id }) => id)).toEqual(["name"]));

  it("each meaning of a list has words that no other has, its own heading among them", () => {
    const words = LIST_COLUMNS.flatMap((column) => column.words.split(", "));
    expect(new Set(words).size).toBe(words.length);
    for (const { heading, meaning } of LIST_COLUMNS)
      expect(findColumns([heading], [], { people: new Set() }).meanings).toEqual([meaning]);
    expect(MEANINGS.every((meaning) => MEANING_NAMES[meaning])).toBe(true);
  });
});

const doc = aTemplate().track("Fiddle", { input: "9" }).track("Snare", { input: "1" }).build();
const lineOf = (of: Template): Line => Object.values(of.lines)[0] as Line;

describe("every field of a line on the patching sheet", () => {
  const fields = Object.entries(LINES.fields as Fields);

  it.each(fields)("%s: its description says where, or that it is nowhere", (_key, field) =>
    expect(field.sheet).toBeDefined(),
  );

  it.each(fields.filter(([, { sheet }]) => sheet === "settings" || sheet === "note"))(
    "%s stands where its description says",
    (key, field) => {
      const value = field.kind === "flag" ? true : field.kind === "decibels" ? 12 : "by the window";
      const written = {
        ...doc,
        lines: { ...doc.lines, [lineOf(doc).id]: { ...lineOf(doc), [key]: value } },
      } as Template;
      const row = (of: Template) =>
        patchingSheet(of, wheelhouseCart)
          .sections.flatMap(({ rows }) => rows)
          .find((one) => one.key === lineOf(doc).id) ?? expect.unreachable();
      const part = field.sheet as "settings" | "note";
      expect(row(written)[part]).not.toBe(row(doc)[part]);
      expect(row(written)[part]).toContain(
        field.kind === "flag"
          ? (field.switched?.noted ?? field.switched?.said?.on ?? "?")
          : field.kind === "decibels"
            ? "12"
            : value,
      );
    },
  );
});

describe("every switch in the grid", () => {
  it.each(GRID_COLUMNS.filter(({ field }) => field?.kind === "flag"))(
    "$id has a mark for its cell and words for on and off",
    ({ field }) => {
      const { mark, said } = field?.switched ?? {};
      expect([mark, said?.on, said?.off].every((words) => words)).toBe(true);
      expect(said?.on).not.toBe(said?.off);
    },
  );
});

describe("every field of a line that has a column", () => {
  const columns = GRID_COLUMNS.filter(({ of }) => of === "line");
  const typed = (column: (typeof columns)[number]): string =>
    column.field?.kind === "flag"
      ? (column.field.switched?.on ?? "")
      : column.field?.kind === "decibels"
        ? "12"
        : column.field?.kind === "choice"
          ? String(column.field.options?.[0])
          : "Zither";

  it.each(columns)(
    "$id: what is typed is kept, shown, searched, filled down, pasted, written in lists and read back",
    (column) => {
      const key = column.key as keyof Line;
      const text = typed(column);
      const plan = writeCell(doc, wheelhouseCart, {
        trackIds: ["track-1" as never],
        column: column.id,
        text,
        ids: sequentialIds(),
      });
      const written = applyAll(doc, plan.ok ? plan.gesture.edits : []);
      const after = written.ok ? written.doc : expect.unreachable();
      expect(lineOf(after)[key]).not.toEqual(lineOf(doc)[key]);
      expect(
        cellText(after, wheelhouseCart, { track: after.channels["track-1" as never] as Track, column: column.id }),
      ).toBe(text);
      if (column.field?.searched) expect(searchText(after)).toContain("zither");
      expect(canFill(column.id, "copied")).toBe(true);
      expect(hashOf(TEMPLATE, after)).not.toBe(hashOf(TEMPLATE, doc));
      const csv = writeInputList(after, wheelhouseCart);
      expect(csv.split("\n")[0]?.split(",")).toContain(column.field?.list?.heading);
      const list = readInputList(csv);
      const back = list.ok
        ? applyAll(aTemplate().build(), planImport(list.list, wheelhouseCart, sequentialIds()).edits)
        : expect.unreachable();
      expect(back.ok && lineOf(back.doc)[key]).toEqual(lineOf(after)[key]);
      expect(
        pasteColumns([
          [column.field?.list?.heading ?? "", "Track"],
          [text, "X"],
        ]).columns,
      ).toContain(column.id);
    },
  );

  it("is named in the edit", () => {
    for (const { key, field } of columns) {
      const edit = apply(doc, {
        kind: "entries.set",
        table: "lines",
        ids: [lineOf(doc).id],
        set: {
          [key ?? ""]:
            field?.kind === "flag"
              ? true
              : field?.kind === "decibels"
                ? 12
                : field?.kind === "closed"
                  ? null
                  : "Zither",
        },
      });
      expect(edit.ok && edit.name).toMatch(/Fiddle/);
    }
  });
});
