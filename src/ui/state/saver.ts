import type { NewerOf, Saved } from "@/contracts/answers";
import type { PendingOf } from "@/core/history/rebase";
import { ServiceError } from "../shared/api";
import { watchChanges } from "./changes";
import { adopt, type DocStore, drop, settle, takeNewer } from "./doc-store";
import { PendingKeeper } from "./pending-keeper";

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 5000;

/** The service as far as one kind of document needs it. */
export interface Remote<C> {
  readonly kind: "template" | "rig" | "studio";
  save(id: string, body: { readonly base: number; readonly batch: string; readonly commands: readonly C[] }): Promise<Saved>;
  newer(id: string, since: number): Promise<{ readonly newer: readonly NewerOf<C>[] }>;
}

const AWAY = "The server or its database can't be reached. What you do is kept in this window and saved when it is back.";

/** Sends pending gestures one by one, oldest first, and tries again for as long as the server is away. Takes in what other windows save as it happens. */
export class Saver<D extends { readonly id: string }, C extends { readonly kind: string }> {
  private running = false;
  private stopped = false;
  private pauseMs = FIRST_PAUSE_MS;
  private wake: (() => void) | null = null;
  private readonly ends: (() => void)[] = [];
  private readonly keeper: PendingKeeper<C>;

  constructor(
    private readonly store: DocStore<D, C>,
    private readonly remote: Remote<C>,
  ) {
    this.keeper = new PendingKeeper(`${remote.kind}:${store.getState().base.doc.id}`);
  }

  start(): void {
    this.stopped = false;
    this.ends.push(
      this.store.subscribe((state, before) => {
        if (state.pending === before.pending) return;
        this.keeper.keep(state.pending);
        if (state.pending.length) void this.run();
      }),
      watchChanges((told) => {
        if (told === "away") this.say({ kind: "away", why: AWAY });
        else if (told === "again") this.hurry();
        else if (told.kind === this.remote.kind && told.id === this.id && told.revision > this.store.getState().base.revision) void this.catchUp();
      }),
    );
    void this.begin();
  }

  stop(): void {
    this.stopped = true;
    for (const end of this.ends.splice(0)) end();
    this.wake?.();
  }

  /** Tries at once instead of waiting out the pause. */
  hurry(): void {
    this.pauseMs = FIRST_PAUSE_MS;
    this.wake?.();
    void this.run();
    void this.catchUp();
  }

  /** Resolves true when everything is saved, false when the server is away. */
  async flush(): Promise<boolean> {
    this.hurry();
    for (let tries = 0; tries < 100; tries++) {
      const { pending, save } = this.store.getState();
      if (!pending.length) return true;
      if (save.kind === "away" && tries > 10) return false;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return false;
  }

  /** Takes in what other windows saved since, when nothing is on its way from here. */
  async catchUp(): Promise<void> {
    const { base, pending } = this.store.getState();
    if (pending.length || this.stopped) return;
    try {
      takeNewer(this.store, (await this.remote.newer(this.id, base.revision)).newer);
      if (!this.store.getState().pending.length) this.say({ kind: "saved" });
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      if (error.away) this.say({ kind: "away", why: AWAY });
    }
  }

  private get id(): string {
    return this.store.getState().base.doc.id;
  }

  private say(save: ReturnType<DocStore<D, C>["getState"]>["save"]): void {
    if (this.store.getState().save.kind !== save.kind) this.store.setState({ save });
  }

  private async begin(): Promise<void> {
    const left = (await this.keeper.takeOrphans().catch(() => [])) as readonly PendingOf<C>[];
    if (left.length) adopt(this.store, left);
    void this.run();
    await this.catchUp();
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (!this.stopped && this.store.getState().pending.length) await this.sendOldest();
    } finally {
      // Also after a bug: the next edit must find the way free.
      this.running = false;
    }
  }

  private async sendOldest(): Promise<void> {
    const { base, pending, save } = this.store.getState();
    const gesture = pending[0];
    if (!gesture) return;
    if (save.kind === "saved") this.say({ kind: "saving" });
    try {
      const saved = await this.remote.save(this.id, { base: base.revision, batch: gesture.id, commands: gesture.commands });
      settle(this.store, gesture.id, saved);
      this.pauseMs = FIRST_PAUSE_MS;
      this.say({ kind: this.store.getState().pending.length ? "saving" : "saved" });
    } catch (error) {
      await this.recover(error);
    }
  }

  private async recover(error: unknown): Promise<void> {
    if (!(error instanceof ServiceError)) throw error;
    if (error.status === 409 && error.problem?.newer) takeNewer(this.store, error.problem.newer as unknown as readonly NewerOf<C>[]);
    else if (error.away || error.status === 404) await this.wait(error.message);
    else drop(this.store, error.message);
  }

  private async wait(why: string): Promise<void> {
    this.store.setState({ save: { kind: "away", why } });
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
