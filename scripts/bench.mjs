import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensureNpm } from "./lib/packages.mjs";
import { LOCAL, main, ROOT, run, say } from "./lib/shell.mjs";

const BASELINE = /^baseline/;
const REPORT = join(LOCAL, "bench-report.json");

/**
 * Figures as ratios against the baseline of the same group in the same run: a slower machine shows the same ones. What
 * is under way is shown; `small` runs everything once, in its smallest size.
 */
main(async () => {
  await ensureNpm();
  const small = process.argv.includes("small");
  rmSync(REPORT, { force: true });
  const only = process.argv.slice(2).filter((word) => word !== "small");
  const { code } = await run(
    join(ROOT, "node_modules/.bin/vitest"),
    ["bench", "--run", "--config", "vitest.bench.config.ts", `--outputJson=${REPORT}`, ...only],
    {
      env: { ...(small ? { WANDEL_BENCH_SMALL: "1" } : {}), ...(process.stdout.isTTY ? {} : { NO_COLOR: "1" }) },
    },
  );
  if (code !== 0 || !existsSync(REPORT))
    throw new Error("A benchmark failed, and no figure stands for it; what went wrong is told above.");
  const { files } = JSON.parse(readFileSync(REPORT, "utf8"));
  const groups = files.flatMap((file) => file.groups);
  if (!groups.length) throw new Error("Nothing was measured.");
  for (const { fullName, benchmarks } of groups) {
    const baseline = benchmarks.find((benchmark) => BASELINE.test(benchmark.name));
    const unmeasured = benchmarks.filter(({ mean }) => !(mean > 0)).map(({ name }) => name);
    if (!baseline || unmeasured.length)
      throw new Error(`Not measured: ${unmeasured.join(", ") || `the baseline of ${fullName}`}.`);
    say(`\n${fullName.split(" > ").at(-1)}`);
    for (const { name, mean, median = mean } of benchmarks)
      say(
        `  ${name.padEnd(60)} ${(median / baseline.median).toFixed(3).padStart(9)} × baseline  ${median.toFixed(3).padStart(10)} ms, mean ${mean.toFixed(3)}`,
      );
  }
});
