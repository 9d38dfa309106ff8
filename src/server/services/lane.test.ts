import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { Order } from "../tasks";
import { Failure } from "./failure";
import { type Job, Lane } from "./lane";

/** Work that does what it is told: waits, never ends, or takes all memory there is. */
const WORK = `
const forever = () => { for (;;); };
const eat = () => { const all = []; for (;;) all.push(new Array(1e5).fill(all.length + Math.random())); };
export default async ({ task, input }) => {
  if (task === "forever") forever();
  if (task === "eat") eat();
  if (task === "wait") await new Promise((resolve) => setTimeout(resolve, input));
  if (task === "bug") throw new TypeError("a bug");
  return { ok: true, value: input };
};`;

const folder = mkdtempSync(join(tmpdir(), "wandel-lane-"));
const before = process.env.WANDEL_TASKS;
const lanes: Lane[] = [];
beforeAll(() => {
  writeFileSync(join(folder, "work.mjs"), WORK);
  process.env.WANDEL_TASKS = join(folder, "work.mjs");
});
afterAll(async () => {
  await Promise.all(lanes.map((lane) => lane.close()));
  if (before === undefined) delete process.env.WANDEL_TASKS;
  else process.env.WANDEL_TASKS = before;
  rmSync(folder, { recursive: true });
});

const aLane = (): Lane => {
  const lane = new Lane({ name: "tried", nice: 0, mostMib: 48, idleMs: 5000 });
  lanes.push(lane);
  return lane;
};
const job = (task: string, input: unknown, more: Partial<Job> = {}): Job => ({
  order: { task, input } as unknown as Order,
  transfer: [],
  about: "a",
  client: "one",
  mostMs: 5000,
  ...more,
});
const value = async (running: Promise<{ readonly ok: boolean }>): Promise<unknown> =>
  ((await running) as { readonly value?: unknown }).value;
const failure = async (running: Promise<unknown>): Promise<Failure> => {
  const error = await running.catch((caught: unknown) => caught);
  return error instanceof Failure ? error : expect.unreachable(String(error));
};

it("goes on at once after work that took too much memory, too long, or had a bug, round after round", async () => {
  const lane = aLane();
  for (let round = 0; round < 3; round++) {
    const [eaten, next] = [lane.run(job("eat", 0)), lane.run(job("wait", 1))];
    expect(await failure(eaten)).toMatchObject({
      status: 422,
      message: "This takes more than 48 MiB of memory, and was ended.",
    });
    expect(await value(next)).toBe(1);
    const [endless, after] = [lane.run(job("forever", 0, { mostMs: 100 })), lane.run(job("wait", 2))];
    expect(await failure(endless)).toMatchObject({
      status: 422,
      message: "This takes longer than 0.1 seconds, and was ended.",
    });
    expect(await value(after)).toBe(2);
    const [bug, last] = [lane.run(job("bug", 0)), lane.run(job("wait", 3))];
    await expect(bug).rejects.toThrow("a bug");
    expect(await value(last)).toBe(3);
  }
});

it("counts time from when the work begins, and not from when it was asked for", async () => {
  const lane = aLane();
  const all = [0, 1, 2, 3].map((n) => lane.run(job("wait", 120, { mostMs: 400, about: `${n}` })));
  expect(await Promise.all(all.map(value))).toEqual([120, 120, 120, 120]);
});

it("lets those who ask take turns, and one who asks about several things hear of each", async () => {
  const lane = aLane();
  const done: string[] = [];
  const ask = async (client: string, about: string) => {
    await lane.run(job("wait", 5, { client, about }));
    done.push(`${client} ${about}`);
  };
  const first = ask("zero", "z");
  const many = ["a", "a", "a", "b"].map((about) => ask("one", about));
  await Promise.all([first, ...many, ask("two", "c")]);
  expect(done).toEqual(["zero z", "one a", "two c", "one b", "one a", "one a"]);
});

it("tells who asks for too much to come again, and lets others in", async () => {
  const lane = aLane();
  const all = Array.from({ length: 13 }, (_, n) => lane.run(job("wait", 10, { about: `${n}` })));
  expect(await failure(lane.run(job("wait", 1)))).toMatchObject({
    status: 503,
    message: expect.stringContaining("still waiting"),
  });
  expect(await value(lane.run(job("wait", 7, { client: "another" })))).toBe(7);
  expect((await Promise.all(all)).length).toBe(13);
});

it("ends what nobody waits for any more, whether it has begun or not", async () => {
  const lane = aLane();
  const [one, other] = [new AbortController(), new AbortController()];
  const running = lane.run(job("forever", 0, { signal: one.signal }));
  const waiting = lane.run(job("wait", 1, { signal: other.signal }));
  const left = lane.run(job("wait", 2));
  other.abort();
  expect((await failure(waiting)).status).toBe(499);
  one.abort();
  expect((await failure(running)).status).toBe(499);
  expect(await value(left)).toBe(2);
});
