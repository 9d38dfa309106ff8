import { describe, expect, it } from "vitest";
import { offer } from "./offered";

const known = ["Percussion", "Strings", "Low strings", "Brass"];
const asNew = (text: string) => `New folder “${text}”`;
const typed = (text: string) => offer({ text, untouched: false, known, asNew });

describe("what is offered while one types", () => {
  it("begins with what begins so, and ends with the text itself, by saying so", () => {
    expect(typed("str").data).toEqual(["Strings", "Low strings", "New folder “str”"]);
  });

  it("takes a choice whole, and the text only when it is said to be meant", () => {
    const { data, meant } = typed("per");
    expect(data.map(meant)).toEqual(["Percussion", "per"]);
  });

  it("offers nothing new where the text is known, in any case", () => {
    expect(typed("brass")).toMatchObject({ data: ["Brass"], exact: "Brass" });
  });

  it("offers all while nothing is typed, and nothing new where only what is known can be meant", () => {
    expect(offer({ text: "Brass", untouched: true, known, asNew }).data).toEqual(known);
    expect(offer({ text: "x", untouched: false, known }).data).toEqual([]);
    expect(typed("").data).toEqual(known);
  });
});
