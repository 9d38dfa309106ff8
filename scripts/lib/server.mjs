import { spawn } from "node:child_process";
import { closeSync } from "node:fs";
import { join } from "node:path";
import { argumentsOf, birthOf, gone, isAlive, isProven, processesIn } from "./process.mjs";
import { freePort, openLog, pause, ROOT, readState, say, writeState } from "./shell.mjs";

const STATE = "server.json";
export const HOST = process.env.WANDEL_HOST ?? "127.0.0.1";
/** Says of a server that it was started to go on by itself. */
const BACKGROUND = "--background";
const SERVE = join(ROOT, "scripts/serve.mjs");

export const serverEnv = (databaseUrl, extra) => ({
  ...process.env,
  NEXT_TELEMETRY_DISABLED: "1",
  MALLOC_ARENA_MAX: "2",
  DATABASE_URL: databaseUrl,
  ...extra,
});

/**
 * The thread that answers clears up before it has grown to this many MiB; what is large is worked on in threads with
 * limits of their own.
 */
const HEAP_MIB = 320;

export const serveArgs = (command, port, host = HOST) => [
  `--max-old-space-size=${HEAP_MIB}`,
  SERVE,
  command,
  "--host",
  host,
  "--port",
  String(port),
];

/** Runs the server in the foreground until it ends or is told to. */
export const serveHere = (command, { port, databaseUrl, env = {} }) =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, serveArgs(command, port), {
      cwd: ROOT,
      stdio: "inherit",
      env: serverEnv(databaseUrl, env),
    });
    for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
    child.on("close", (code) => resolve(code ?? 0));
  });

const address = (port) => `http://${HOST === "0.0.0.0" ? "127.0.0.1" : HOST}:${port}`;

export const isHealthy = async (url) => {
  try {
    return (await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(2000) })).ok;
  } catch {
    return false;
  }
};

/**
 * Servers that run in the background in this folder, by what they were started with: also where the note of them was
 * lost.
 */
const found = () =>
  processesIn(ROOT).flatMap((pid) => {
    const words = argumentsOf(pid);
    const port = Number(words[words.indexOf("--port") + 1]);
    return words.some((word) => word.endsWith("/scripts/serve.mjs")) && words.includes(BACKGROUND) && port > 0
      ? [{ pid, birth: birthOf(pid), port, url: address(port) }]
      : [];
  });

/**
 * The servers this checkout started: the one that is noted, when it is still that very process and works in this
 * folder, and any whose note was lost. One noted in a copied checkout is another's.
 */
const ownServers = () => {
  const state = readState(STATE);
  const noted = state && isProven({ ...state, folder: ROOT }) ? [state] : [];
  return [...noted, ...found().filter(({ pid }) => pid !== noted[0]?.pid)];
};

const endServer = async ({ pid, port }) => {
  process.kill(pid, "SIGTERM");
  if (await gone(pid, 6000)) return;
  process.kill(pid, "SIGKILL");
  await gone(pid, 10_000);
  // Of a process that was killed the first thread can be gone while others still hold its port.
  for (let tries = 0; tries < 50 && (await freePort(port)) !== port; tries++) await pause(100);
};

export const stopServer = async () => {
  const own = ownServers();
  for (const server of own) await endServer(server);
  return own.length > 0;
};

/** The port that was asked for and no other, else the one of last time, else any that is free. */
export const choosePort = async (last) => {
  const asked = process.env.PORT ? Number(process.env.PORT) : null;
  if (asked !== null && !(Number.isInteger(asked) && asked > 0 && asked < 65_536))
    throw new Error(`PORT is ${process.env.PORT}, and a port is a whole number from 1 to 65535.`);
  const wanted = asked ?? last ?? 3000;
  const port = await freePort(wanted);
  if (port === wanted) return port;
  if (asked !== null)
    throw new Error(
      `Port ${asked} is used by another program. End that, or choose another one: PORT=${port} npm run demo`,
    );
  say(`Port ${wanted} is used by another program; Wandel takes ${port}.`);
  return port;
};

/**
 * Starts the server in the background and answers its address once it is healthy. One that runs the same build on the
 * same database is kept.
 */
export const startServer = async ({ databaseUrl, env }) => {
  const build = readState("build.json")?.stamp;
  const [own, ...others] = ownServers();
  const asked = process.env.PORT ? Number(process.env.PORT) : null;
  for (const other of others) await endServer(other);
  if (own) {
    if (
      own.build === build &&
      own.databaseUrl === databaseUrl &&
      (asked === null || asked === own.port) &&
      (await isHealthy(own.url))
    )
      return own.url;
    await endServer(own);
  }
  const port = await choosePort(readState(STATE)?.port);
  const log = openLog("server.log");
  const child = spawn(process.execPath, [...serveArgs("start", port), BACKGROUND], {
    cwd: ROOT,
    stdio: ["ignore", log, log],
    detached: true,
    env: serverEnv(databaseUrl, env),
  });
  child.unref();
  closeSync(log);
  const url = address(port);
  writeState(STATE, { pid: child.pid, birth: birthOf(child.pid), port, url, build, databaseUrl });
  for (let tries = 0; tries < 600; tries++) {
    if (await isHealthy(url)) return url;
    if (!isAlive(child.pid)) break;
    await pause(100);
  }
  throw new Error("The server did not start; .wandel/server.log says why.");
};
