import { describe, expect, it } from "vitest";
import type { ChannelId } from "../model/ids";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { controlledBy } from "./controls";

const track = "track-1" as ChannelId;
const control = (id: string, faderDb: number | null, more: object = {}): Edit => ({
  kind: "controls.add",
  control: { id: id as never, name: id, faderDb: faderDb as never, ...more },
  channelIds: [],
});
const ride = (id: string): Edit => ({ kind: "controls.ride", channelIds: [track], controlId: id as never, on: true });
const told = (...edits: readonly Edit[]) => {
  const made = applyAll(aTemplate().track("Fiddle", { input: "9" }).build(), edits);
  const doc: Template = made.ok ? made.doc : expect.unreachable();
  const { db, muted, controls } = controlledBy(doc, doc.channels[track] ?? expect.unreachable());
  return { db, muted, names: controls.map(({ name }) => name) };
};

describe("control faders over a channel", () => {
  it("add up in dB, those they ride on too, each once", () => {
    expect(told()).toEqual({ db: 0, muted: false, names: [] });
    expect(told(control("all", -2), control("strings", -3, { parentId: "all" }), ride("strings"))).toEqual({
      db: -5,
      muted: false,
      names: ["strings", "all"],
    });
    expect(told(control("all", -2), control("strings", -3, { parentId: "all" }), ride("strings"), ride("all"))).toEqual(
      { db: -5, muted: false, names: ["strings", "all"] },
    );
  });
  it("silence and mute from anywhere above", () => {
    expect(
      told(control("all", null, { muted: true }), control("strings", 6, { parentId: "all" }), ride("strings")),
    ).toEqual({ db: null, muted: true, names: ["strings", "all"] });
  });
});
