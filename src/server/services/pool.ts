import { join } from "node:path";
import { Piscina } from "piscina";
import { type InputOf, type Order, type Outcome, type OutputOf, TASKS, type TaskName } from "../tasks";
import { Failure } from "./failure";

/** Up to this many bytes of input a task is done where it is asked for: some milliseconds, less than the way to a thread and back is worth. */
const LITTLE_BYTES = 48 * 1024;
/** The longest a task may take, in a thread of its own. The largest lists and sheets need a few seconds here. */
const MOST_MS = 20_000;
/** A sheet of as many pages as the largest template needs takes longer. */
const MOST_SHEET_MS = 90_000;
const MOST_MIB = 384;
/** Tasks that wait; more are told to come again. */
const MOST_WAITING = 24;

interface Pools {
  /** Lists, sheets, judging: what can wait for another. */
  readonly long: Piscina<Order, Outcome>;
  /** Edits of large documents, which wait for no list. */
  readonly edits: Piscina<Order, Outcome>;
}

const poolOf = () =>
  new Piscina<Order, Outcome>({
    filename: process.env.WANDEL_TASKS ?? join(process.cwd(), ".next/tasks.mjs"),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 30_000,
    maxQueue: MOST_WAITING,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MIB, maxYoungGenerationSizeMb: 32 },
  });

/** One pair of pools a process, also over the reloads of development. */
const holder = globalThis as typeof globalThis & { wandelPools?: Pools };
const pools = (): Pools => {
  holder.wandelPools ??= { long: poolOf(), edits: poolOf() };
  return holder.wandelPools;
};

export const closePools = async (): Promise<void> => {
  const open = holder.wandelPools;
  delete holder.wandelPools;
  await Promise.all([open?.long.destroy(), open?.edits.destroy()]);
};

const sizeOf = (value: unknown): number => {
  if (typeof value === "string") return value.length;
  if (value instanceof Uint8Array) return value.byteLength;
  if (Array.isArray(value)) return value.reduce<number>((sum, item) => sum + sizeOf(item), 0);
  return typeof value === "object" && value !== null ? Object.values(value).reduce<number>((sum, item) => sum + sizeOf(item), 0) : 8;
};

/** Bytes that lie in memory of their own go over to the thread without a copy; nobody here reads them afterwards. */
const handedOver = (input: object): ArrayBuffer[] =>
  Object.values(input).flatMap((value) =>
    value instanceof Uint8Array && value.buffer instanceof ArrayBuffer && value.byteLength === value.buffer.byteLength ? [value.buffer] : [],
  );

/** Tasks that are more work than their input tells. */
const ALWAYS_LONG: readonly TaskName[] = ["previewList", "templateOfList", "templateOfDocument", "rigOfDocument", "writeTemplate"];

const mostMs = (name: TaskName): number => (name === "writeTemplate" ? MOST_SHEET_MS : MOST_MS);

const told = (error: unknown, gone: AbortSignal | undefined, most: number): Error => {
  const { code, message = "" } = error as { readonly code?: string; readonly message?: string };
  if (gone?.aborted) return new Failure(499, "Gone", "Whoever asked has gone; the work was ended.");
  if (error instanceof Error && error.name === "AbortError")
    return new Failure(422, "Takes too long", `This takes longer than ${most / 1000} seconds, and was ended. Send less of it at once.`);
  if (code === "ERR_WORKER_OUT_OF_MEMORY") return new Failure(422, "Takes too much", `This takes more than ${MOST_MIB} MiB of memory, and was ended. Send less of it at once.`);
  if (/Task queue is at limit|maxQueue/i.test(message))
    return new Failure(503, "Much to do", "Others have sent much at once. Try again in a moment; nothing of yours was changed.");
  return error as Error;
};

interface Asking {
  /** Ends the work when whoever asked has gone. */
  readonly signal?: AbortSignal | undefined;
  readonly pool?: keyof Pools;
}

/** Does a task: here when its input is small, else in a thread with limits on time and memory. */
export const task = async <K extends TaskName>(name: K, input: InputOf<K>, { signal, pool = "long" }: Asking = {}): Promise<OutputOf<K>> => {
  if (!ALWAYS_LONG.includes(name) && sizeOf(input) <= LITTLE_BYTES) return (await (TASKS[name] as (given: InputOf<K>) => unknown)(input)) as OutputOf<K>;
  const limit = AbortSignal.timeout(mostMs(name));
  let outcome: Outcome;
  try {
    outcome = await pools()[pool].run({ task: name, input }, { signal: signal ? AbortSignal.any([signal, limit]) : limit, transferList: handedOver(input) });
  } catch (error) {
    throw told(error, signal, mostMs(name));
  }
  if (outcome.ok) return outcome.value as OutputOf<K>;
  const { status, title, message, extra } = outcome.failure;
  throw new Failure(status, title, message, extra);
};
