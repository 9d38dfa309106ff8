import { contextOf } from "@/core/checks/context";
import { withChange } from "@/core/checks/evaluation-change";
import { differenceOf } from "@/core/commands/difference";
import { TEMPLATE, type Template } from "@/core/model/template";
import type { Asked, Judged } from "@/workers/judge";
import type { Desk, DeskStore } from "./desk-store";

/** What the worker was told last. */
type Told = Pick<Desk, "doc" | "rigs" | "studio">;

/**
 * Has the checks look whenever the document, a rig or the studio changes: in a worker that keeps the document, one at a
 * time, always the newest.
 */
export class Evaluator {
  private worker: Worker | null = null;
  private asked = 0;
  private busy = false;
  private waiting = false;
  private told: Told | null = null;
  private end: (() => void) | null = null;

  constructor(private readonly desk: DeskStore) {}

  start(): void {
    this.worker =
      typeof Worker === "undefined" ? null : new Worker(new URL("../../workers/checks.worker.ts", import.meta.url));
    this.worker?.addEventListener("message", (event: MessageEvent<Judged>) => this.take(event.data));
    this.worker?.addEventListener("error", () => {
      // Without the worker the checks look here: slower, never silent.
      this.worker = null;
      this.busy = false;
      this.ask();
    });
    this.end = this.desk.subscribe((state, before) => {
      if (state.doc !== before.doc || state.rigs !== before.rigs || state.studio !== before.studio) this.ask();
    });
    this.ask();
  }

  stop(): void {
    this.end?.();
    this.end = null;
    this.worker?.terminate();
    this.worker = null;
    this.busy = false;
    this.told = null;
  }

  private ask(): void {
    if (this.busy) {
      this.waiting = true;
      return;
    }
    const { doc, rigs, studio } = this.desk.getState();
    this.busy = true;
    if (!this.worker) {
      void this.lookHere({ doc, rigs, studio });
      return;
    }
    this.asked += 1;
    this.worker.postMessage(this.question({ doc, rigs, studio }));
    this.told = { doc, rigs, studio };
  }

  /** Without a worker; the rules are fetched only then. */
  private async lookHere(now: Told): Promise<void> {
    const { evaluateAll } = await import("@/core/checks");
    if (this.end) this.take({ number: this.asked, evaluation: evaluateAll(contextOf(now)) });
  }

  /**
   * Only what changed of the document, when nothing else did; which of the rigs is its own follows from the document.
   */
  private question(now: Told): Asked {
    const { told, asked: number } = this;
    const alone = told && told.rigs === now.rigs && told.studio === now.studio && told.doc.rigId === now.doc.rigId;
    return alone
      ? { number, change: differenceOf(TEMPLATE, told.doc satisfies Template, now.doc) }
      : { number, context: contextOf(now) };
  }

  private take(judged: Judged): void {
    this.busy = false;
    this.desk.setState(({ evaluation }) => ({
      evaluation: "change" in judged ? withChange(evaluation, judged.change) : judged.evaluation,
    }));
    if (!this.waiting) return;
    this.waiting = false;
    this.ask();
  }
}
