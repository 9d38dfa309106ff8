import { spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import {
  chmodSync,
  chownSync,
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { CARD, dataFolder, inCheckout, isEmpty, LOG, placeOf, readJson, STATE, tellOfLost } from "./data-folder.mjs";
import { postgresBin } from "./packages.mjs";
import { argumentsOf, birthOf, commandLine, folderOf, gone, isAlive, processesIn, sameFolder } from "./process.mjs";
import {
  ensureLocal,
  freePort,
  isRoot,
  LOCAL,
  must,
  openLog,
  pause,
  ROOT,
  readState,
  say,
  writeState,
} from "./shell.mjs";

const CLEAN = { PATH: "/usr/bin:/bin", HOME: "/", LC_ALL: "C.UTF-8" };
/** What an empty cluster takes, and room for its journal. */
const LEAST_FREE = 120 * 1024 * 1024;
const MIB = 1024 * 1024;

const FRESH =
  "npm run demo -- --fresh puts the folder aside under a dated name (nothing is deleted) and begins with an empty library.";

/**
 * Who runs the cluster: whoever its folder belongs to; for a new one oneself, or as root the user that Debian's package
 * made, since PostgreSQL refuses root.
 */
const account = async (dir) => {
  const owner = isEmpty(dir) ? null : statSync(dir);
  if (!isRoot) {
    if (owner && owner.uid !== process.getuid())
      throw new Error(
        `The data in ${dir} belong to another user (number ${owner.uid}), and you are number ${process.getuid()}. Start as that user, or as root.`,
      );
    return {};
  }
  if (owner && owner.uid !== 0) return { uid: owner.uid, gid: owner.gid };
  const id = async (flag) => Number((await must("id", [flag, "postgres"], { quiet: true })).trim());
  return { uid: await id("-u"), gid: await id("-g") };
};

/**
 * Data that were copied by root without their owner belong to root, under whom PostgreSQL does not run: they are given
 * to the user it runs as. Nothing else of them changes.
 */
const giveTo = async ({ uid, gid }, dir) => {
  if (!isRoot || statSync(dir).uid !== 0) return;
  say(
    `The data in ${dir} belong to root, as after a copy. They are given to the user number ${uid}, under whom the database runs …`,
  );
  await must("chown", ["-R", "--no-dereference", `${uid}:${gid}`, dir], { quiet: true });
};

const freeBytes = (dir) => {
  let at = dir;
  while (!existsSync(at)) at = dirname(at);
  const { bavail, bsize } = statfsSync(at);
  return bavail * bsize;
};

const noRoom = (dir) =>
  new Error(
    `The disk that holds ${dir} is full: ${Math.floor(freeBytes(dir) / MIB)} MiB are free, and the database needs about ${LEAST_FREE / MIB}. Nothing was changed. Make room and start again.`,
  );

/** What a person must know of a folder that is not as it should be; null when it can be started. */
const faultOf = (dir) => {
  if (!statSync(dir).isDirectory())
    return `Where the data folder should be, ${dir}, lies a file of ${statSync(dir).size} bytes. Nothing was changed. Move it away, and put the folder back from a copy if there was one; without one Wandel then begins with an empty library.`;
  const version = readJson(join(dir, "PG_VERSION"));
  if (version === null || !existsSync(join(dir, "global")) || !existsSync(join(dir, "base")))
    return `${dir} holds ${readdirSync(dir).length} files, but is no whole PostgreSQL data folder: ${version === null ? "PG_VERSION" : "a folder of it"} is missing or unreadable. Nothing was changed. Put back what is missing from a copy, or: ${FRESH}`;
  if (!postgresBin(version))
    return `The data in ${dir} were made by PostgreSQL ${version}, which is not installed; here is ${postgresBin()?.split("/").at(-2) ?? "none"}. Nothing was changed. Install Debian's package postgresql-${version}, or move the data over with pg_upgradecluster. To begin anew instead: ${FRESH}`;
  return null;
};

const writeCard = (dir, card, { uid, gid }) => {
  const file = join(dir, CARD);
  writeFileSync(`${file}.new`, JSON.stringify(card), { mode: 0o600 });
  if (uid !== undefined) chownSync(`${file}.new`, uid, gid);
  renameSync(`${file}.new`, file);
};

const withPasswordFile = async (password, { uid, gid }, act) => {
  const file = join(tmpdir(), `wandel-${randomBytes(6).toString("hex")}`);
  writeFileSync(file, password, { mode: 0o600, flag: "wx" });
  if (uid !== undefined) chownSync(file, uid, gid);
  try {
    return await act(file);
  } finally {
    rmSync(file, { force: true });
  }
};

const newPassword = () => randomBytes(18).toString("base64url");

/** Makes a cluster beside its place and puts it there whole, so that one that was cut short is never taken for data. */
const initialise = async (dir, user) => {
  if (freeBytes(dir) < LEAST_FREE) throw noRoom(dir);
  say("Preparing PostgreSQL …");
  const home = dirname(dir);
  mkdirSync(home, { recursive: true, mode: 0o711 });
  if (dir === inCheckout) chmodSync(LOCAL, 0o711);
  for (const left of readdirSync(home).filter((name) => name.startsWith("postgres.preparing-")))
    rmSync(join(home, left), { recursive: true, force: true });
  const beside = join(home, `postgres.preparing-${randomBytes(4).toString("hex")}`);
  mkdirSync(beside, { mode: 0o700 });
  if (user.uid !== undefined) chownSync(beside, user.uid, user.gid);
  const password = newPassword();
  await withPasswordFile(password, user, (file) =>
    must(
      join(postgresBin(), "initdb"),
      [
        "-D",
        beside,
        "-U",
        "wandel",
        "-A",
        "scram-sha-256",
        "--pwfile",
        file,
        "-E",
        "UTF8",
        "--locale=C.UTF-8",
        "--no-instructions",
      ],
      {
        ...user,
        cwd: "/",
        env: CLEAN,
        quiet: true,
      },
    ),
  ).catch((error) => {
    rmSync(beside, { recursive: true, force: true });
    throw /No space left/.test(error.message) ? noRoom(dir) : error;
  });
  writeCard(beside, { checkout: ROOT, place: placeOf(ROOT), password, port: 0 }, user);
  // Takes the place of an empty folder, and of no other.
  renameSync(beside, dir);
};

/** What is noted in a data folder of the server that runs in it. */
const noteOf = (dir) => {
  const file = join(dir, "postmaster.pid");
  if (!existsSync(file)) return null;
  const [pid, , , port] = readFileSync(file, "utf8").split("\n");
  return { file, pid: Number(pid), port: Number(port) };
};

const isPostgres = (pid) => /postgres|postmaster/.test(commandLine(pid));

/**
 * A server that works in a folder, whatever is noted there: the one that was started with it as its data, and not one
 * of the helpers it made.
 */
const servingIn = (dir) =>
  processesIn(dir)
    .map((pid) => ({ pid, words: argumentsOf(pid) }))
    .filter(({ pid, words }) => isPostgres(pid) && words.includes("-D"))
    .map(({ pid, words }) => ({ pid, port: Number(words[words.indexOf("-p") + 1]), birth: birthOf(pid) }))
    .find(({ port }) => port > 0) ?? null;

/**
 * The server that runs in a folder, by proof and not by its number alone: it is PostgreSQL, and works in that very
 * folder. Its note may be lost, or say something else. Null when none does.
 */
export const runningIn = (dir) => {
  const note = noteOf(dir);
  if (!note || !isAlive(note.pid) || !sameFolder(folderOf(note.pid), dir) || !isPostgres(note.pid))
    return existsSync(dir) ? servingIn(dir) : null;
  return { ...note, birth: birthOf(note.pid) };
};

/** A note of a server that is not there would keep PostgreSQL from starting once another process has its number. */
const dropStaleNote = (dir) => {
  const note = noteOf(dir);
  if (note && !runningIn(dir)) rmSync(note.file, { force: true });
};

/**
 * A password that is lost is set anew by the cluster's owner, in PostgreSQL's single-user mode: the data stay as they
 * are.
 */
const resetPassword = async (dir, user) => {
  say("The notes on the database were lost; setting its password anew. The data stay as they are …");
  const password = newPassword();
  const child = spawn(
    join(postgresBin(readJson(join(dir, "PG_VERSION"))), "postgres"),
    ["--single", "-D", dir, "postgres"],
    {
      ...user,
      cwd: "/",
      env: CLEAN,
      stdio: ["pipe", "ignore", "pipe"],
    },
  );
  let output = "";
  child.stderr.on("data", (chunk) => (output += chunk));
  child.stdin.on("error", () => {});
  child.stdin.end(`ALTER ROLE wandel PASSWORD '${password}';\n`);
  const code = await new Promise((resolve, reject) => {
    child.once("close", resolve);
    child.once("error", reject);
  });
  if (code !== 0 || /ERROR|FATAL|PANIC/.test(output)) throw new Error(`${troubleIn(dir, output)}`);
  return password;
};

/** The card of the cluster, made of the notes of older checkouts or anew where it is missing. */
const cardOf = async (dir, user) => {
  const card = readJson(join(dir, CARD)) ?? {};
  if (card.password && sameFolder(card.checkout, ROOT)) return { ...card, place: placeOf(ROOT) };
  const noted = readState(STATE);
  const running = runningIn(dir);
  const known = card.password ?? (noted?.password && (noted.complete || noted.dir === dir) ? noted.password : null);
  if (!known && running) await end(running);
  if (!known) dropStaleNote(dir);
  const made = {
    checkout: ROOT,
    place: placeOf(ROOT),
    password: known ?? (await resetPassword(dir, user)),
    appPassword: card.appPassword,
    port: card.port || noted?.port || 0,
  };
  writeCard(dir, made, user);
  return made;
};

const logSize = () => (existsSync(join(LOCAL, LOG)) ? statSync(join(LOCAL, LOG)).size : 0);

const logSince = (from) => {
  const file = openSync(join(LOCAL, LOG), "r");
  try {
    const bytes = Buffer.alloc(Math.max(0, Math.min(statSync(join(LOCAL, LOG)).size - from, 65_536)));
    readSync(file, bytes, 0, bytes.length, from);
    return bytes.toString();
  } finally {
    closeSync(file);
  }
};

/** A sentence for what PostgreSQL wrote when it would not start. */
export const troubleIn = (dir, log) => {
  const last = log
    .split("\n")
    .filter((line) => /FATAL|PANIC|ERROR/.test(line))
    .at(-1)
    ?.trim();
  if (/No space left on device/.test(log)) return noRoom(dir).message;
  if (/Read-only file system/.test(log))
    return `${dir} lies on a disk that can only be read. Make it writable and start again. Nothing was changed.`;
  return `PostgreSQL can't start on the data in ${dir}${last ? `; it says: “${last}”` : ""}. They may be damaged. Nothing was changed; ${join(LOCAL, LOG)} has the whole of it. Put the folder back from a copy, or: ${FRESH}`;
};

const launch = (dir, port, user) => {
  const log = openLog(LOG);
  // What is logged names no document: errors are kept short and statements out of them.
  const quiet = [
    "log_error_verbosity=terse",
    "log_min_error_statement=panic",
    "log_parameter_max_length_on_error=0",
  ].flatMap((setting) => ["-c", setting]);
  const args = [
    "-D",
    dir,
    "-p",
    String(port),
    "-c",
    "listen_addresses=127.0.0.1",
    "-c",
    "unix_socket_directories=",
    "-c",
    "max_connections=60",
    ...quiet,
  ];
  const child = spawn(join(postgresBin(readJson(join(dir, "PG_VERSION"))), "postgres"), args, {
    ...user,
    cwd: "/",
    env: CLEAN,
    detached: true,
    stdio: ["ignore", log, log],
  });
  const ended = new Promise((resolve) => {
    child.once("close", () => resolve(true));
    child.once("error", () => resolve(true));
  });
  child.unref();
  closeSync(log);
  return { pid: child.pid, ended };
};

const knock = async (port, password) => {
  const { default: pg } = await import("pg");
  const client = new pg.Client({
    host: "127.0.0.1",
    port,
    user: "wandel",
    password,
    database: "postgres",
    connectionTimeoutMillis: 5000,
  });
  client.on("error", () => {});
  try {
    await client.connect();
    return "open";
  } catch (error) {
    return error.code ?? "closed";
  } finally {
    await client.end().catch(() => {});
  }
};

/**
 * Waits for a server that is starting for as long as it lives: after a crash it first does again what its journal
 * holds, which can take minutes. Answers "open", "ended" or "locked" (it is there and the password is not its own).
 */
export const whenReady = async ({ knock: ask, isOver, progress, pauseMs = 150, progressMs = 5000 }) => {
  const start = Date.now();
  for (let told = 1; ; await pause(pauseMs)) {
    const answer = await ask();
    // A server that has no connection to spare is there as well.
    if (answer === "open" || answer === "53300") return "open";
    if (answer === "28P01") return "locked";
    if (isOver()) return "ended";
    if (Date.now() - start < told * progressMs) continue;
    progress(Math.round((Date.now() - start) / 1000), answer === "57P03");
    told++;
  }
};

const awaitServer = async (port, password, isOver) =>
  whenReady({
    knock: () => knock(port, password),
    isOver,
    progress: (seconds, recovering) =>
      say(
        recovering
          ? `PostgreSQL is bringing back what a crash interrupted; ${seconds} s so far. It is waited for …`
          : `PostgreSQL does not answer on port ${port} yet; ${seconds} s so far. It is waited for … (should it hang, Ctrl C ends this command and harms nothing)`,
      ),
  });

const start = async (dir, card, user) => {
  dropStaleNote(dir);
  for (let tries = 0; ; tries++) {
    const port = await freePort(card.port);
    const from = logSize();
    const child = launch(dir, port, user);
    let over = false;
    void child.ended.then(() => {
      over = true;
    });
    const answer = await awaitServer(port, card.password, () => over);
    if (answer === "open") return port;
    if (answer === "locked" && !over) await end({ pid: child.pid, birth: birthOf(child.pid), dir });
    if (answer === "locked") return null;
    const log = logSince(from);
    // Another program took the port between our look and its start.
    if (!/could not bind|could not create any TCP/.test(log) || tries >= 3) throw new Error(troubleIn(dir, log));
  }
};

/**
 * Starts the cluster of this checkout, or finds it running. A folder is made only where there is none; whatever is not
 * as expected is told, and stays as it is.
 */
export const startPostgres = async () => {
  if (!postgresBin()) throw new Error("PostgreSQL is not installed. Install it as root: apt-get install postgresql");
  ensureLocal();
  const dir = dataFolder();
  const user = await account(dir);
  if (isEmpty(dir)) {
    tellOfLost();
    await initialise(dir, user);
  } else if (!readState(STATE)?.dir && dir !== inCheckout)
    say(`The note of where the data lie was lost; they were found in ${dir}, by what is written there.`);
  const fault = faultOf(dir);
  if (fault) throw new Error(fault);
  await giveTo(user, dir);
  let card = await cardOf(dir, user);
  const running = runningIn(dir);
  const known = running && (await awaitServer(running.port, card.password, () => !runningIn(dir)));
  let port = known === "open" ? running.port : null;
  if (known === "locked") await end({ ...running, dir });
  if (!port && known !== "locked") port = await start(dir, card, user);
  if (!port) {
    // The password on its card is not the one it has: the card came from elsewhere.
    dropStaleNote(dir);
    card = { ...card, password: await resetPassword(dir, user) };
    writeCard(dir, card, user);
    port = await start(dir, card, user);
  }
  if (!card.appPassword || card.port !== port || readJson(join(dir, CARD))?.place !== card.place) {
    card = { ...card, appPassword: card.appPassword ?? newPassword(), port };
    writeCard(dir, card, user);
  }
  writeState(STATE, { dir });
  return { dir, port, password: card.password, appPassword: card.appPassword };
};

const end = async ({ pid, birth }) => {
  if (!birth || birthOf(pid) !== birth) return;
  process.kill(pid, "SIGINT");
  if (await gone(pid, 60_000)) return;
  throw new Error(
    `PostgreSQL (process ${pid}) does not end: it may be writing what it has to a slow disk. Wait a little and try again.`,
  );
};

/** The data folder of this checkout, if it has one. */
const ownFolder = () => {
  const dir = dataFolder();
  return isEmpty(dir) ? null : dir;
};

/** Ends the server of this checkout's data folder; any other is left alone. Answers whether one ran. */
export const stopPostgres = async () => {
  const dir = ownFolder();
  const running = dir && runningIn(dir);
  if (!running) return false;
  await end(running);
  return true;
};

const dated = (dir) => {
  const name = `${dir}-${new Date().toISOString().slice(0, 16).replace("T", "-").replace(":", "")}`;
  let free = name;
  for (let number = 2; existsSync(free); number++) free = `${name}-${number}`;
  return free;
};

/** Puts the data folder aside under a dated name, so that the next start begins with an empty one. */
export const putAside = async () => {
  await stopPostgres();
  const dir = ownFolder();
  if (!dir) return;
  const aside = dated(dir);
  renameSync(dir, aside);
  say(
    `The library so far was put aside, whole: ${aside}. To have it back, stop Wandel and give that folder its old name, ${dir}. Delete it yourself when it is not wanted any more.`,
  );
};
