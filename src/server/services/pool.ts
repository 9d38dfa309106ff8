import { type InputOf, type OutputOf, TASKS, type TaskName } from "../tasks";
import { clientNow } from "./asking";
import { Failure } from "./failure";
import { Lane } from "./lane";

/**
 * Up to this many bytes of input a task is done where it is asked for: some milliseconds, less than the way to a thread
 * and back is worth.
 */
const LITTLE_BYTES = 48 * 1024;
/** From so many bytes on it is large, and goes beside what is not: nobody's little question waits for it. */
const LARGE_BYTES = 640 * 1024;
/** The longest a task may take once it has begun. The largest lists and sheets need a few seconds here. */
const MOST_MS = 20_000;
/** A sheet of as many pages as the largest template needs takes longer. */
const MOST_SHEET_MS = 90_000;

/** What is done beside one another: edits, judging, lists that are read, sheets, and answers about a document. */
export const LANES = ["edits", "judging", "lists", "sheets", "answers"] as const;
export type LaneName = (typeof LANES)[number];

const LANE_OF: { readonly [K in TaskName]: LaneName } = {
  applyBatch: "edits",
  documentHeld: "edits",
  holdHead: "edits",
  broughtTogether: "lists",
  broughtUp: "lists",
  copiesOf: "lists",
  stored: "lists",
  renamed: "lists",
  previewList: "lists",
  templateOfList: "lists",
  templateOfDocument: "lists",
  rigOfDocument: "lists",
  judge: "judging",
  touched: "judging",
  writeTemplate: "sheets",
  writeRig: "sheets",
  chainsOf: "answers",
  keptChainsOf: "answers",
  findingsOf: "answers",
  flowOf: "answers",
  delayOf: "answers",
  levelsOf: "answers",
  lowLatencyOf: "answers",
  storageTold: "answers",
  pathsOf: "answers",
  lessonsOf: "answers",
  sessionOf: "lists",
};

/** Tasks that are more work than their input tells. */
const ALWAYS_BESIDE: readonly TaskName[] = [
  "applyBatch",
  "documentHeld",
  "holdHead",
  "judge",
  "previewList",
  "templateOfList",
  "templateOfDocument",
  "rigOfDocument",
  "writeTemplate",
];

/** What is large shares two lanes: answers and judging one, files the other, so that memory stays bounded. */
type Lanes = { readonly [L in LaneName]: { readonly usual: Lane; readonly large: Lane } };

/** Edits go to one thread, which holds the documents it works on for as long as somebody does. */
const EDITING_MS = 10 * 60_000;

/**
 * One set of lanes a process, also over the reloads of development. What is large stands behind what is not, and
 * judging behind both.
 */
const holder = globalThis as typeof globalThis & { wandelLanes?: Lanes };
const lanes = (): Lanes => {
  if (holder.wandelLanes) return holder.wandelLanes;
  const usual = (name: LaneName, nice: number): Lane => new Lane({ name, nice, mostMib: 160, idleMs: 15_000 });
  const large = (name: string, nice: number): Lane => new Lane({ name, nice, mostMib: 384, idleMs: 1_000 });
  const edits = new Lane({ name: "edits", nice: 3, mostMib: 384, idleMs: EDITING_MS });
  const [answers, files] = [large("large answers", 17), large("large files", 15)];
  holder.wandelLanes = {
    edits: { usual: edits, large: edits },
    judging: { usual: usual("judging", 6), large: answers },
    answers: { usual: usual("answers", 6), large: answers },
    lists: { usual: usual("lists", 6), large: files },
    sheets: { usual: usual("sheets", 6), large: files },
  };
  return holder.wandelLanes;
};

export const closePools = async (): Promise<void> => {
  const open = holder.wandelLanes;
  delete holder.wandelLanes;
  await Promise.all(
    [...new Set(Object.values(open ?? {}).flatMap(({ usual, large }) => [usual, large]))].map((lane) => lane.close()),
  );
};

const sizeOf = (value: unknown): number => {
  if (typeof value === "string") return value.length;
  if (value instanceof Uint8Array) return value.byteLength;
  if (Array.isArray(value)) return value.reduce<number>((sum, item) => sum + sizeOf(item), 0);
  return typeof value === "object" && value !== null
    ? Object.values(value).reduce<number>((sum, item) => sum + sizeOf(item), 0)
    : 8;
};

/** Bytes that lie in memory of their own go over to the thread without a copy; nobody here reads them afterwards. */
const handedOver = (input: object): ArrayBuffer[] =>
  Object.values(input).flatMap((value) =>
    value instanceof Uint8Array && value.buffer instanceof ArrayBuffer && value.byteLength === value.buffer.byteLength
      ? [value.buffer]
      : [],
  );

interface Asking {
  /** Ends the work when whoever asked has gone. */
  readonly signal?: AbortSignal | undefined;
  /** What it is about: those who ask about different things take turns. */
  readonly about?: string | undefined;
}

/**
 * What is wrong with what was sent is told with what to do about it; work that is too large for other reasons is no
 * fault of the sender's.
 */
const asSent = (name: TaskName, error: unknown): unknown =>
  error instanceof Failure && error.status === 422 && LANE_OF[name] === "lists" && /was ended\.$/.test(error.message)
    ? new Failure(422, error.title, `${error.message} Send less of it at once.`)
    : error;

/** Does a task: here when its input is small, else in a thread with limits on time and memory. */
export const task = async <K extends TaskName>(
  name: K,
  input: InputOf<K>,
  { signal, about = "" }: Asking = {},
): Promise<OutputOf<K>> => {
  const bytes = sizeOf(input);
  if (!ALWAYS_BESIDE.includes(name) && bytes <= LITTLE_BYTES)
    return (await (TASKS[name] as (given: InputOf<K>) => unknown)(input)) as OutputOf<K>;
  const lane = lanes()[LANE_OF[name]][bytes > LARGE_BYTES ? "large" : "usual"];
  try {
    const outcome = await lane.run({
      order: { task: name, input },
      transfer: handedOver(input),
      about,
      client: clientNow(),
      mostMs: name === "writeTemplate" ? MOST_SHEET_MS : MOST_MS,
      signal,
    });
    if (outcome.ok) return outcome.value as OutputOf<K>;
    const { status, title, message, extra } = outcome.failure;
    throw new Failure(status, title, message, extra);
  } catch (error) {
    throw asSent(name, error);
  }
};
