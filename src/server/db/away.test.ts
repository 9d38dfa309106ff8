import { describe, expect, it } from "vitest";
import { Failure } from "../services/failure";
import { isDatabaseAway, isTaken, whyAway, withoutValues } from "./away";

const withCode = (code: string, message = "x") => Object.assign(new Error(message), { code });
const wrapped = (code: string) =>
  new Error('Failed query: insert into t values ($1)\nparams: {"secret":"document"}', { cause: withCode(code) });

describe("what the database can't do is told apart from what is asked wrongly", () => {
  it.each([
    "08006",
    "53100",
    "53300",
    "57P01",
    "57P03",
    "57014",
    "58030",
    "25006",
    "40P01",
    "55P03",
    "ECONNREFUSED",
    "ENOSPC",
    "EPIPE",
  ])("%s: come again", (code) => expect(isDatabaseAway(wrapped(code))).toBe(true));
  it.each(["23505", "22P02", "42601", "P0001"])("%s: a mistake", (code) =>
    expect(isDatabaseAway(wrapped(code))).toBe(false),
  );
  it("by what the driver says", () => {
    expect(isDatabaseAway(new Error("timeout exceeded when trying to connect"))).toBe(true);
    expect(isDatabaseAway(new Error("Query read timeout"))).toBe(true);
    expect(isDatabaseAway(new AggregateError([withCode("ECONNREFUSED")]))).toBe(true);
    expect(isDatabaseAway(new Error("something else"))).toBe(false);
  });

  it.each([
    ["53100", "disk is full"],
    ["55P03", "Others are at the same thing"],
    ["57014", "too much to do"],
    ["25006", "only be read"],
    ["57P01", "can't be reached"],
  ])("%s says: %s", (code, words) => expect(whyAway(wrapped(code))).toContain(words));

  it("a key that is taken is known by its name", () => {
    const taken = Object.assign(withCode("23505"), { constraint: "template_revisions_batch" });
    expect([isTaken(taken), isTaken(taken, "batch"), isTaken(taken, "pkey"), isTaken(withCode("1"))]).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});

describe("what is written down of an error", () => {
  it("has its kind, code and place, and nothing of a document", () => {
    const written = String(withoutValues(wrapped("22P02")));
    expect(written).toContain("a query failed ← Error 22P02");
    expect(written).not.toContain("secret");
    expect(written).toContain("away.test");
  });

  it("is never longer than a screen", () => {
    expect(String(withoutValues(new Error("x".repeat(100_000)))).length).toBeLessThan(5000);
    expect(String(withoutValues("y".repeat(100_000)))).toHaveLength(2000);
  });
});

describe("a sentence about what was sent", () => {
  it("is never as long as that", () => {
    const long = "k".repeat(3_000_000);
    const failure = new Failure(422, "No", long, {
      errors: Array.from({ length: 100 }, () => ({ pointer: `/${long}`, detail: long })),
    });
    expect([failure.message.length, failure.extra.errors?.length, failure.extra.errors?.[0]?.pointer.length]).toEqual([
      1001, 50, 1001,
    ]);
  });
});
