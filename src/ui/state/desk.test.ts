import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { NewerRevision } from "@/contracts/answers";
import { apply, applyAll } from "@/core/commands/apply";
import type { Command } from "@/core/commands/command";
import { wheelhouseCart } from "@/core/demo/rigs";
import { newStudio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";
import { aTemplate } from "@/core/testing/a-template";
import { api } from "../shared/api";
import { createDesk, type DeskStore, doGesture, redoLast, undoLast } from "./desk-store";
import { Saver } from "./saver";

const start = aTemplate().track("Fiddle", { input: "9" }).track("Snare", { input: "1" }).build();
const rename = (id: string, name: string): Command => ({ kind: "tracks.set", trackIds: [id as never], set: { name } });
const nameOf = (doc: Template, id: string) => doc.channels[id as never as keyof typeof doc.channels]?.name;

/** A stand-in for the service: keeps revisions as the real one does, and can be away or lose an answer. */
class FakeService {
  doc = start;
  readonly revisions: NewerRevision[] = [];
  away = false;
  loseNextAnswer = false;
  refuseNext: string | null = null;

  get head(): number {
    return this.revisions.length + 1;
  }

  save(base: number, batch: string | null, commands: readonly Command[]): Response {
    const known = this.revisions.find((revision) => revision.batch === batch && revision.revision === base + 1);
    if (known) return Response.json({ revision: known.revision, savedAt: known.savedAt });
    if (base !== this.head) return Response.json({ status: 409, detail: "stale", newer: this.revisions.filter((revision) => revision.revision > base) }, { status: 409 });
    const done = applyAll(this.doc, commands);
    if (!done.ok) return Response.json({ status: 422, detail: done.refusal.message }, { status: 422 });
    this.doc = done.doc;
    this.revisions.push({ revision: this.head + 1, savedAt: new Date(0).toISOString(), batch, names: [done.name], commands });
    return Response.json({ revision: this.head, savedAt: new Date(0).toISOString() });
  }

  readonly fetch = async (path: string, init?: RequestInit): Promise<Response> => {
    if (this.away) throw new TypeError("connection refused");
    const since = /since=(\d+)/.exec(path)?.[1];
    if (since) return Response.json({ newer: this.revisions.filter((revision) => revision.revision > Number(since)) });
    if (this.refuseNext) {
      const detail = this.refuseNext;
      this.refuseNext = null;
      return Response.json({ status: 422, detail }, { status: 422 });
    }
    const body = JSON.parse(String(init?.body));
    const answer = this.save(body.base, body.batch, body.commands);
    if (!this.loseNextAnswer) return answer;
    this.loseNextAnswer = false;
    throw new TypeError("connection lost");
  };
}

let service: FakeService;
const opened: Saver<Template, Command>[] = [];

const open = async (): Promise<{ desk: DeskStore; saver: Saver<Template, Command> }> => {
  const desk = createDesk({ document: service.doc, revision: service.head, savedAt: "", rigs: [wheelhouseCart], studio: newStudio("Test") });
  const saver = new Saver<Template, Command>(desk, api.templates);
  saver.start();
  opened.push(saver);
  await vi.advanceTimersByTimeAsync(1);
  return { desk, saver };
};

const settle = () => vi.advanceTimersByTimeAsync(20_000);

beforeEach(() => {
  vi.useFakeTimers();
  service = new FakeService();
  vi.stubGlobal("fetch", service.fetch);
});
afterEach(() => {
  for (const saver of opened.splice(0)) saver.stop();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("a desk", () => {
  it("saves each gesture as a revision, in order", async () => {
    const { desk } = await open();
    doGesture(desk, { commands: [rename("track-1", "Viola")] });
    doGesture(desk, { commands: [rename("track-2", "Side drum")] });
    expect(desk.getState().pending).toHaveLength(2);
    await settle();
    expect(desk.getState()).toMatchObject({ pending: [], save: { kind: "saved" }, base: { revision: 3 } });
    expect(service.doc).toEqual(desk.getState().doc);
  });

  it("undo and redo are saved like any edit", async () => {
    const { desk } = await open();
    doGesture(desk, { commands: [rename("track-1", "Viola")] });
    undoLast(desk);
    await settle();
    expect([service.doc, service.revisions.map((revision) => revision.names[0])]).toEqual([start, ["Name Fiddle Viola", "Undo: Name Fiddle Viola"]]);
    redoLast(desk);
    await settle();
    expect(nameOf(service.doc, "track-1")).toBe("Viola");
  });

  it("keeps what is typed without control characters, as the server does", async () => {
    const { desk } = await open();
    doGesture(desk, { commands: [rename("track-1", "Vio\u0000la\u0007")] });
    expect(nameOf(desk.getState().doc, "track-1")).toBe("Viola");
    await settle();
    expect(service.doc).toEqual(desk.getState().doc);
    expect(desk.getState().history.past.at(-1)?.name).toBe("Name Fiddle Viola");
  });

  it("answers why a gesture can't be done, and stays as it was", async () => {
    const { desk } = await open();
    expect(doGesture(desk, { commands: [rename("nobody", "X")] })).toContain("no longer there");
    expect(desk.getState()).toMatchObject({ doc: start, pending: [] });
  });

  it("does not send what changes nothing", async () => {
    const { desk } = await open();
    doGesture(desk, { commands: [rename("track-1", "Fiddle")] });
    expect(desk.getState().pending).toEqual([]);
  });
});

describe("two windows on one template", () => {
  it("lose nothing when both edit", async () => {
    const [one, two] = [await open(), await open()];
    doGesture(one.desk, { commands: [rename("track-1", "Viola")] });
    doGesture(two.desk, { commands: [rename("track-2", "Side drum")] });
    await settle();
    await one.saver.catchUp();
    expect([nameOf(service.doc, "track-1"), nameOf(service.doc, "track-2")]).toEqual(["Viola", "Side drum"]);
    expect(one.desk.getState().doc).toEqual(service.doc);
    expect(two.desk.getState().doc).toEqual(service.doc);
  });

  it("tell what could not be kept, and why", async () => {
    const [one, two] = [await open(), await open()];
    doGesture(one.desk, { commands: [{ kind: "tracks.remove", trackIds: ["track-1" as never] }] });
    await settle();
    doGesture(two.desk, { commands: [rename("track-1", "Viola")] });
    doGesture(two.desk, { commands: [rename("track-2", "Side drum")] });
    await settle();
    expect(two.desk.getState().lost).toEqual([{ name: "Name Fiddle Viola", why: "The track this was meant for is no longer there: it was removed in the meantime." }]);
    expect(two.desk.getState().doc).toEqual(service.doc);
    expect(nameOf(service.doc, "track-2")).toBe("Side drum");
  });

  it("drop the cursor from a row that the other removed", async () => {
    const [one, two] = [await open(), await open()];
    two.desk.setState({ cursor: { rowId: "track-1" as never, column: "name" }, selected: ["track-1" as never, "track-2" as never] });
    doGesture(one.desk, { commands: [{ kind: "tracks.remove", trackIds: ["track-1" as never] }] });
    await settle();
    await two.saver.catchUp();
    expect(two.desk.getState()).toMatchObject({ cursor: null, selected: ["track-2"] });
  });
});

describe("a server that is away", () => {
  it("keeps the edits in the window, says so, and saves them when it is back", async () => {
    const { desk } = await open();
    service.away = true;
    doGesture(desk, { commands: [rename("track-1", "Viola")] });
    await vi.advanceTimersByTimeAsync(3000);
    expect(desk.getState()).toMatchObject({ save: { kind: "away", why: "The server can't be reached." }, pending: [{ name: "Name Fiddle Viola" }] });
    doGesture(desk, { commands: [rename("track-2", "Side drum")] });
    service.away = false;
    await settle();
    expect(desk.getState()).toMatchObject({ save: { kind: "saved" }, pending: [] });
    expect(service.doc).toEqual(desk.getState().doc);
  });

  it("an edit whose answer was lost is not done twice", async () => {
    const { desk } = await open();
    service.loseNextAnswer = true;
    doGesture(desk, { commands: [{ kind: "folders.add", folders: [{ id: "f" as never, name: "Strings", dye: null }], parentId: null }] });
    await settle();
    expect(service.revisions).toHaveLength(1);
    expect(desk.getState()).toMatchObject({ pending: [], base: { revision: 2 }, lost: [] });
  });

  it("nor when another window saved in between", async () => {
    const { desk } = await open();
    service.loseNextAnswer = true;
    doGesture(desk, { commands: [rename("track-1", "Viola")] });
    await vi.advanceTimersByTimeAsync(1);
    service.save(2, "elsewhere", [rename("track-2", "Side drum")]);
    await settle();
    doGesture(desk, { commands: [rename("track-1", "Cello")] });
    await settle();
    expect(service.revisions.map((revision) => revision.names[0])).toEqual(["Name Fiddle Viola", "Name Snare Side drum", "Name Viola Cello"]);
    expect(desk.getState().doc).toEqual(service.doc);
  });

  it("flush waits for what is pending, and says when it can't be saved", async () => {
    const { desk, saver } = await open();
    doGesture(desk, { commands: [rename("track-1", "Viola")] });
    const saved = saver.flush();
    await settle();
    expect(await saved).toBe(true);
    service.away = true;
    doGesture(desk, { commands: [rename("track-1", "Cello")] });
    const unsaved = saver.flush();
    await settle();
    expect(await unsaved).toBe(false);
  });
});

describe("an edit the server refuses", () => {
  it("is taken out and told, and the later ones go on", async () => {
    const { desk } = await open();
    service.refuseNext = "not today";
    doGesture(desk, { commands: [rename("track-1", "Viola")] });
    doGesture(desk, { commands: [rename("track-2", "Side drum")] });
    await settle();
    expect(desk.getState().lost).toEqual([{ name: "Name Fiddle Viola", why: "not today" }]);
    expect(nameOf(desk.getState().doc, "track-1")).toBe("Fiddle");
    expect(desk.getState().doc).toEqual(service.doc);
  });
});

describe("catching up", () => {
  it("takes in what others saved while this window slept", async () => {
    const { desk, saver } = await open();
    const other = apply(service.doc, rename("track-1", "Viola"));
    expect(other.ok).toBe(true);
    service.save(1, "elsewhere", [rename("track-1", "Viola")]);
    await saver.catchUp();
    expect(desk.getState()).toMatchObject({ base: { revision: 2 } });
    expect(nameOf(desk.getState().doc, "track-1")).toBe("Viola");
  });
});
