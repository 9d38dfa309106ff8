import { afterEach, describe, expect, it, vi } from "vitest";
import { evaluateAll } from "@/core/checks";
import { contextOf } from "@/core/checks/context";
import { wheelhouseCart } from "@/core/demo/rigs";
import { newStudio } from "@/core/model/studio";
import { aTemplate } from "@/core/testing/a-template";
import { type Asked, type Judged, judge } from "@/workers/judge";
import { createDesk, type DeskStore, doGesture, NOT_JUDGED } from "./desk-store";
import { Evaluator } from "./evaluator";

/** A worker that answers when it is told to. */
class FakeWorker {
  static made: FakeWorker[] = [];
  readonly asked: Asked[] = [];
  ended = false;
  private readonly judged = judge();
  private readonly listeners = new Map<string, (event: { readonly data?: unknown }) => void>();
  constructor() {
    FakeWorker.made.push(this);
  }
  addEventListener(type: string, listener: (event: { readonly data?: unknown }) => void): void {
    this.listeners.set(type, listener);
  }
  private last: Judged | null = null;
  postMessage(message: Asked): void {
    this.asked.push(structuredClone(message));
    this.last = this.judged(structuredClone(message));
  }
  terminate(): void {
    this.ended = true;
  }
  answer(): void {
    if (this.last) this.listeners.get("message")?.({ data: structuredClone(this.last) });
  }
  break(): void {
    this.listeners.get("error")?.({});
  }
}

const open = (): DeskStore =>
  createDesk({
    document: aTemplate().track("Fiddle", { input: "9" }).build(),
    revision: 1,
    savedAt: "",
    rigs: [wheelhouseCart],
    studio: newStudio("Test"),
  });
const name = (desk: DeskStore, to: string) =>
  doGesture(desk, {
    edits: [{ kind: "entries.set", table: "channels", ids: ["track-1" as never], set: { name: to } }],
  });
const messages = (desk: DeskStore) => desk.getState().evaluation.open.map((finding) => finding.message);

afterEach(() => {
  vi.unstubAllGlobals();
  FakeWorker.made = [];
});

describe("the checks beside the screen", () => {
  it("know nothing, neither good nor bad, until they have looked; and look at once when a template is opened", async () => {
    const desk = open();
    name(desk, "a/b");
    expect(desk.getState().evaluation).toBe(NOT_JUDGED);
    const evaluator = new Evaluator(desk);
    evaluator.start();
    await vi.waitFor(() => expect(desk.getState().evaluation).toEqual(evaluateAll(contextOf(desk.getState()))));
    expect(messages(desk).length).toBeGreaterThan(0);
    evaluator.stop();
  });

  it("look again after an edit, in the worker; while one is under way only the newest waits", () => {
    vi.stubGlobal("Worker", FakeWorker);
    const desk = open();
    const evaluator = new Evaluator(desk);
    evaluator.start();
    const [worker] = FakeWorker.made;
    worker?.answer();
    for (const to of ["a/b", "c", "CON"]) name(desk, to);
    expect(worker?.asked).toHaveLength(2);
    worker?.answer();
    expect(messages(desk)).toContain("“a/b” can't be a file name because of /.");
    expect(worker?.asked).toHaveLength(3);
    worker?.answer();
    expect(messages(desk)).toEqual(["“CON” is a name that file systems keep for devices."]);
    evaluator.stop();
    expect(worker?.ended).toBe(true);
    name(desk, "d");
    expect(worker?.asked).toHaveLength(3);
  });

  it("look here when there is no worker, or when it breaks", async () => {
    const desk = open();
    const without = new Evaluator(desk);
    without.start();
    name(desk, "CON");
    await vi.waitFor(() => expect(messages(desk)).toHaveLength(1));
    without.stop();

    vi.stubGlobal("Worker", FakeWorker);
    const broken = new Evaluator(desk);
    broken.start();
    name(desk, "a:b");
    FakeWorker.made[0]?.break();
    await vi.waitFor(() => expect(messages(desk)).toEqual(["“a:b” can't be a file name because of :."]));
    broken.stop();
  });

  it("follow the rig as well", async () => {
    const desk = open();
    const evaluator = new Evaluator(desk);
    evaluator.start();
    const { "brindle:in:9": _gone, ...ports } = wheelhouseCart.ports as Record<string, never>;
    desk.setState({ rigs: [{ ...wheelhouseCart, ports: ports as never, wires: {} }] });
    await vi.waitFor(() =>
      expect(messages(desk)).toEqual(["Fiddle is on an input that Wheelhouse cart no longer has."]),
    );
    evaluator.stop();
  });
});
