import { spawn } from "node:child_process";
import { existsSync, mkdirSync, openSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { commandLine, freePort, hashOf, isAlive, LOCAL, must, pause, ROOT, readState, say, writeState } from "./shell.mjs";

const STATE = "server.json";
export const HOST = process.env.WANDEL_HOST ?? "127.0.0.1";
const NEXT = join(ROOT, "node_modules/next/dist/bin/next");

const filesBelow = (path) =>
  existsSync(path) ? readdirSync(path, { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? filesBelow(join(path, entry.name)) : [join(path, entry.name)])) : [];

/** A stamp of everything that goes into a build. Tests do not. */
const sourceStamp = () => {
  const files = ["src", "public"].flatMap((folder) => filesBelow(join(ROOT, folder))).filter((file) => !/\.(test|bench)\.tsx?$/.test(file));
  const settings = ["package-lock.json", "next.config.ts", "tsconfig.json", "tsconfig.base.json", "postcss.config.mjs"].map((file) => join(ROOT, file));
  return hashOf([...files.sort(), ...settings].flatMap((file) => [file.slice(ROOT.length), readFileSync(file)]));
};

/** Builds when the sources are not those of the last whole build. */
export const ensureBuild = async () => {
  const stamp = sourceStamp();
  if (readState("build.json")?.stamp === stamp && existsSync(join(ROOT, ".next/BUILD_ID"))) return;
  say("Building …");
  await must(process.execPath, [NEXT, "build"], { quiet: true, env: { NEXT_TELEMETRY_DISABLED: "1", NODE_ENV: "production" } });
  writeState("build.json", { stamp });
};

export const serverEnv = (databaseUrl, extra) => ({ ...process.env, NEXT_TELEMETRY_DISABLED: "1", DATABASE_URL: databaseUrl, ...extra });

/** Connections are kept for longer than clients keep theirs, so that none is closed in the moment it is used again. */
const KEEP_ALIVE_MS = 65_000;

export const nextArgs = (command, port) => [NEXT, command, "-H", HOST, "-p", String(port), ...(command === "start" ? ["--keepAliveTimeout", String(KEEP_ALIVE_MS)] : [])];

/** Runs next in the foreground until it ends or is told to. */
export const serveHere = (command, { port, databaseUrl, env = {} }) =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, nextArgs(command, port), { cwd: ROOT, stdio: "inherit", env: serverEnv(databaseUrl, env) });
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

const isOurs = (pid) => isAlive(pid) && /next/.test(commandLine(pid));

export const stopServer = async () => {
  const state = readState(STATE);
  if (!state?.pid || !isOurs(state.pid)) return false;
  process.kill(state.pid, "SIGTERM");
  for (let tries = 0; tries < 50 && isAlive(state.pid); tries++) await pause(100);
  if (isOurs(state.pid)) process.kill(state.pid, "SIGKILL");
  return true;
};

/** Starts the server in the background and answers its address once it is healthy. One that runs the same build on the same database is kept. */
export const startServer = async ({ databaseUrl, env }) => {
  const build = readState("build.json")?.stamp;
  const state = readState(STATE);
  if (state?.pid && isOurs(state.pid)) {
    if (state.build === build && state.databaseUrl === databaseUrl && (await isHealthy(state.url))) return state.url;
    await stopServer();
  }
  const port = await freePort(Number(process.env.PORT ?? state?.port ?? 3000));
  mkdirSync(LOCAL, { recursive: true, mode: 0o711 });
  const log = openSync(join(LOCAL, "server.log"), "a");
  const child = spawn(process.execPath, nextArgs("start", port), { cwd: ROOT, stdio: ["ignore", log, log], detached: true, env: serverEnv(databaseUrl, env) });
  child.unref();
  const url = address(port);
  writeState(STATE, { pid: child.pid, port, url, build, databaseUrl });
  for (let tries = 0; tries < 300; tries++) {
    if (await isHealthy(url)) return url;
    if (!isAlive(child.pid)) break;
    await pause(100);
  }
  throw new Error("The server did not start; .wandel/server.log says why.");
};
