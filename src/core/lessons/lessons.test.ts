import { describe, expect, it } from "vitest";
import { templateEngine } from "../commands/template-engine";
import { lifeOfTheNine } from "../demo/life";
import { wholeMill } from "../demo/rigs";
import { demoTemplates } from "../demo/templates";
import { hashOf } from "../model/hash";
import { TEMPLATE, type Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { applyAll } from "../planning/edits/template-editing";
import { lessonsOf, median, type TaughtBy } from "./lessons";

const nine = demoTemplates().find(({ id }) => id === "tidewrack-nine") ?? expect.unreachable();
const life = lifeOfTheNine(nine);
const done: readonly TaughtBy[] = life.sessions.flatMap(({ from, revisions }) => {
  const session = revisions.at(-1)?.document;
  const base = life.revisions[from - 1]?.document;
  return session && base && session.session.state === "done" ? [{ base, session }] : [];
});
const lessons = (sessions = done, head = nine) => lessonsOf({ head, rig: wholeMill, sessions });
const after = (head: Template): Template => {
  const taken = applyAll(
    head,
    lessons(done, head).flatMap(({ edits }) => edits),
  );
  return taken.ok ? taken.doc : expect.unreachable();
};

describe("half a year of the Nine", () => {
  it("is whole: each revision leads to the next, hash for hash, and the last is the template", () => {
    for (const { revisions } of [life, ...life.sessions, ...life.descendants])
      for (const [at, { document, commands }] of revisions.entries()) {
        expect(templateFaults(document)).toEqual([]);
        const before = revisions[at - 1]?.document;
        const led = before && templateEngine.applyAll(before, commands);
        if (led) expect(led.ok && hashOf(TEMPLATE, led.doc)).toBe(hashOf(TEMPLATE, document));
      }
    expect(hashOf(TEMPLATE, life.revisions.at(-1)?.document ?? {})).toBe(hashOf(TEMPLATE, nine));
  });

  it("taught five things, each with its count", () => {
    expect(lessons().map(({ who, words, label }) => `${who}: ${words}. ${label}`)).toEqual([
      "Shaker table: parked or not recorded in 7 of 8 sessions. Park it",
      "Fiddle: moved to input E5 in 6 of 8. Plan it on E5",
      "Lead voice gain: ended at 38 dB, 36 to 39 in 8; not planned. Plan 38 dB",
      "De-esser on Lead voice: switched off in 5 of 8. Bypass it",
      "Fiddle room: added by hand in 4 of 8. Add the track",
    ]);
  });

  it("teaches nothing below three sessions", () => {
    expect(lessons(done.slice(0, 2))).toEqual([]);
    expect(lessons([])).toEqual([]);
  });

  it("taught nothing any more once it is taken over", () => {
    expect(lessons(done, after(nine))).toEqual([]);
  });

  it("says nothing of what sessions did once or twice, or differently each time", () => {
    const [some] = done;
    if (!some) return expect.unreachable();
    const calm = done.map(({ base }) => ({ base, session: { ...base, session: some.session.session } }));
    expect(lessons(calm)).toEqual([]);
    expect(lessons([...calm, ...done.slice(1, 3)])).toEqual([]);
  });
});

describe("the median", () => {
  it.each([
    [[36, 38, 39], 38],
    [[36, 38], 37],
    [[5], 5],
    [[3, 1, 2, 10], 2.5],
  ])("of %j is %s", (values, middle) => expect(median(values)).toBe(middle));
});
