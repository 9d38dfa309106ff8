import { expect, it } from "vitest";
import { sayDay, sayDayShort, today } from "./dates";

it("a day is said with its weekday, and with its year where that is another one", () => {
  const now = new Date(2026, 10, 20);
  expect([sayDay("2026-11-29", now), sayDay("2025-06-01", now), sayDayShort("2026-06-14"), today(now)]).toEqual([
    "Sunday 29 November",
    "Sunday 1 June 2025",
    "14 Jun",
    "2026-11-20",
  ]);
});
