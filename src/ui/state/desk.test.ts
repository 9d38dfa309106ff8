import { notifications } from "@mantine/notifications";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Command } from "@/core/commands/command";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { wheelhouseCart } from "@/core/demo/rigs";
import { newStudio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";
import type { Edit } from "@/core/planning/edits/edit";
import { apply } from "@/core/planning/edits/template-editing";
import { aTemplate } from "@/core/testing/a-template";
import { api } from "../shared/api";
import { behind, putBehind, takeFromBehind } from "./behind";
import { createDesk, type DeskStore, doGesture, redoLast, undoLast } from "./desk-store";
import { adopt } from "./doc-store";
import { parted } from "./parted";
import { Saver } from "./saver";
import { FakeService } from "./testing/fake-service";

const start = aTemplate().track("Fiddle", { input: "9" }).track("Snare", { input: "1" }).build();
const rename = (id: string, name: string): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id as never],
  set: { name },
});
const nameOf = (doc: Template, id: string) => doc.channels[id as never as keyof typeof doc.channels]?.name;

let service: FakeService;
const opened: Saver<Template, Edit>[] = [];

const open = async (): Promise<{ desk: DeskStore; saver: Saver<Template, Edit> }> => {
  const desk = createDesk({
    document: service.doc,
    revision: service.head,
    savedAt: service.savedAt(service.head),
    rigs: [wheelhouseCart],
    studio: newStudio("Test"),
  });
  const saver = new Saver<Template, Edit>(desk, api.templates);
  saver.start();
  opened.push(saver);
  await vi.advanceTimersByTimeAsync(1);
  return { desk, saver };
};

const answered = () => vi.advanceTimersByTimeAsync(20_000);

beforeEach(() => {
  vi.useFakeTimers();
  service = new FakeService(start);
  vi.stubGlobal("fetch", service.fetch);
});
afterEach(() => {
  for (const saver of opened.splice(0)) saver.stop();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("a desk that is left before all is saved", () => {
  const renameThrice = (desk: DeskStore) => {
    for (const name of ["Viola", "Cello", "Bass"]) doGesture(desk, { edits: [rename("track-1", name)] });
  };
  const saved = () => service.revisions.map((revision) => revision.names[0]);
  /** Three edits that wait behind the screens, since the server is away. */
  const leftWhileAway = async () => {
    const { desk, saver } = await open();
    service.away = true;
    renameThrice(desk);
    saver.leave();
    await answered();
    return desk;
  };

  it("sends the rest behind the screens that come next, also when the server is away at first", async () => {
    const desk = await leftWhileAway();
    expect(saved()).toEqual([]);
    service.away = false;
    await answered();
    expect(saved()).toEqual(["Rename Fiddle to Viola", "Rename Viola to Cello", "Rename Cello to Bass"]);
    const { tries } = service;
    doGesture(desk, { edits: [rename("track-2", "Not from here")] });
    await answered();
    expect([saved().length, service.tries]).toEqual([3, tries]);
  });

  it("gives it to the desk that shows the template again, on what others saved meanwhile, and each edit is done once", async () => {
    await leftWhileAway();
    service.away = false;
    service.does(1, "another", [rename("track-2", "Side drum")]);
    const again = await open();
    doGesture(again.desk, { edits: [rename("track-2", "Tom")] });
    await answered();
    const { doc, pending, lost, save } = again.desk.getState();
    expect([nameOf(doc, "track-1"), nameOf(doc, "track-2"), pending, lost, save.kind]).toEqual([
      "Bass",
      "Tom",
      [],
      [],
      "saved",
    ]);
    expect(service.doc).toEqual(doc);
    expect(new Set(service.revisions.map((revision) => revision.batch)).size).toBe(service.revisions.length);
  });

  it("loses nothing when it is opened again and left at once, and once more", async () => {
    await leftWhileAway();
    for (const _ of [1, 2]) {
      const again = open();
      opened.at(-1)?.leave();
      await again;
    }
    service.away = false;
    await answered();
    expect(saved()).toEqual(["Rename Fiddle to Viola", "Rename Viola to Cello", "Rename Cello to Bass"]);
  });

  it("is told of elsewhere, with what waits, once the server does not take it; given up, nothing is left of it", async () => {
    const told = vi.spyOn(notifications, "show");
    await leftWhileAway();
    const about = `template:${start.id}`;
    const edits = ["Rename Fiddle to Viola", "Rename Viola to Cello", "Rename Cello to Bass"];
    expect(behind.getState()[about]).toMatchObject({ name: start.name, edits, save: { kind: "away" } });
    expect(told).not.toHaveBeenCalled();
    service.refuseNext = "not today";
    service.away = false;
    await answered();
    expect(behind.getState()[about]).toMatchObject({
      edits,
      save: { kind: "parted", how: "refused", why: expect.stringContaining("not today") },
    });
    expect(told).toHaveBeenCalledOnce();
    behind.getState()[about]?.sending.letGo();
    await answered();
    expect([behind.getState(), service.posts, saved()]).toEqual([{}, 1, []]);
  });

  it("tells what could not be done on what another window did meanwhile: its screen is not there to say so", async () => {
    const { desk, saver } = await open();
    const told = vi.spyOn(notifications, "show");
    service.away = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    doGesture(desk, { edits: [rename("track-2", "Side drum")] });
    saver.leave();
    await answered();
    service.does(1, "other", [{ kind: "entries.remove", table: "channels", ids: ["track-1" as never] }]);
    service.away = false;
    await answered();
    expect([saved(), behind.getState()]).toEqual([["Remove Fiddle", "Rename Snare to Side drum"], {}]);
    expect(told).toHaveBeenCalledExactlyOnceWith(
      expect.objectContaining({
        message: expect.stringMatching(/^Rename Fiddle to Viola of “.*” could not be kept: .* no longer there/),
      }),
    );
  });

  it("is told of once, and not while nothing of it waits", () => {
    const told = vi.spyOn(notifications, "show");
    const sending = { handOver: async () => [], forget: () => {}, letGo: () => {} };
    const left = { name: "Evening", save: parted("gone", "template"), sending };
    const calls = [[], ["Rename Fiddle to Viola"], ["Rename Fiddle to Viola", "Rename Viola to Cello"]].map((edits) => {
      putBehind("template:t", { ...left, edits });
      return told.mock.calls.length;
    });
    takeFromBehind("template:t", sending);
    expect([calls, behind.getState()]).toEqual([[0, 1, 1], {}]);
  });

  it("is nothing special when all was saved", async () => {
    const { desk, saver } = await open();
    renameThrice(desk);
    await answered();
    saver.leave();
    const again = await open();
    await answered();
    expect([saved().length, again.desk.getState().doc]).toEqual([3, service.doc]);
  });
});

describe("a desk", () => {
  it("saves each gesture as a revision, in order", async () => {
    const { desk } = await open();
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    doGesture(desk, { edits: [rename("track-2", "Side drum")] });
    expect(desk.getState().pending).toHaveLength(2);
    await answered();
    expect(desk.getState()).toMatchObject({ pending: [], save: { kind: "saved" }, base: { revision: 3 } });
    expect(service.doc).toEqual(desk.getState().doc);
  });

  it("undo and redo are saved like any edit", async () => {
    const { desk } = await open();
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    undoLast(desk);
    await answered();
    expect([service.doc, service.revisions.map((revision) => revision.names[0])]).toEqual([
      start,
      ["Rename Fiddle to Viola", "Undo: Rename Fiddle to Viola"],
    ]);
    redoLast(desk);
    await answered();
    expect(nameOf(service.doc, "track-1")).toBe("Viola");
  });

  it("keeps what is typed without control characters, as the server does", async () => {
    const { desk } = await open();
    doGesture(desk, { edits: [rename("track-1", "Vio\u0000la\u0007")] });
    expect(nameOf(desk.getState().doc, "track-1")).toBe("Viola");
    await answered();
    expect(service.doc).toEqual(desk.getState().doc);
    expect(desk.getState().history.past.at(-1)?.name).toBe("Rename Fiddle to Viola");
  });

  it("answers why a gesture can't be done, and stays as it was", async () => {
    const { desk } = await open();
    expect(doGesture(desk, { edits: [rename("nobody", "X")] })).toContain("no longer there");
    expect(desk.getState()).toMatchObject({ doc: start, pending: [] });
  });

  it("does not send what changes nothing", async () => {
    const { desk } = await open();
    doGesture(desk, { edits: [rename("track-1", "Fiddle")] });
    expect(desk.getState().pending).toEqual([]);
  });
});

describe("two windows on one template", () => {
  it("lose nothing when both edit", async () => {
    const [one, two] = [await open(), await open()];
    doGesture(one.desk, { edits: [rename("track-1", "Viola")] });
    doGesture(two.desk, { edits: [rename("track-2", "Side drum")] });
    await answered();
    await one.saver.catchUp();
    expect([nameOf(service.doc, "track-1"), nameOf(service.doc, "track-2")]).toEqual(["Viola", "Side drum"]);
    expect(one.desk.getState().doc).toEqual(service.doc);
    expect(two.desk.getState().doc).toEqual(service.doc);
  });

  it("tell what could not be kept, and why", async () => {
    const [one, two] = [await open(), await open()];
    doGesture(one.desk, { edits: [{ kind: "entries.remove", table: "channels", ids: ["track-1" as never] }] });
    await answered();
    doGesture(two.desk, { edits: [rename("track-1", "Viola")] });
    doGesture(two.desk, { edits: [rename("track-2", "Side drum")] });
    await answered();
    expect(two.desk.getState().lost).toEqual([
      {
        name: "Rename Fiddle to Viola",
        why: "The track this was meant for is no longer there: it was removed in the meantime.",
      },
    ]);
    expect(two.desk.getState().doc).toEqual(service.doc);
    expect(nameOf(service.doc, "track-2")).toBe("Side drum");
  });

  it("drop the cursor from a row that the other removed", async () => {
    const [one, two] = [await open(), await open()];
    two.desk.setState({
      cursor: { rowId: "track-1" as never, column: "name" },
      selected: ["track-1" as never, "track-2" as never],
    });
    doGesture(one.desk, { edits: [{ kind: "entries.remove", table: "channels", ids: ["track-1" as never] }] });
    await answered();
    await two.saver.catchUp();
    expect(two.desk.getState()).toMatchObject({ cursor: null, selected: ["track-2"] });
  });
});

describe("a server that is away", () => {
  it("keeps the edits in the window, says so, and saves them when it is back", async () => {
    const { desk } = await open();
    service.away = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await vi.advanceTimersByTimeAsync(3000);
    expect(desk.getState()).toMatchObject({
      save: { kind: "away", why: "The server can't be reached." },
      pending: [{ name: "Rename Fiddle to Viola" }],
    });
    doGesture(desk, { edits: [rename("track-2", "Side drum")] });
    service.away = false;
    await answered();
    expect(desk.getState()).toMatchObject({ save: { kind: "saved" }, pending: [] });
    expect(service.doc).toEqual(desk.getState().doc);
  });

  it("waits longer each time, and no longer once somebody hurries it or the window is closed", async () => {
    const { desk, saver } = await open();
    service.away = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await vi.advanceTimersByTimeAsync(60_000);
    const tried = service.tries;
    expect(tried).toBeGreaterThan(10);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(service.tries - tried).toBeLessThan(14);
    service.away = false;
    saver.hurry();
    await vi.advanceTimersByTimeAsync(1);
    expect(desk.getState()).toMatchObject({ save: { kind: "saved" }, pending: [] });
    service.away = true;
    doGesture(desk, { edits: [rename("track-1", "Cello")] });
    await vi.advanceTimersByTimeAsync(1);
    saver.stop();
    const last = service.tries;
    await answered();
    expect(service.tries).toBe(last);
  });

  it("sends nothing more when it was told, while it waited, that a person must decide", async () => {
    const { desk } = await open();
    service.away = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await vi.advanceTimersByTimeAsync(1);
    desk.setState({ save: parted("gone", "template") });
    service.away = false;
    const sent = service.tries;
    await answered();
    expect([service.tries, desk.getState().pending.length]).toEqual([sent, 1]);
  });

  it("an edit whose answer was lost is not done twice", async () => {
    const { desk } = await open();
    service.loseNextAnswer = true;
    doGesture(desk, {
      edits: [{ kind: "entries.add", entries: { folders: [{ id: "f" as never, name: "Strings", colour: null }] } }],
    });
    await answered();
    expect(service.revisions).toHaveLength(1);
    expect(desk.getState()).toMatchObject({ pending: [], base: { revision: 2 }, lost: [] });
  });

  it("nor when another window saved in between", async () => {
    const { desk } = await open();
    service.loseNextAnswer = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await vi.advanceTimersByTimeAsync(1);
    service.does(2, "elsewhere", [rename("track-2", "Side drum")]);
    await answered();
    doGesture(desk, { edits: [rename("track-1", "Cello")] });
    await answered();
    expect(service.revisions.map((revision) => revision.names[0])).toEqual([
      "Rename Fiddle to Viola",
      "Rename Snare to Side drum",
      "Rename Viola to Cello",
    ]);
    expect(desk.getState().doc).toEqual(service.doc);
  });

  it("flush waits for what is pending, and says when it can't be saved", async () => {
    const { desk, saver } = await open();
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    const saved = saver.flush();
    await answered();
    expect(await saved).toBe(true);
    service.away = true;
    doGesture(desk, { edits: [rename("track-1", "Cello")] });
    const unsaved = saver.flush();
    await answered();
    expect(await unsaved).toBe(false);
  });
});

describe("an edit the server refuses", () => {
  it("stays shown, is told with the reason, and the later ones go on once a person leaves it out", async () => {
    const { desk, saver } = await open();
    service.refuseNext = "not today";
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    doGesture(desk, { edits: [rename("track-2", "Side drum")] });
    await answered();
    expect(desk.getState().save).toMatchObject({
      kind: "parted",
      how: "refused",
      why: expect.stringContaining("not today"),
    });
    expect([nameOf(desk.getState().doc, "track-1"), desk.getState().pending.length, service.posts]).toEqual([
      "Viola",
      2,
      1,
    ]);
    saver.leaveOut();
    await answered();
    expect(desk.getState().lost).toEqual([
      { name: "Rename Fiddle to Viola", why: expect.stringContaining("left out") },
    ]);
    expect(desk.getState().save.kind).toBe("saved");
    expect(nameOf(desk.getState().doc, "track-1")).toBe("Fiddle");
    expect(desk.getState().doc).toEqual(service.doc);
  });
});

describe("a document that came to differ from the server's", () => {
  it("is taken anew from there, with what was not saved yet done on it, and it is told", async () => {
    const { desk } = await open();
    vi.spyOn(console, "error").mockImplementation(() => {});
    service.wrongHash = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    doGesture(desk, { edits: [rename("track-2", "Side drum")] });
    await answered();
    expect(desk.getState()).toMatchObject({ mended: true, pending: [], lost: [], save: { kind: "saved" } });
    expect(desk.getState().doc).toEqual(service.doc);
    expect([nameOf(service.doc, "track-1"), nameOf(service.doc, "track-2"), service.head]).toEqual([
      "Viola",
      "Side drum",
      3,
    ]);
  });

  it("and can't be had from there just now ends in a state that a person sees", async () => {
    const { desk } = await open();
    vi.spyOn(console, "error").mockImplementation(() => {});
    service.wrongHash = true;
    vi.spyOn(api.templates, "load").mockRejectedValueOnce(new Error("away"));
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await answered();
    expect(desk.getState().save).toMatchObject({ kind: "parted", how: "broken" });
  });
});

describe("a window and a server of different age", () => {
  const strange = { kind: "tracks.levitate", trackIds: ["track-1"] } as unknown as Command;

  it("what came in gestures that the window does not know ends in a state that says to reload, and keeps what was done here", async () => {
    const { desk, saver } = await open();
    service.revisions.push({
      revision: 2,
      savedAt: "2026-11-26T12:00:00.900Z",
      batch: "new",
      by: "",
      origin: null,
      names: ["Levitate"],
      commands: [strange],
    });
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await answered();
    await saver.catchUp();
    expect(desk.getState().save).toMatchObject({
      kind: "parted",
      how: "renewed",
      why: expect.stringContaining("Reload it"),
    });
    expect([nameOf(desk.getState().doc, "track-1"), desk.getState().pending.length]).toEqual(["Viola", 1]);
  });

  it("a server that speaks another version says so, and nothing is sent again until the window is reloaded", async () => {
    const { desk } = await open();
    service.renewed = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await answered();
    expect(desk.getState().save).toMatchObject({ kind: "parted", how: "renewed" });
    expect([service.posts, desk.getState().pending.length]).toEqual([1, 1]);
  });

  it("what another version left in the browser is told with its name, and throws nothing", async () => {
    const { desk } = await open();
    adopt(desk, [{ id: "old", name: "Levitate Fiddle", commands: [strange] }]);
    expect(desk.getState().lost).toEqual([
      { name: "Levitate Fiddle", why: expect.stringContaining("made with an older Wandel") },
    ]);
  });
});

describe("what a browser kept", () => {
  it("that is damaged is told by its name, and the rest is done", async () => {
    const { desk } = await open();
    const damaged = [
      [null],
      [1],
      [{ kind: "set", table: "channels", ids: 5, set: null }],
      [{ kind: "explode" }],
      [{ kind: "remove", table: "__proto__", ids: ["x"] }],
    ];
    const warned = vi.spyOn(console, "warn").mockImplementation(() => {});
    const good = apply(desk.getState().doc, rename("track-1", "Viola"));
    if (!good.ok) throw new Error("expected the edit to be possible");
    adopt(desk, [
      ...damaged.map((commands, at) => ({
        id: `d${at}`,
        name: `Damaged ${at}`,
        made: GESTURE_VERSION,
        commands: commands as object[],
      })),
      { id: "named", name: { not: "a text" } as never, made: 1, commands: [null as never] },
      { id: "good", name: "Rename Fiddle to Viola", made: GESTURE_VERSION, commands: good.commands },
    ]);
    const { doc, pending, lost } = desk.getState();
    expect([nameOf(doc, "track-1"), pending.map((gesture) => gesture.name)]).toEqual([
      "Viola",
      ["Rename Fiddle to Viola"],
    ]);
    expect(lost.map(({ name }) => name)).toEqual([...damaged.map((_, at) => `Damaged ${at}`), "[object Object]"]);
    expect(lost[0]?.why).toContain("damaged");
    expect(warned).toHaveBeenCalled();
  });
});

describe("a gesture of more bytes than can be saved", () => {
  it("is refused before anything is shown of it", async () => {
    const { desk } = await open();
    const before = desk.getState().doc;
    const note = "x".repeat(4000);
    const tracks = Array.from({ length: 5000 }, (_, at) => ({
      id: `big-${at}` as never,
      name: "",
      note,
      colour: null,
      icon: null,
      input: { kind: "none" as const },
      sharing: null,
    }));
    expect(
      doGesture(desk, { edits: [{ kind: "tracks.add", tracks, lines: [], folderId: null, before: null }] }),
    ).toMatch(/more than can be saved at once: 16 MiB/);
    expect([desk.getState().doc, desk.getState().pending]).toEqual([before, []]);
  });
});

describe("catching up", () => {
  it("takes in what others saved while this window slept", async () => {
    const { desk, saver } = await open();
    const other = apply(service.doc, rename("track-1", "Viola"));
    expect(other.ok).toBe(true);
    service.does(1, "elsewhere", [rename("track-1", "Viola")]);
    await saver.catchUp();
    expect(desk.getState()).toMatchObject({ base: { revision: 2 } });
    expect(nameOf(desk.getState().doc, "track-1")).toBe("Viola");
  });
});

describe("a server with another past", () => {
  const withEdits = async (count: number) => {
    const opened = await open();
    for (let n = 1; n <= count; n++) doGesture(opened.desk, { edits: [rename("track-1", `Name ${n}`)] });
    await answered();
    return opened;
  };

  it("restored to before what this window has: nothing is posted again and again, what is edited is kept, and it says what happened", async () => {
    const { desk } = await withEdits(3);
    service.restoreTo(2);
    const before = service.posts;
    doGesture(desk, { edits: [rename("track-2", "Side drum")] });
    await answered();
    expect(service.posts - before).toBe(1);
    expect(desk.getState()).toMatchObject({
      save: { kind: "parted", how: "past" },
      pending: [{ name: "Rename Snare to Side drum" }],
    });
    doGesture(desk, { edits: [rename("track-2", "Snare, low")] });
    await answered();
    expect([service.posts - before, desk.getState().pending.length, nameOf(desk.getState().doc, "track-2")]).toEqual([
      1,
      2,
      "Snare, low",
    ]);
  });

  it("is noticed without an edit as well", async () => {
    const { desk, saver } = await withEdits(2);
    service.restoreTo(1);
    await saver.catchUp();
    expect(desk.getState().save).toMatchObject({ kind: "parted", how: "past" });
  });

  it("with as many revisions, but others, is not taken for one's own", async () => {
    const { desk } = await withEdits(1);
    service.restoreTo(1, "2026-11-26T11:00:00.");
    service.does(1, "elsewhere", [rename("track-2", "Tabor")]);
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await answered();
    expect(desk.getState().save).toMatchObject({ kind: "parted", how: "past" });
    expect(service.revisions.map((revision) => revision.batch)).toEqual(["elsewhere"]);
  });

  it("takes this window's edits when a person says so: those it lost and those it never had, none twice", async () => {
    const { desk, saver } = await withEdits(2);
    service.restoreTo(2);
    service.does(2, "elsewhere", [rename("track-2", "Tabor")]);
    doGesture(desk, {
      edits: [{ kind: "entries.add", entries: { folders: [{ id: "f" as never, name: "Strings", colour: null }] } }],
    });
    await answered();
    expect(desk.getState().save.kind).toBe("parted");
    expect(await saver.applyThere()).toBe(true);
    await answered();
    expect(service.revisions.map((revision) => revision.names[0])).toEqual([
      "Rename Fiddle to Name 1",
      "Rename Snare to Tabor",
      "Rename Name 1 to Name 2",
      "Add the folder Strings",
    ]);
    expect(desk.getState()).toMatchObject({ save: { kind: "saved" }, pending: [], lost: [], doc: service.doc });
  });

  it("does not do again what is in there, though much else is", async () => {
    const { desk, saver } = await withEdits(0);
    doGesture(desk, {
      edits: [{ kind: "entries.add", entries: { folders: [{ id: "f" as never, name: "Strings", colour: null }] } }],
    });
    await answered();
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await answered();
    service.restoreTo(2);
    for (const name of ["One", "Two", "Three"])
      service.does(service.head, `elsewhere ${name}`, [rename("track-2", name)]);
    await saver.catchUp();
    await saver.applyThere();
    await answered();
    expect(desk.getState()).toMatchObject({ lost: [], pending: [], doc: service.doc });
    expect(service.revisions.map((revision) => revision.names[0])).toEqual([
      "Add the folder Strings",
      "Rename Snare to One",
      "Rename One to Two",
      "Rename Two to Three",
      "Rename Fiddle to Viola",
    ]);
  });

  it("tells which of them can't be done there", async () => {
    const { desk, saver } = await withEdits(1);
    service.restoreTo(1, "2026-11-26T11:00:00.");
    service.does(1, "elsewhere", [{ kind: "entries.remove", table: "channels", ids: ["track-1" as never] }]);
    await saver.catchUp();
    await saver.applyThere();
    expect(desk.getState().lost).toMatchObject([{ name: "Rename Fiddle to Name 1" }]);
    expect(desk.getState().doc).toEqual(service.doc);
  });

  it("a template that is gone is told once, and goes on when it is brought back", async () => {
    const { desk, saver } = await withEdits(1);
    service.gone = true;
    doGesture(desk, { edits: [rename("track-1", "Viola")] });
    await answered();
    expect([desk.getState().save, service.posts]).toMatchObject([{ kind: "parted", how: "gone" }, 1]);
    expect(await saver.flush()).toBe(false);
    service.gone = false;
    expect(await saver.applyThere()).toBe(true);
    await answered();
    expect(nameOf(service.doc, "track-1")).toBe("Viola");
  });

  it("what it sends and can't be applied here ends in words, not in silence", async () => {
    const { desk, saver } = await withEdits(1);
    vi.spyOn(console, "error").mockImplementation(() => {});
    service.revisions.push({
      revision: 3,
      savedAt: "2026-11-26T13:00:00.000Z",
      batch: "x",
      by: "",
      origin: null,
      names: ["?"],
      commands: [{ kind: "remove", table: "channels", ids: ["nobody"] }],
    });
    await saver.catchUp();
    expect(desk.getState().save).toMatchObject({ kind: "parted", how: "broken" });
  });
});
