import { describe, expect, it } from "vitest";
import { sayDate } from "./format-date";

const now = new Date(2026, 10, 25, 14, 30);
const at = (...parts: [number, number, number, number?, number?]) =>
  new Date(parts[0], parts[1], parts[2], parts[3] ?? 12, parts[4] ?? 0).toISOString();

describe("a date as it is said", () => {
  it.each([
    [at(2026, 10, 25, 9, 5), "09:05"],
    [at(2026, 10, 24, 23, 59), "yesterday"],
    [at(2026, 10, 3), "3 Nov"],
    [at(2025, 11, 31), "31 Dec 2025"],
  ])("%s is %s", (iso, words) => expect(sayDate(iso, now)).toBe(words));
});
