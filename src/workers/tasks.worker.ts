import "reflect-metadata";
import { setPriority } from "node:os";
import { workerData } from "node:worker_threads";
import { Failure } from "../server/services/failure";
import { type InputOf, type Order, type Outcome, TASKS, type TaskName } from "../server/tasks";

/** Piscina hands what a lane says of its threads over as it was given, beside what is its own. */
const niceOf = (given: unknown): number => {
  const own = Array.isArray(given) ? given.at(-1) : given;
  return typeof own === "object" && own !== null && "nice" in own && typeof own.nice === "number" ? own.nice : 10;
};

// On Linux this is the priority of the thread that asks: where there are few processors, the event loop goes first.
try {
  setPriority(niceOf(workerData));
} catch {
  // Elsewhere, or not allowed: the system shares out as it does.
}

/** One task after the other, in a thread of its own. */
export default async ({ task, input }: Order): Promise<Outcome> => {
  try {
    return {
      ok: true,
      value: await (TASKS[task] as (given: InputOf<TaskName>) => unknown)(input as InputOf<TaskName>),
    };
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    const { status, title, message, extra } = error;
    return { ok: false, failure: { status, title, message, extra } };
  }
};
