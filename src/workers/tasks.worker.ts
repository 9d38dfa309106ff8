import "reflect-metadata";
import { Failure } from "../server/services/failure";
import { type InputOf, TASKS, type TaskName } from "../server/tasks";

export interface Order {
  readonly task: TaskName;
  readonly input: unknown;
}

/** What came of a task: a value, or what a person must be told. A bug is thrown as it is. */
export type Outcome =
  | { readonly ok: true; readonly value: unknown }
  | { readonly ok: false; readonly failure: { readonly status: Failure["status"]; readonly title: string; readonly message: string; readonly extra: Failure["extra"] } };

/** One task after the other, in a thread of its own. */
export default async ({ task, input }: Order): Promise<Outcome> => {
  try {
    return { ok: true, value: await (TASKS[task] as (given: InputOf<TaskName>) => unknown)(input as InputOf<TaskName>) };
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    const { status, title, message, extra } = error;
    return { ok: false, failure: { status, title, message, extra } };
  }
};
