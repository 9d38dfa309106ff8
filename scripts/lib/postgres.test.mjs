import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { isAlive, pause, ROOT, run } from "./shell.mjs";

/** A checkout of its own, so that its cluster may be killed. Its folder is closed to others, as a fresh temporary one is. */
let checkout;
const state = () => JSON.parse(readFileSync(join(checkout, ".wandel/postgres.json"), "utf8"));
const postmasterPid = () => Number(readFileSync(join(state().dir, "postmaster.pid"), "utf8").split("\n")[0]);

const inCheckout = async (script) => {
  const { code, output } = await run(process.execPath, ["--input-type=module", "-e", script], { cwd: checkout, quiet: true, env: { DATABASE_URL: "" } });
  if (code !== 0) throw new Error(output);
  return output.trim().split("\n").at(-1);
};

const query = (sql) =>
  inCheckout(
    `import { databaseUrl } from "./scripts/lib/postgres.mjs"; import pg from "pg"; const client = new pg.Client({ connectionString: await databaseUrl("wandel") }); await client.connect(); const { rows } = await client.query(${JSON.stringify(sql)}); await client.end(); console.log(JSON.stringify(rows));`,
  );

const killed = async (pid) => {
  process.kill(pid, "SIGKILL");
  for (let tries = 0; tries < 50 && isAlive(pid); tries++) await pause(50);
};

beforeAll(async () => {
  checkout = mkdtempSync(join(tmpdir(), "wandel-checkout-"));
  cpSync(join(ROOT, "scripts"), join(checkout, "scripts"), { recursive: true });
  cpSync(join(ROOT, "package.json"), join(checkout, "package.json"));
  symlinkSync(join(ROOT, "node_modules"), join(checkout, "node_modules"));
  await query("create table kept as select 'before' as word");
}, 60_000);

afterAll(async () => {
  const { dir } = state();
  await inCheckout('import { stopPostgres } from "./scripts/lib/postgres.mjs"; await stopPostgres();');
  rmSync(checkout, { recursive: true, force: true });
  if (dir.startsWith("/var/lib/wandel/")) rmSync(dirname(dir), { recursive: true, force: true });
}, 60_000);

describe("the cluster of a checkout", () => {
  it("is found running, not started twice", async () => {
    const before = postmasterPid();
    expect(await query("select word from kept")).toBe('[{"word":"before"}]');
    expect(postmasterPid()).toBe(before);
  }, 30_000);

  it("listens on loopback and asks for its password", async () => {
    expect(await query("show listen_addresses")).toBe('[{"listen_addresses":"127.0.0.1"}]');
    const without = await inCheckout(
      `import pg from "pg"; import { readFileSync } from "node:fs"; const { port } = JSON.parse(readFileSync(".wandel/postgres.json", "utf8")); const client = new pg.Client({ host: "127.0.0.1", port, user: "wandel", password: "wrong", database: "postgres" }); console.log(await client.connect().then(() => "in", (error) => error.code));`,
    );
    expect(without).toBe("28P01");
  }, 30_000);

  it("comes back with its data after a kill", async () => {
    await query("insert into kept values ('after')");
    await killed(postmasterPid());
    expect(await query("select word from kept order by word")).toBe('[{"word":"after"},{"word":"before"}]');
  }, 60_000);

  it("comes back when the lock names a process that is another by now", async () => {
    await killed(postmasterPid());
    const file = join(state().dir, "postmaster.pid");
    const lines = readFileSync(file, "utf8").split("\n");
    writeFileSync(file, [String(process.pid), ...lines.slice(1)].join("\n"));
    expect(await query("select count(*)::int as count from kept")).toBe('[{"count":2}]');
  }, 60_000);

  it("is prepared anew when its preparation was cut short", async () => {
    await inCheckout('import { stopPostgres } from "./scripts/lib/postgres.mjs"; await stopPostgres();');
    rmSync(join(state().dir, "PG_VERSION"));
    expect(await query("select 1 as one")).toBe('[{"one":1}]');
    expect(existsSync(join(state().dir, "PG_VERSION"))).toBe(true);
  }, 60_000);
});
