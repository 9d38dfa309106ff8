import { describe, expect, it } from "vitest";
import { wholeMill } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import type { Field } from "@/core/model/describe/fields";
import type { TableDescription } from "@/core/model/describe/table";
import { RIG } from "@/core/model/rig";
import { STUDIO } from "@/core/model/studio";
import { describedColumns } from "./described-columns";

type Row = Readonly<Record<string, unknown>>;

const shown = [
  ...Object.entries(RIG.tables).map(([name, table]) => ["rig", name, table, wholeMill] as const),
  ...Object.entries(STUDIO.tables).map(([name, table]) => ["studio", name, table, demoStudio] as const),
].filter(([, , table]) => Object.values(table.fields as Readonly<Record<string, Field>>).some(({ cell }) => cell));

describe("the columns of rig and studio, by what their descriptions say", () => {
  it("are those of nine tables", () => {
    expect(shown.map(([, name]) => name)).toEqual([
      "microphones",
      "feeds",
      "loops",
      "processors",
      "rooms",
      "people",
      "kinds",
      "targets",
      "chains",
    ]);
  });

  it.each(shown)("%s %s: what a cell shows can be typed again, and changes nothing", (_doc, name, table, doc) => {
    const columns = describedColumns<Row>(table as unknown as TableDescription);
    const rows = Object.values((doc as unknown as Readonly<Record<string, Readonly<Record<string, Row>>>>)[name] ?? {});
    for (const row of rows)
      for (const { id, text, write } of columns) {
        if (Array.isArray(row[id])) continue;
        expect(write?.(text(row), row), `${id} of ${String(row.id)}`).toEqual({ [id]: row[id] });
      }
  });

  it("say what is asked for where something else was typed", () => {
    const columns = describedColumns<Row>(RIG.tables.microphones as unknown as TableDescription);
    const typed = (id: string, text: string) => columns.find((column) => column.id === id)?.write?.(text, {});
    expect(typed("count", "many")).toBe("Type how many there are, from 1 on.");
    expect(typed("count", "1.5")).toBe("Type how many there are, from 1 on.");
    expect(typed("sensitivityMvPerPa", "loud")).toBe("Type the sensitivity in mV/Pa, from 0.001 to 1000, or nothing.");
    expect(typed("sensitivityMvPerPa", "")).toEqual({ sensitivityMvPerPa: null });
    expect(typed("name", "  ")).toBe("A microphone needs a name.");
    expect(typed("name", " Ribbon ")).toEqual({ name: "Ribbon" });
  });
});
