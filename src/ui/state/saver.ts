import type { Newer, NewerAnswer, SavedOn } from "@/contracts/answers";
import type { Command } from "@/core/commands/command";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { ServiceError } from "../shared/api";
import { whoIsHere } from "../shared/who";
import { leftOf, putBehind, takeFromBehind, tellLostBehind } from "./behind";
import { type Told, watchChanges } from "./changes";
import {
  adopt,
  answered,
  beginAnew,
  Diverged,
  type DocStore,
  drop,
  mend,
  type Opening,
  OtherAge,
  type SaveState,
  takeNewer,
} from "./doc-store";
import { Insisting, isAway } from "./insisting";
import { AWAY, type How, parted } from "./parted";
import { type Kept, PendingKeeper } from "./pending-keeper";

/** The service as far as one kind of document needs it. */
export interface Remote<D> {
  readonly kind: "template" | "rig" | "studio";
  load(id: string): Promise<Opening<D>>;
  save(
    id: string,
    body: {
      readonly base: number;
      readonly baseSavedAt: string;
      readonly by?: string;
      readonly batch: string;
      readonly made: number;
      readonly name: string;
      readonly commands: readonly Command[];
    },
  ): Promise<SavedOn>;
  newer(id: string, since: number): Promise<NewerAnswer>;
}

/**
 * A request that is on its way is waited for this often, so long each time, before what it carries is sent once more.
 */
const [TRIES, TRY_MS] = [50, 20];

/**
 * Sends pending gestures one by one, oldest first, and tries again for as long as the server is away. Takes in what
 * other windows save as it happens.
 */
export class Saver<D extends { readonly id: string; readonly name: string }, E extends { readonly kind: string }> {
  private running = false;
  private stopped = false;
  private left = false;
  /** Ends when what was not sent before is taken up; until then the screen may be left, but nothing of it given up. */
  private takingUp: Promise<void> | null = null;
  /** How often this window was told that the server is away. */
  private aways = 0;
  private readonly ends: (() => void)[] = [];
  private readonly insisting = new Insisting();
  private readonly keeper: PendingKeeper;
  private readonly about: string;

  constructor(
    private readonly store: DocStore<D, E>,
    private readonly remote: Remote<D>,
    private readonly watch = watchChanges,
  ) {
    this.about = `${remote.kind}:${store.getState().base.doc.id}`;
    this.keeper = new PendingKeeper(this.about);
  }

  start(): void {
    // Taken up again before it was done.
    if (leftOf(this.about)?.sending === this) this.stop();
    [this.stopped, this.left] = [false, false];
    this.ends.push(
      this.store.subscribe((state, before) => {
        if (this.left && state.lost !== before.lost)
          tellLostBehind(this.about, state.doc.name, state.lost.slice(before.lost.length));
        if (this.left && (state.pending !== before.pending || state.save !== before.save)) this.sayBehind();
        if (state.pending === before.pending) return;
        this.keeper.keep(state.pending, state.doc.name);
        if (state.pending.length) void this.run();
        else if (this.left && !this.takingUp) this.stop();
      }),
      this.watch((told) => this.hear(told)),
    );
    void this.begin();
  }

  /** The screen is left: what is not saved yet goes out all the same. */
  leave(): void {
    if (!this.takingUp && !this.store.getState().pending.length) {
      this.stop();
      return;
    }
    this.left = true;
    this.sayBehind();
  }

  private sayBehind(): void {
    const { doc, pending, save } = this.store.getState();
    putBehind(this.about, { name: doc.name, edits: pending.map((gesture) => gesture.name), save, sending: this });
  }

  /**
   * Gives what it has not sent to the screen that shows the document again. What is on its way is waited for a moment,
   * so that it is not sent twice.
   */
  async handOver(): Promise<readonly Kept[]> {
    await this.takingUp;
    this.stop();
    for (let tries = 0; this.running && tries < TRIES; tries++)
      await new Promise((resolve) => setTimeout(resolve, TRY_MS));
    return this.store.getState().pending.map((gesture) => ({ ...gesture, made: GESTURE_VERSION }));
  }

  /** What it kept in the browser is kept by another now. */
  forget(): void {
    this.keeper.keep([], "");
  }

  stop(): void {
    takeFromBehind(this.about, this);
    this.stopped = true;
    for (const end of this.ends.splice(0)) end();
    this.insisting.hurry();
  }

  /** Tries at once instead of waiting out the pause. */
  hurry(): void {
    this.insisting.hurry();
    void this.run();
    void this.catchUp();
  }

  /** Resolves true when everything is saved, false when the server is away. */
  async flush(): Promise<boolean> {
    this.hurry();
    for (let tries = 0; tries < 100; tries++) {
      const { pending, save } = this.store.getState();
      if (!pending.length) return true;
      if (save.kind === "parted" || (save.kind === "away" && tries > 10)) return false;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return false;
  }

  /** Takes in what other windows saved since, when nothing is on its way from here. */
  async catchUp(): Promise<void> {
    if (this.store.getState().pending.length || this.stopped || this.isParted) return;
    const { aways } = this;
    try {
      while (await this.takeSome());
      if (!this.store.getState().pending.length && !this.isParted) this.reached(aways);
    } catch (error) {
      await this.recover(error, false);
    }
  }

  /**
   * Begins from what the server has, and does there again what this window did. Answers whether the server was reached.
   */
  async applyThere(): Promise<boolean> {
    try {
      const there = await this.remote.load(this.id);
      beginAnew(this.store, there, await this.presentThere());
    } catch (error) {
      if (error instanceof ServiceError) return false;
      throw error;
    }
    void this.run();
    return true;
  }

  /** A person gives up the edit that the server does not take; the others go on without it. */
  leaveOut(): void {
    const { save } = this.store.getState();
    if (save.kind !== "parted" || save.how !== "refused") return;
    drop(this.store, "the server did not take it, and it was left out.");
    this.store.setState({ save: { kind: "saving" } });
    this.hurry();
  }

  /** What this window shows was kept elsewhere: nothing of it waits to be sent any more. */
  letGo(): void {
    this.store.setState({ pending: [] });
  }

  /** Ids of the gestures of this window that the server has, among all that it has since the first of them. */
  private async presentThere(): Promise<ReadonlySet<string>> {
    const present = new Set<string>();
    const [first] = this.store.getState().kept;
    let since = (first?.revision ?? Number.POSITIVE_INFINITY) - 1;
    for (let more = first !== undefined; more; ) {
      const answer = await this.remote.newer(this.id, since);
      for (const { batch } of answer.newer) if (batch) present.add(batch);
      since = answer.newer.at(-1)?.revision ?? since;
      more = answer.more && answer.newer.length > 0;
    }
    return present;
  }

  private get id(): string {
    return this.store.getState().base.doc.id;
  }

  private get isParted(): boolean {
    return this.store.getState().save.kind === "parted";
  }

  private say(save: SaveState): void {
    if (this.store.getState().save.kind !== save.kind) this.store.setState({ save });
  }

  /**
   * The server answered. When it was told to be away since it was asked, the answer is from before, and it is asked
   * again.
   */
  private reached(aways: number): void {
    if (aways === this.aways) this.say({ kind: this.store.getState().pending.length ? "saving" : "saved" });
    else void this.catchUp();
  }

  private part(how: How, because?: string): void {
    this.store.setState({ save: parted(how, this.remote.kind, because) });
  }

  private hear(told: Told): void {
    if (told === "away") {
      this.aways += 1;
      if (!this.isParted) this.say({ kind: "away", why: AWAY });
      return;
    }
    if (told === "again") this.hurry();
    else if (told.kind === this.remote.kind && told.id === this.id) this.hearOfOwn(told);
  }

  private hearOfOwn({ gone, revision }: Exclude<Told, string>): void {
    const { save, base } = this.store.getState();
    if (gone) this.part("gone");
    else if (gone === false) {
      // Brought back, in this window or another.
      if (save.kind === "parted" && save.how === "gone") this.store.setState({ save: { kind: "saving" } });
      this.hurry();
    } else if (revision > base.revision) void this.catchUp();
  }

  /**
   * What was not sent when the document was left is done again on what the server has now: what this page left, and
   * what pages that are gone did.
   */
  private async takeUp(): Promise<void> {
    const before = leftOf(this.about)?.sending;
    if (before) {
      const rest = await before.handOver();
      try {
        while (await this.takeSome());
      } catch {
        // Away: it is done on what was opened, and put right when the server is back.
      }
      adopt(this.store, rest);
      before.forget();
    }
    const orphans = await this.keeper.takeOrphans().catch(() => []);
    if (orphans.length) adopt(this.store, orphans);
  }

  private async begin(): Promise<void> {
    this.takingUp = this.takeUp();
    await this.takingUp;
    this.takingUp = null;
    if (this.left && !this.store.getState().pending.length) {
      this.stop();
      return;
    }
    void this.run();
    await this.catchUp();
  }

  /** Takes in the next part of what is newer. Answers whether there is more. */
  private async takeSome(): Promise<boolean> {
    const { base } = this.store.getState();
    const { head, sinceSavedAt, newer, more } = await this.remote.newer(this.id, base.revision);
    if (this.store.getState().base !== base) return false;
    if (head < base.revision || sinceSavedAt !== base.savedAt) {
      this.part("past");
      return false;
    }
    takeNewer(this.store, newer);
    return more && newer.length > 0;
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (!this.stopped && !this.isParted && this.store.getState().pending.length) await this.sendOldest();
    } finally {
      // Also after a bug: the next edit must find the way free.
      this.running = false;
    }
  }

  /**
   * Sends the oldest gesture, again and again for as long as the server is away. Whoever can't wait hurries it, and it
   * begins anew.
   */
  private async sendOldest(): Promise<void> {
    try {
      await this.insisting.until(
        () => this.sendOnce(),
        (why) => {
          this.store.setState({ save: { kind: "away", why } });
          return !this.stopped;
        },
      );
    } catch (error) {
      await this.recover(error, true);
    }
  }

  private async sendOnce(): Promise<void> {
    const { base, pending, save } = this.store.getState();
    const gesture = pending[0];
    // Also after a wait in which it was left, or was told of what a person must decide.
    if (!gesture || this.stopped || this.isParted) return;
    if (save.kind === "saved") this.say({ kind: "saving" });
    const { aways } = this;
    const saved = await this.remote.save(this.id, {
      base: base.revision,
      baseSavedAt: base.savedAt,
      batch: gesture.id,
      made: GESTURE_VERSION,
      name: gesture.name.slice(0, 400),
      ...(whoIsHere() ? { by: whoIsHere() } : {}),
      commands: gesture.commands,
    });
    if (saved.newer?.length) takeNewer(this.store, saved.newer);
    answered(this.store, gesture.id, saved);
    this.reached(aways);
  }

  /** What is done about an error: every one ends in a state that a person sees. */
  private async recover(error: unknown, sending: boolean): Promise<void> {
    if (error instanceof OtherAge) this.part("renewed");
    else if (error instanceof Diverged) await this.mend(error);
    else if (!(error instanceof ServiceError)) {
      this.part("broken");
      console.error(error);
    } else if (error.status === 404) this.part("gone");
    else if (error.status === 409) this.takeAnswer(error);
    else if (isAway(error)) this.say({ kind: "away", why: AWAY });
    else if (sending) this.part("refused", error.message);
    else this.say({ kind: "away", why: error.message });
  }

  /**
   * What was saved is something else there than here: the server's is taken, what is not saved yet is done on it, and
   * it is told.
   */
  private async mend(error: Diverged): Promise<void> {
    console.error(error);
    try {
      mend(this.store, await this.remote.load(this.id), error.savedId);
      this.say({ kind: this.store.getState().pending.length ? "saving" : "saved" });
    } catch {
      this.part("broken");
    }
  }

  private takeAnswer({ problem }: ServiceError): void {
    const newer = (problem?.newer ?? []) as unknown as readonly Newer[];
    if (problem?.renewed) {
      this.part("renewed");
      return;
    }
    if (problem?.parted || !newer.length) {
      this.part("past");
      return;
    }
    try {
      takeNewer(this.store, newer);
    } catch (error) {
      this.part(error instanceof OtherAge ? "renewed" : "broken");
      console.error(error);
    }
  }
}
