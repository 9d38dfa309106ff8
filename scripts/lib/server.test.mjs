import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { copyOf, inCheckout, makeCheckout } from "../testing/checkouts.mjs";
import { birthOf, gone, isAlive, isProven } from "./process.mjs";
import { freePort, pause } from "./shell.mjs";

/** Stands for the real server: healthy, and started in the same way. */
const STAND_IN = `import { createServer } from "node:http"; const at = process.argv.indexOf("--port"); createServer((_q, r) => r.end("{}")).listen(Number(process.argv[at + 1]), "127.0.0.1");`;

let checkout;
const state = (folder = checkout) => JSON.parse(readFileSync(join(folder, ".wandel/server.json"), "utf8"));
const start = (env = {}, folder = checkout) =>
  inCheckout(
    folder,
    'import { startServer } from "./scripts/lib/server.mjs"; console.log(await startServer({ databaseUrl: "x", env: {} }));',
    { env: { PORT: "", ...env } },
  );
const stop = (folder = checkout) =>
  inCheckout(folder, 'import { stopServer } from "./scripts/lib/server.mjs"; console.log(await stopServer());');
const left = [];

beforeAll(async () => {
  checkout = makeCheckout({ open: true });
  writeFileSync(join(checkout, "scripts/serve.mjs"), STAND_IN);
  mkdirSync(join(checkout, ".wandel"), { mode: 0o711 });
  writeFileSync(join(checkout, ".wandel/server.json"), JSON.stringify({ port: await freePort(0) }));
});
afterAll(async () => {
  await stop();
  for (const folder of [checkout, ...left]) rmSync(folder, { recursive: true, force: true });
});

describe("the server of a checkout", () => {
  it("is found running, and its log is for its owner only", async () => {
    const url = await start();
    const { pid } = state();
    expect([await start(), state().pid]).toEqual([url, pid]);
    expect(statSync(join(checkout, ".wandel/server.log")).mode & 0o777).toBe(0o600);
  }, 30_000);

  it("comes up on the same port after one that hung was killed", async () => {
    const hung = state();
    const { pid, port } = hung;
    process.kill(pid, "SIGSTOP");
    await start();
    expect(state().port).toBe(port);
    expect([isProven({ ...hung, folder: checkout }), state().pid === pid]).toEqual([false, false]);
  }, 60_000);

  it("in a copied checkout is another's: the copy starts its own and ends only that", async () => {
    const copy = await copyOf(checkout);
    left.push(copy);
    expect(await stop(copy)).toBe("false");
    await start({}, copy);
    expect(state(copy).port).not.toBe(state().port);
    expect(await stop(copy)).toBe("true");
    expect(isAlive(state().pid)).toBe(true);
  }, 60_000);

  it("is not taken for a process that only has its number", async () => {
    const other = spawn("sleep", ["60"], { cwd: checkout });
    const own = state();
    writeFileSync(join(checkout, ".wandel/server.json"), JSON.stringify({ ...own, pid: other.pid }));
    expect(await stop()).toBe("true");
    expect([isAlive(other.pid), await gone(own.pid, 2000)]).toEqual([true, true]);
    other.kill();
  }, 30_000);

  it.each([
    ["empty", (file) => writeFileSync(file, "")],
    ["damaged", (file) => writeFileSync(file, '{"pid":')],
    ["gone", (file) => rmSync(file)],
  ])(
    "is found by what it was started with when the note of it is %s: started again there is one, stopped there is none",
    async (_how, spoil) => {
      await start();
      const first = state();
      spoil(join(checkout, ".wandel/server.json"));
      await start();
      expect([await gone(first.pid, 2000), isAlive(state().pid)]).toEqual([true, true]);
      const second = state();
      spoil(join(checkout, ".wandel/server.json"));
      expect(await stop()).toBe("true");
      expect(await gone(second.pid, 2000)).toBe(true);
      expect(await stop()).toBe("false");
    },
    60_000,
  );

  it("says so when the port that was asked for is used, and takes no other", async () => {
    const holder = createServer().listen(0, "127.0.0.1");
    await pause(50);
    const { port } = holder.address();
    await expect(start({ PORT: String(port) })).rejects.toThrow(`Port ${port} is used by another program`);
    await expect(start({ PORT: "many" })).rejects.toThrow("whole number from 1 to 65535");
    holder.close();
  }, 30_000);
});

describe("a proven process", () => {
  it("has its number, its start and its folder", () => {
    const own = { pid: process.pid, birth: birthOf(process.pid), folder: process.cwd() };
    expect(isProven(own)).toBe(true);
    expect(isProven({ ...own, birth: `${own.birth}1` })).toBe(false);
    expect(isProven({ ...own, folder: "/" })).toBe(false);
    expect(isProven({ ...own, birth: null })).toBe(false);
    expect(isProven({ pid: 999_999_999, birth: null, folder: "/" })).toBe(false);
  });
});
