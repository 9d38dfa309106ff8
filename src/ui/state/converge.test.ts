import fc from "fast-check";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { brokenInvariants } from "@/core/commands/template-engine";
import { wheelhouseCart } from "@/core/demo/rigs";
import { newStudio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";
import { templateFaults } from "@/core/model/template-schema";
import type { Edit } from "@/core/planning/edits/edit";
import { aTemplate } from "@/core/testing/a-template";
import { runs } from "@/core/testing/how-many";
import { chanceRuns, randomEdit } from "@/core/testing/random-edits";
import { api } from "../shared/api";
import { createDesk, type DeskStore, doGesture, redoLast, undoLast } from "./desk-store";
import { adopt } from "./doc-store";
import { Saver } from "./saver";
import { FakeService } from "./testing/fake-service";

const start = aTemplate()
  .folder("Strings")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"] })
  .track("Snare", { input: "1" })
  .build();

interface Window {
  readonly desk: DeskStore;
  readonly saver: Saver<Template, Edit>;
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const open = (service: FakeService): Window => {
  const desk = createDesk({
    document: service.doc,
    revision: service.head,
    savedAt: service.savedAt(service.head),
    rigs: [wheelhouseCart],
    studio: newStudio("Test"),
  });
  const saver = new Saver<Template, Edit>(desk, api.templates);
  saver.start();
  return { desk, saver };
};

/** Closed and opened again: what was not saved is taken up from the browser's keeping. */
const reload = (service: FakeService, { desk, saver }: Window): Window => {
  const left = desk.getState().pending;
  saver.stop();
  const fresh = open(service);
  adopt(fresh.desk, left);
  return fresh;
};

/**
 * Something that a person does in a window: mostly an edit, now and then taking one back, doing it again, or loading
 * the page anew.
 */
const act = (service: FakeService, window: Window, chance: () => number): Window => {
  const kind = chance();
  const { doc } = window.desk.getState();
  if (kind < 0.05) return reload(service, window);
  if (kind < 0.25) undoLast(window.desk);
  else if (kind < 0.32) redoLast(window.desk);
  else doGesture(window.desk, { edits: [randomEdit(doc, chance)] });
  return window;
};

it("two windows and a server come to one document, with answers lost, the server away and windows reloaded, and every state keeps the rules", async () => {
  await fc.assert(
    fc.asyncProperty(chanceRuns, async (chance) => {
      const service = new FakeService(start);
      vi.stubGlobal("fetch", service.fetch);
      const windows = [open(service), open(service)];
      for (let n = 0; n < 40; n++) {
        service.loseNextAnswer ||= chance() < 0.15;
        service.away = chance() < 0.1;
        const at = chance() < 0.5 ? 0 : 1;
        windows[at] = act(service, windows[at] as Window, chance);
        if (chance() < 0.6) await vi.advanceTimersByTimeAsync(Math.floor(chance() * 3000));
        for (const { desk: each } of windows) expect(brokenInvariants(each.getState().doc)).toEqual([]);
        expect([templateFaults(service.doc), brokenInvariants(service.doc)]).toEqual([[], []]);
      }
      service.away = false;
      service.loseNextAnswer = false;
      await vi.advanceTimersByTimeAsync(60_000);
      for (const { saver } of windows) await saver.catchUp();
      await vi.advanceTimersByTimeAsync(20_000);
      for (const { saver } of windows) await saver.catchUp();
      for (const { desk, saver } of windows) {
        expect(desk.getState()).toMatchObject({ pending: [], save: { kind: "saved" } });
        expect(desk.getState().doc).toEqual(service.doc);
        expect(service.head).toBeGreaterThan(5);
        saver.stop();
      }
    }),
    { numRuns: runs(20, 400), seed: 20261126 },
  );
});
