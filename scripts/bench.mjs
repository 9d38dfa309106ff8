import { readFileSync } from "node:fs";
import { join } from "node:path";
import { ensureNpm } from "./lib/packages.mjs";
import { LOCAL, main, must, ROOT, say } from "./lib/shell.mjs";

const BASELINE = /^baseline/;
const REPORT = join(LOCAL, "bench-report.json");

/** Figures as ratios against the baseline of the same group in the same run: a slower machine shows the same ones. */
main(async () => {
  await ensureNpm();
  await must(join(ROOT, "node_modules/.bin/vitest"), ["bench", "--run", "--config", "vitest.bench.config.ts", `--outputJson=${REPORT}`], { quiet: true });
  const { files } = JSON.parse(readFileSync(REPORT, "utf8"));
  for (const { fullName, benchmarks } of files.flatMap((file) => file.groups)) {
    const baseline = benchmarks.find((benchmark) => BASELINE.test(benchmark.name));
    say(`\n${fullName.split(" > ").at(-1)}`);
    for (const { name, mean } of benchmarks) say(`  ${name.padEnd(44)} ${(mean / baseline.mean).toFixed(2).padStart(8)} × baseline  ${mean.toFixed(3).padStart(10)} ms`);
  }
});
