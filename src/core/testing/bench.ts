import { type BenchOptions, bench as measured } from "vitest";
import { settingOf } from "./how-many";

/** The smallest size: everything once, to see that each is measured at all. */
export const SMALL = settingOf("WANDEL_BENCH_SMALL") === "1";
const ONCE: BenchOptions = { iterations: 1, time: 0, warmupIterations: 0, warmupTime: 0 };

/** A benchmark beside the baseline of its group. */
export const bench = (name: string, act: () => void, options: BenchOptions = {}): void =>
  measured(name, act, SMALL ? ONCE : options);
