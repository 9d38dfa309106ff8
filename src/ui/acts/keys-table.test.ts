import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { CHORDS } from "./chords";

/** The table of all keys, from the register. */
const table = (): string => {
  const rows = Object.values(CHORDS).map(({ key, means }) => [`\`${key}\``, means] as const);
  const [keys, means] = [0, 1].map((at) => Math.max(...rows.map((row) => (row[at] ?? "").length)));
  const line = (a: string, b: string) => `| ${a.padEnd(keys ?? 0)} | ${b.padEnd(means ?? 0)} |`;
  return [
    line("key", "means, on every screen that has it"),
    line("-".repeat(keys ?? 0), "-".repeat(means ?? 0)),
    ...rows.map(([key, does]) => line(key, does)),
  ].join("\n");
};

describe("the table of acts and their keys", () => {
  it("in docs/keys.md is the one that the register makes", () => {
    const written = readFileSync("docs/keys.md", "utf8");
    expect(written.slice(written.indexOf("| key")).trimEnd(), "copy it from here into docs/keys.md").toBe(table());
  });
});
