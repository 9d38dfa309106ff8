import { readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { check } from "./check.mjs";
import { buildTasks, ensureBuild } from "./lib/build.mjs";
import { underLock } from "./lib/lock.mjs";
import { chromiumPath, ensurePackages } from "./lib/packages.mjs";
import { dropTestDatabases, testDatabaseUrl } from "./lib/postgres.mjs";
import { freePort, LOCAL, main, ROOT, run, say } from "./lib/shell.mjs";

const bin = (name) => join(ROOT, "node_modules/.bin", name);
const report = (name) => join(LOCAL, `${name}-report.json`);

/** Colours are for people at a terminal. */
const plain = process.stdout.isTTY ? {} : { NO_COLOR: "1" };

const readReport = (name, read) => {
  try {
    return read(JSON.parse(readFileSync(report(name), "utf8")));
  } catch {
    return { passed: 0, failed: 1 };
  }
};

const vitest = async (project, env = {}, { quiet = false, also = [] } = {}) => {
  rmSync(report(project), { force: true });
  const projects = [project, ...also].flatMap((name) => ["--project", name]);
  const { code, output } = await run(
    bin("vitest"),
    ["run", ...projects, "--reporter=dot", "--reporter=json", `--outputFile.json=${report(project)}`],
    {
      env: { ...plain, ...env },
      quiet,
    },
  );
  if (quiet) say(code ? output : `${project}: done`);
  const counts = readReport(project, (json) => ({
    passed: json.numPassedTests,
    failed: json.numFailedTests || json.numFailedTestSuites,
  }));
  return code !== 0 && counts.failed === 0 ? { ...counts, failed: 1 } : counts;
};

const BROWSER = "chromium-headless-shell";
/** On a new machine the browser is fetched while the parts run that need none. */
let browserThere = Promise.resolve();

/** Tests in the browser, against the production build on a database of their own. */
const browser = async (args) => {
  await browserThere;
  await underLock(ensureBuild);
  rmSync(report("e2e"), { force: true });
  const env = {
    ...plain,
    WANDEL_CHROMIUM: chromiumPath(),
    WANDEL_E2E_PORT: String(await freePort(0)),
    WANDEL_E2E_DATABASE_URL: await testDatabaseUrl("e2e"),
    WANDEL_E2E_SPARE_DATABASE_URL: await testDatabaseUrl("e2e_spare"),
    PLAYWRIGHT_JSON_OUTPUT_NAME: report("e2e"),
    NEXT_TELEMETRY_DISABLED: "1",
  };
  const { code } = await run(bin("playwright"), ["test", "--reporter=line,json", ...args], { env });
  const counts = readReport("e2e", (json) => ({
    passed: json.stats.expected + json.stats.flaky,
    failed: json.stats.unexpected,
  }));
  return code !== 0 && counts.failed === 0 ? { ...counts, failed: 1 } : counts;
};

/** Parts that made databases for themselves. */
const DATABASES = ["integration", "e2e"];
/** Databases that nothing was made in: a start makes what it needs once only. */
const EMPTY = ["together", "halfway", "killed", "first"];
/** The bundle of the worker threads as the sources are now; the build has its own. */
const TASKS = join(LOCAL, "tasks.mjs");

const PARTS = {
  check: () => check(),
  unit: () => vitest("unit", {}, { also: ["screens"] }),
  // These wait for servers and databases of their own most of the time, and go along beside the others.
  commands: () => vitest("commands", {}, { quiet: true }),
  integration: async () => {
    await buildTasks(TASKS);
    const empty = [];
    for (const of of EMPTY) empty.push(await testDatabaseUrl(`test_${of}`));
    return vitest("integration", {
      WANDEL_TEST_DATABASE_URL: await testDatabaseUrl("test"),
      WANDEL_TEST_EMPTY_DATABASE_URLS: empty.join(" "),
      WANDEL_TASKS: TASKS,
    });
  },
  // Each benchmark and each part of the figures once, in its smallest size: that it measures at all, and not how fast.
  bench: () => alone("bench"),
  figures: () => alone("figures"),
  e2e: (args) => browser(args),
};

/** A command of its own as one test. */
const alone = async (name) => {
  if (name === "figures") await browserThere;
  const { code, output } = await run(process.execPath, [join(ROOT, `scripts/${name}.mjs`), "small"], {
    env: plain,
    quiet: true,
  });
  if (code) say(output.slice(-6000));
  return { passed: code ? 0 : 1, failed: code ? 1 : 0 };
};

/**
 * One round after the other; within a round the lanes run beside each other, and what is in a lane one after the other.
 */
const ROUNDS = [
  [
    ["check", "unit", "integration", "bench"],
    ["commands", "figures"],
  ],
  [["e2e"]],
];

const timed = async (name, args) => {
  const started = Date.now();
  const counts = await PARTS[name](args);
  say(`${name}: ${counts.passed} passed, ${counts.failed} failed in ${Math.round((Date.now() - started) / 1000)} s`);
  return counts;
};

/**
 * `npm test` runs everything, with a seeded slice of every property and long count; `npm test -- long` runs all of
 * them; `npm test -- e2e cues` one part, with words for its runner.
 */
main(async () => {
  const asked = process.argv.slice(2);
  if (asked[0] === "long") process.env.WANDEL_LONG = "1";
  const [only, ...args] = asked[0] === "long" ? asked.slice(1) : asked;
  if (only && !PARTS[only])
    throw new Error(
      `There is no part ${only}; there are ${Object.keys(PARTS).join(", ")}, and long before them for every run of every property.`,
    );
  const wanted = (name) => !only || name === only;
  await underLock(() => ensurePackages(["postgresql"]));
  if (wanted("e2e") || wanted("figures")) browserThere = ensurePackages([BROWSER]);
  // Told by the part that waits for it.
  browserThere.catch(() => {});
  let [passed, failed] = [0, 0];
  const lane = async (names) => {
    for (const name of names) {
      say(`\n— ${name}`);
      const counts = await timed(name, args);
      passed += counts.passed;
      failed += counts.failed;
    }
  };
  for (const round of ROUNDS) await Promise.all(round.map((names) => lane(names.filter(wanted))));
  if (!only || DATABASES.includes(only)) await dropTestDatabases();
  say(`\n${passed} passed, ${failed} failed`);
  process.exitCode = failed ? 1 : 0;
});
