import { describe, expect, it } from "vitest";
import { rigFindings } from "../checks/rig-findings";
import type { RigId } from "../model/ids";
import { devicesOf, rigInputsOf } from "../model/read-rig";
import { entriesOf } from "../model/table";
import { STARTERS, starterInputs } from "../starters/starters";
import { rigThatFits } from "./rig-that-fits";

const made = (inputs: number) => rigThatFits({ id: "first" as RigId, name: "First rig", inputs });

describe("a rig that fits", () => {
  it.each([1, 2, 3, 8, 16, 17, 24])("has at least %i inputs and no fewer devices would do", (inputs) => {
    const rig = made(inputs);
    const count = rigInputsOf(rig).filter(({ loopBack, occupied }) => !loopBack && !occupied).length;
    expect(count).toBeGreaterThanOrEqual(inputs);
    expect(devicesOf(rig).length).toBe(inputs <= 2 ? 1 : inputs <= 16 ? 1 : 2);
  });

  it("is sound: nothing is found in it, monitors and headphones hang on outputs of their own", () => {
    for (const inputs of [2, 16, 32, 999]) {
      const rig = made(inputs);
      expect(rigFindings(rig)).toEqual([]);
      const ports = entriesOf(rig.feeds).flatMap(({ portIds }) => portIds);
      expect(new Set(ports).size).toBe(ports.length);
      expect(entriesOf(rig.feeds).map(({ kind }) => kind)).toContain("headphones");
    }
  });

  it("every starter goes onto the one that is made for it", () => {
    for (const starter of STARTERS)
      expect(rigInputsOf(made(starterInputs(starter))).length).toBeGreaterThanOrEqual(starterInputs(starter));
  });
});
