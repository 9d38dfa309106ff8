import { type Evaluation, evaluateAll } from "@/core/checks";
import { contextOf } from "@/core/checks/context";
import type { DeskStore } from "./desk-store";

/** Has the checks look whenever the document, a rig or the studio changes: in a worker, one at a time, always the newest. */
export class Evaluator {
  private worker: Worker | null = null;
  private asked = 0;
  private busy = false;
  private waiting = false;
  private end: (() => void) | null = null;

  constructor(private readonly desk: DeskStore) {}

  start(): void {
    this.worker = typeof Worker === "undefined" ? null : new Worker(new URL("../../workers/checks.worker.ts", import.meta.url));
    this.worker?.addEventListener("message", (event: MessageEvent<{ readonly number: number; readonly evaluation: Evaluation }>) => this.take(event.data.evaluation));
    this.worker?.addEventListener("error", () => {
      // Without the worker the checks look here: slower, never silent.
      this.worker = null;
      this.busy = false;
      this.ask();
    });
    this.end = this.desk.subscribe((state, before) => {
      if (state.doc !== before.doc || state.rigs !== before.rigs || state.studio !== before.studio) this.ask();
    });
  }

  stop(): void {
    this.end?.();
    this.worker?.terminate();
    this.worker = null;
    this.busy = false;
  }

  private ask(): void {
    if (this.busy) {
      this.waiting = true;
      return;
    }
    const context = contextOf(this.desk.getState());
    if (!this.worker) {
      this.desk.setState({ evaluation: evaluateAll(context) });
      return;
    }
    this.busy = true;
    this.asked += 1;
    this.worker.postMessage({ number: this.asked, context });
  }

  private take(evaluation: Evaluation): void {
    this.busy = false;
    this.desk.setState({ evaluation });
    if (!this.waiting) return;
    this.waiting = false;
    this.ask();
  }
}
