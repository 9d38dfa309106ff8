import { api, ServiceError } from "../shared/api";
import { type DeskStore, drop, settle, takeNewer } from "./desk-store";

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 5000;

/** Sends pending gestures one by one, oldest first, and tries again for as long as the server is away. */
export class Saver {
  private running = false;
  private stopped = false;
  private pauseMs = FIRST_PAUSE_MS;
  private wake: (() => void) | null = null;
  private unsubscribe: (() => void) | null = null;

  constructor(private readonly desk: DeskStore) {}

  start(): void {
    this.stopped = false;
    this.unsubscribe = this.desk.subscribe((state, before) => {
      if (state.pending !== before.pending && state.pending.length) void this.run();
    });
    void this.run();
    void this.catchUp();
  }

  stop(): void {
    this.stopped = true;
    this.unsubscribe?.();
    this.wake?.();
  }

  /** Tries at once instead of waiting out the pause. */
  hurry(): void {
    this.pauseMs = FIRST_PAUSE_MS;
    this.wake?.();
    void this.run();
  }

  /** Resolves true when everything is saved, false when the server is away. */
  async flush(): Promise<boolean> {
    this.hurry();
    for (let tries = 0; tries < 100; tries++) {
      const { pending, save } = this.desk.getState();
      if (!pending.length) return true;
      if (save.kind === "away" && tries > 10) return false;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return false;
  }

  /** Takes in what other windows saved since, when nothing is on its way from here. */
  async catchUp(): Promise<void> {
    const { base, pending } = this.desk.getState();
    if (pending.length) return;
    try {
      takeNewer(this.desk, (await api.newer(base.doc.id, base.revision)).newer);
    } catch (error) {
      // Away for now: the next edit or the next look at this window asks again.
      if (!(error instanceof ServiceError)) throw error;
    }
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (!this.stopped && this.desk.getState().pending.length) await this.sendOldest();
    } finally {
      // Also after a bug: the next edit must find the way free.
      this.running = false;
    }
    if (!this.desk.getState().pending.length) this.desk.setState({ save: { kind: "saved" } });
  }

  private async sendOldest(): Promise<void> {
    const { base, pending, save } = this.desk.getState();
    const gesture = pending[0];
    if (!gesture) return;
    if (save.kind === "saved") this.desk.setState({ save: { kind: "saving" } });
    try {
      const saved = await api.save(base.doc.id, { base: base.revision, batch: gesture.id, commands: gesture.commands });
      settle(this.desk, gesture.id, saved);
      this.pauseMs = FIRST_PAUSE_MS;
      this.desk.setState({ save: { kind: "saving" } });
    } catch (error) {
      await this.recover(error);
    }
  }

  private async recover(error: unknown): Promise<void> {
    if (!(error instanceof ServiceError)) throw error;
    if (error.status === 409 && error.problem?.newer) takeNewer(this.desk, error.problem.newer);
    else if (error.away || error.status === 404) await this.wait(error.message);
    else drop(this.desk, error.message);
  }

  private async wait(why: string): Promise<void> {
    this.desk.setState({ save: { kind: "away", why } });
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, this.pauseMs);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
    this.wake = null;
    this.pauseMs = Math.min(LONGEST_PAUSE_MS, this.pauseMs * 1.6);
  }
}
