import { describe, expect, it } from "vitest";
import { wholeMill } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import type { Field, Fields } from "@/core/model/describe/fields";
import type { TableDescription } from "@/core/model/describe/table";
import { RIG, type Rig } from "@/core/model/rig";
import { STUDIO } from "@/core/model/studio";
import { deviceColumns, linkColumns, midiColumns, mixerColumns, TIMING_COLUMNS } from "../rig/device-columns";
import { portColumns } from "../rig/port-columns";
import { describedColumns } from "./described-columns";
import type { PartColumn } from "./part-table";

type Row = Readonly<Record<string, unknown>>;

const rowsOf = (rig: Rig, direction: "in" | "out") =>
  Object.values(rig.ports)
    .filter((port) => port.direction === direction)
    .map((port) => ({ id: port.id, port, label: "", joined: "" }));

const shown = [
  ...Object.entries(RIG.tables).map(([name, table]) => ["rig", name, table, wholeMill] as const),
  ...Object.entries(STUDIO.tables).map(([name, table]) => ["studio", name, table, demoStudio] as const),
].filter(([, , table]) => Object.values(table.fields as Readonly<Record<string, Field>>).some(({ cell }) => cell));

describe("the columns of rig and studio, by what their descriptions say", () => {
  it("are those of nineteen tables", () => {
    expect(shown.map(([, name]) => name)).toEqual([
      "devices",
      "ports",
      "links",
      "microphones",
      "timing",
      "feeds",
      "loops",
      "mixers",
      "midiPorts",
      "processors",
      "rooms",
      "people",
      "colours",
      "families",
      "kinds",
      "targets",
      "chains",
      "taughtWords",
      "listHabits",
    ]);
  });

  it.each(shown)("%s %s: what a cell shows can be typed again, and changes nothing", (_doc, name, table, doc) => {
    const columns = describedColumns<Row>(table as unknown as TableDescription);
    const rows = Object.values((doc as unknown as Readonly<Record<string, Readonly<Record<string, Row>>>>)[name] ?? {});
    for (const row of rows)
      for (const { id, text, write } of columns) {
        // What is no single word or number is written by the table that shows it, below.
        if (["closed", "reference"].includes((table.fields as Fields)[id]?.kind ?? "")) continue;
        expect(write?.(text(row), row), `${id} of ${String(row.id)}`).toEqual({ [id]: row[id] });
      }
  });

  const rig = wholeMill;
  it.each<readonly [string, readonly PartColumn<never>[], readonly object[]]>([
    ["devices", deviceColumns(rig), Object.values(rig.devices)],
    ["sockets", linkColumns(rig, () => true), Object.values(rig.links)],
    ["timing", TIMING_COLUMNS, Object.values(rig.timing)],
    ["mixers", mixerColumns(rig), Object.values(rig.mixers)],
    ["MIDI", midiColumns(rig), Object.values(rig.midiPorts)],
    ["inputs", portColumns(rig, "in", () => true), rowsOf(rig, "in")],
    ["outputs", portColumns(rig, "out", () => true), rowsOf(rig, "out")],
  ])("what %s show can be typed again, and changes nothing", (_what, columns, rows) => {
    expect(rows.length).toBeGreaterThan(0);
    for (const row of rows)
      for (const { id, text, write } of columns) {
        const entry = ("port" in row ? row.port : row) as Row;
        const typed = write?.(text(row as never), row as never);
        if (typed && id !== "fromDeviceId")
          expect(typed, `${id} of ${String(entry.id)}`).toMatchObject({ [id]: entry[id] });
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
