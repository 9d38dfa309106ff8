import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  accessSync,
  constants,
  fchmodSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  writeFileSync,
} from "node:fs";
import { createServer } from "node:net";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), "../..");
/** What belongs to this checkout alone and is never committed: cluster, pids, stamps, logs. */
export const LOCAL = join(ROOT, ".wandel");

export const say = (text) => console.log(text);
export const isRoot = process.getuid?.() === 0;

/** Runs a command to its end. Answers its exit code and, with `quiet`, what it printed. */
export const run = (command, args, { quiet = false, env = {}, ...options } = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: quiet ? ["ignore", "pipe", "pipe"] : ["ignore", "inherit", "inherit"],
      env: { ...process.env, ...env },
      ...options,
    });
    let output = "";
    child.stdout?.on("data", (chunk) => (output += chunk));
    child.stderr?.on("data", (chunk) => (output += chunk));
    child.on("error", reject);
    child.on("close", (code) => resolve({ code: code ?? 1, output }));
  });

/** Runs a command that must succeed; says what it printed when it does not. */
export const must = async (command, args, options = {}) => {
  const { code, output } = await run(command, args, options);
  if (code !== 0) throw new Error(`${command} ${args.join(" ")} ended with ${code}\n${output.slice(-4000)}`);
  return output;
};

const tryPort = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once("error", () => resolve(null));
    server.listen({ port, host: "127.0.0.1", exclusive: true }, () => {
      const { port: got } = server.address();
      server.close(() => resolve(got));
    });
  });

/** The wanted port when it is free, else one that is. */
export const freePort = async (wanted = 0) => (await tryPort(wanted)) ?? (await tryPort(0));

/** Makes the folder of this checkout's own things; says what to do where nothing may be written. */
export const ensureLocal = () => {
  try {
    mkdirSync(LOCAL, { recursive: true, mode: 0o711 });
    accessSync(LOCAL, constants.W_OK);
  } catch (error) {
    throw new Error(
      `Nothing can be written to ${LOCAL} (${error.code}): the checkout is read-only, full, or belongs to another user. Wandel keeps its database, logs and build there. Make it writable, or copy the checkout to where you may write, and start again.`,
    );
  }
};

export const readState = (name) => {
  try {
    return JSON.parse(readFileSync(join(LOCAL, name), "utf8"));
  } catch {
    return null;
  }
};

/** Written beside and renamed, so that a crash leaves the old state or the new one. */
export const writeState = (name, value) => {
  ensureLocal();
  const path = join(LOCAL, name);
  writeFileSync(`${path}.new`, JSON.stringify(value), { mode: 0o600 });
  renameSync(`${path}.new`, path);
};

/** A log that only its owner reads, opened to be added to. */
export const openLog = (name) => {
  ensureLocal();
  const log = openSync(join(LOCAL, name), "a", 0o600);
  fchmodSync(log, 0o600);
  return log;
};

export const hashOf = (parts) => {
  const hash = createHash("sha256");
  for (const part of parts) hash.update(part).update("\0");
  return hash.digest("hex");
};

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

export const main = (act) =>
  act().catch((error) => {
    console.error(`\n${error.message}`);
    process.exit(1);
  });
