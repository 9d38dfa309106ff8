import { describe, expect, it } from "vitest";
import type { RigTouches } from "@/contracts/answers";
import type { Told } from "../state/changes";
import { isOfRig } from "./of-rig";

const touches = { revision: 3, total: 1, templates: [{ id: "nine" }] } as unknown as RigTouches;
const saved = (id: string, more: object = {}): Told => ({ kind: "template", id, revision: 2, ...more });

describe("what a rig's page looks again for", () => {
  it.each<readonly [string, Told, boolean]>([
    ["a template on it", saved("ghost", { on: "mill" }), true],
    ["a template that stood on it and went to another", saved("nine", { on: "cart" }), true],
    ["a template of which it is not told where it stands", saved("ghost", { gone: true }), true],
    ["that something may have been missed", "again", true],
    ["a template on another rig", saved("ghost", { on: "cart" }), false],
    ["another rig", { kind: "rig", id: "cart", revision: 2 }, false],
    ["that the database is away", "away", false],
  ])("%s", (_what, told, looks) => expect(isOfRig(told, "mill", touches)).toBe(looks));
});
