import { chmodSync, cpSync, existsSync, mkdtempSync, readFileSync, rmSync, symlinkSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { isAlive } from "../lib/process.mjs";
import { pause, ROOT, run } from "../lib/shell.mjs";

const made = [];

/**
 * A checkout of a test's own, so that its cluster may be killed, moved and damaged. `open`: others may go through its
 * folder, and its data lie in it.
 */
export const makeCheckout = ({ open = false } = {}) => {
  const folder = mkdtempSync(join(tmpdir(), "wandel-checkout-"));
  if (open) chmodSync(folder, 0o711);
  cpSync(join(ROOT, "scripts"), join(folder, "scripts"), { recursive: true });
  cpSync(join(ROOT, "package.json"), join(folder, "package.json"));
  symlinkSync(join(ROOT, "node_modules"), join(folder, "node_modules"));
  made.push(folder);
  return folder;
};

/** Runs a script in a checkout. Answers its last line, or throws what it printed. */
export const inCheckout = async (checkout, script, options = {}) => {
  const { code, output } = await run(process.execPath, ["--input-type=module", "-e", script], {
    cwd: checkout,
    quiet: true,
    env: { DATABASE_URL: "" },
    ...options,
  });
  if (code !== 0) throw new Error(output);
  return output.trim().split("\n").at(-1);
};

export const start = (checkout) =>
  inCheckout(
    checkout,
    'import { underLock } from "./scripts/lib/lock.mjs"; import { startPostgres } from "./scripts/lib/cluster.mjs"; console.log(JSON.stringify(await underLock(startPostgres)));',
  ).then(JSON.parse);

export const stop = (checkout) =>
  inCheckout(checkout, 'import { stopPostgres } from "./scripts/lib/postgres.mjs"; console.log(await stopPostgres());');

export const ask = async (checkout, sql) =>
  JSON.parse(
    await inCheckout(
      checkout,
      `import { databaseUrl } from "./scripts/lib/postgres.mjs"; import pg from "pg"; const client = new pg.Client({ connectionString: await databaseUrl() }); await client.connect(); const { rows } = await client.query(${JSON.stringify(sql)}); await client.end(); console.log(JSON.stringify(rows));`,
    ),
  );

export const dataOf = (checkout) => JSON.parse(readFileSync(join(checkout, ".wandel/postgres.json"), "utf8")).dir;
export const pidOf = (dir) => Number(readFileSync(join(dir, "postmaster.pid"), "utf8").split("\n")[0]);

export const killed = async (pid) => {
  process.kill(pid, "SIGKILL");
  for (let tries = 0; tries < 100 && isAlive(pid); tries++) await pause(50);
};

/** A copy of a checkout as a person makes one: everything, also what runs. */
export const copyOf = async (checkout) => {
  const folder = mkdtempSync(join(tmpdir(), "wandel-copy-"));
  rmSync(folder, { recursive: true });
  await run("cp", ["-a", checkout, folder], { quiet: true });
  made.push(folder);
  return folder;
};

/** A checkout that was moved or given away is cleared away under its new name. */
export const noteMoved = (folder) => void made.push(folder);

export const clearAway = async () => {
  for (const folder of made.splice(0).filter(existsSync)) {
    const dir = existsSync(join(folder, ".wandel/postgres.json")) ? dataOf(folder) : null;
    await stop(folder).catch(() => {});
    rmSync(folder, { recursive: true, force: true });
    if (dir?.startsWith("/var/lib/wandel/")) rmSync(dirname(dir), { recursive: true, force: true });
  }
};
