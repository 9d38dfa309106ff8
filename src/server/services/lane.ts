import { join } from "node:path";
import { Piscina } from "piscina";
import type { Order, Outcome } from "../tasks";
import { Failure } from "./failure";

export interface Job {
  readonly order: Order;
  readonly transfer: readonly ArrayBuffer[];
  /** What it is about, and who asks: those who wait take turns by both. */
  readonly about: string;
  readonly client: string;
  readonly mostMs: number;
  readonly signal?: AbortSignal | undefined;
}

interface Waiting extends Job {
  readonly since: number;
  readonly answer: (outcome: Outcome) => void;
  readonly fail: (error: Error) => void;
}

interface Settings {
  readonly name: string;
  /** How far behind others its thread stands, from 0 to 19. */
  readonly nice: number;
  readonly mostMib: number;
  /** A thread that has nothing to do is given back after this. */
  readonly idleMs: number;
}

/** Jobs that wait in one lane, and of one client; more are told to come again. */
const MOST_WAITING = 24;
const MOST_OF_CLIENT = 12;
/** What is young is kept small: every thread has some of this for it. */
const YOUNG_MIB = 12;
/** Nobody waits longer than this for the work to begin. */
const MOST_WAIT_MS = 15_000;

export const comeAgain = (why: string): Failure =>
  new Failure(503, "Much to do", `${why} Try again in a moment; nothing of yours was changed.`);

const gone = (): Failure => new Failure(499, "Gone", "Whoever asked has gone; the work was ended.");

/**
 * Work in a thread of its own, one job after the other. Those who ask take turns: by client, then by what they ask
 * about. Time counts from when the work begins. A thread that ran out of time or memory is left behind, and the next
 * job begins at once in another.
 */
export class Lane {
  private readonly queue: Waiting[] = [];
  private running: Waiting | null = null;
  private pool: Piscina<Order, Outcome> | null = null;
  private turn = 0;
  private readonly served = new Map<string, number>();

  constructor(private readonly settings: Settings) {}

  run(job: Job): Promise<Outcome> {
    if (job.signal?.aborted) return Promise.reject(gone());
    if (this.queue.length >= MOST_WAITING) return Promise.reject(comeAgain("Others have sent much at once."));
    if (this.queue.filter(({ client }) => client === job.client).length >= MOST_OF_CLIENT && job.client !== "")
      return Promise.reject(comeAgain(`${MOST_OF_CLIENT} of what you asked for is still waiting.`));
    return new Promise((answer, fail) => {
      const waiting: Waiting = { ...job, since: Date.now(), answer, fail };
      this.queue.push(waiting);
      const leave = (error: Error): void => {
        const at = this.queue.indexOf(waiting);
        if (at < 0) return;
        this.queue.splice(at, 1);
        fail(error);
      };
      job.signal?.addEventListener("abort", () => leave(gone()), { once: true });
      setTimeout(() => leave(comeAgain("What others asked for before takes long.")), MOST_WAIT_MS).unref();
      this.next();
    });
  }

  /** Whose turn it is: of the client, and then of the thing, that was served longest ago. */
  private take(): Waiting | undefined {
    let best: Waiting | undefined;
    const last = (key: string): number => this.served.get(key) ?? -1;
    for (const one of this.queue) {
      const before =
        best &&
        (last(`client ${one.client}`) - last(`client ${best.client}`) ||
          last(`about ${one.about}`) - last(`about ${best.about}`));
      if (before === undefined || before < 0) best = one;
    }
    if (!best) return undefined;
    this.queue.splice(this.queue.indexOf(best), 1);
    if (this.served.size > 500) this.served.clear();
    for (const key of [`client ${best.client}`, `about ${best.about}`]) this.served.set(key, ++this.turn);
    return best;
  }

  private next(): void {
    if (this.running || !this.queue.length) return;
    const job = this.take();
    if (!job) return;
    this.running = job;
    this.work(job).finally(() => {
      this.running = null;
      this.next();
    });
  }

  private async work(job: Waiting): Promise<void> {
    const limit = AbortSignal.timeout(job.mostMs);
    try {
      this.pool ??= this.open();
      job.answer(
        await this.pool.run(job.order, {
          signal: job.signal ? AbortSignal.any([job.signal, limit]) : limit,
          transferList: [...job.transfer],
        }),
      );
    } catch (error) {
      // Whatever became of that thread, the next job gets another.
      this.leave();
      job.fail(this.told(error, job, limit));
    }
  }

  private told(error: unknown, { signal, mostMs }: Job, limit: AbortSignal): Error {
    if (signal?.aborted) return gone();
    if (limit.aborted)
      return new Failure(422, "Takes too long", `This takes longer than ${mostMs / 1000} seconds, and was ended.`);
    const { code, message = "" } = error as { readonly code?: string; readonly message?: string };
    if (code === "ERR_WORKER_OUT_OF_MEMORY" || /out of memory|memory limit/i.test(message))
      return new Failure(
        422,
        "Takes too much",
        `This takes more than ${this.settings.mostMib} MiB of memory, and was ended.`,
      );
    return error as Error;
  }

  private open(): Piscina<Order, Outcome> {
    const { nice, mostMib, idleMs } = this.settings;
    const pool = new Piscina<Order, Outcome>({
      filename: process.env.WANDEL_TASKS ?? join(process.cwd(), ".next/tasks.mjs"),
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: idleMs,
      workerData: { nice },
      resourceLimits: { maxOldGenerationSizeMb: mostMib, maxYoungGenerationSizeMb: YOUNG_MIB },
    });
    // Told by the job that ran into it; unheard it would end the server.
    pool.on("error", () => {});
    return pool;
  }

  private leave(): void {
    const left = this.pool;
    this.pool = null;
    void left?.destroy().catch(() => {});
  }

  async close(): Promise<void> {
    const open = this.pool;
    this.pool = null;
    await open?.destroy();
  }
}
