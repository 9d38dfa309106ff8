import { existsSync } from "node:fs";
import { join } from "node:path";
import { ensureNpm } from "./lib/packages.mjs";
import { slowPatterns } from "./lib/patterns.mjs";
import { main, must, ROOT, run, say } from "./lib/shell.mjs";

const bin = (name) => join(ROOT, "node_modules/.bin", name);

/** Next writes the types of its routes here; a fresh clone has none before its first build. */
const ensureRouteTypes = async () => {
  if (!existsSync(join(ROOT, "next-env.d.ts")))
    await must(bin("next"), ["typegen"], { quiet: true, env: { NEXT_TELEMETRY_DISABLED: "1" } });
};

const STEPS = [
  { name: "types", command: "tsc", args: ["-p", "tsconfig.json", "--noEmit"] },
  { name: "types of the core", command: "tsc", args: ["-p", "tsconfig.core.json"] },
  { name: "lint", command: "biome", args: ["check", "--error-on-warnings"] },
  {
    name: "directions",
    command: "depcruise",
    args: ["src", "--config", ".dependency-cruiser.json", "--output-type", "json"],
    judge: (output) => directions(output),
  },
  { name: "unused code", command: "knip", args: ["--no-progress"] },
];

/** The cruiser passes when it could read nothing: the count of modules is asserted. */
const directions = (output) => {
  const { summary } = JSON.parse(output);
  if (summary.totalCruised < 150) return `expected more than 150 modules to be read, got ${summary.totalCruised}`;
  return summary.violations.map((v) => `${v.rule.name}: ${v.from} → ${v.to}`).join("\n");
};

/**
 * Runs beside the other steps: it takes a second for every few patterns. What was found safe once is not looked into
 * again.
 */
const patterns = async () => {
  const { checked, complaints } = await slowPatterns();
  if (checked < 90) return `expected more than 90 patterns to be read, got ${checked}`;
  return complaints.join("\n");
};

export const check = async () => {
  await ensureRouteTypes();
  let failed = 0;
  const tell = (name, complaint) => {
    say(`${complaint ? "✗" : "✓"} ${name}`);
    if (!complaint) return;
    failed++;
    say(complaint.slice(-8000));
  };
  const slow = patterns();
  for (const { name, command, args, judge } of STEPS) {
    const { code, output } = await run(bin(command), args, { quiet: true });
    const complaint = judge ? (output.startsWith("{") ? judge(output) : output) : code === 0 ? "" : output;
    tell(name, complaint);
  }
  tell("patterns take no longer than their text", await slow);
  return { passed: STEPS.length + 1 - failed, failed };
};

if (process.argv[1]?.endsWith("check.mjs"))
  main(async () => {
    await ensureNpm();
    const { failed } = await check();
    process.exitCode = failed ? 1 : 0;
  });
