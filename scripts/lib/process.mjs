import { readdirSync, readFileSync, readlinkSync, realpathSync } from "node:fs";
import { pause } from "./shell.mjs";

const quietly = (act, otherwise) => {
  try {
    return act();
  } catch {
    return otherwise;
  }
};

export const isAlive = (pid) => {
  if (!Number.isInteger(pid) || pid <= 1) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === "EPERM";
  }
};

const BOOT = quietly(() => readFileSync("/proc/sys/kernel/random/boot_id", "utf8").trim(), "");

/**
 * When a process was started, as text that no other process of this machine ever has together with its number; null
 * when it is gone. A number is given out again, a number with its start time is not.
 */
export const birthOf = (pid) => {
  const stat = quietly(() => readFileSync(`/proc/${pid}/stat`, "utf8"), "");
  // The name of the program stands in parentheses and may hold anything; the fields are counted behind it.
  const ticks = stat.slice(stat.lastIndexOf(")") + 2).split(" ")[19];
  return ticks ? `${BOOT} ${ticks}` : null;
};

/** The folder a process works in; null when it is gone or not ours to look at. It follows a folder that was moved. */
export const folderOf = (pid) => quietly(() => readlinkSync(`/proc/${pid}/cwd`), null);

export const commandLine = (pid) =>
  quietly(() => readFileSync(`/proc/${pid}/cmdline`, "utf8").replaceAll("\0", " "), "");

export const sameFolder = (a, b) => Boolean(a && b) && quietly(() => realpathSync(a) === realpathSync(b), false);

/** Whether a process noted by its number and birth is still that one, and works in the folder. */
export const isProven = ({ pid, birth, folder }) =>
  Boolean(birth) && birthOf(pid) === birth && sameFolder(folderOf(pid), folder);

/** The words a process was started with. */
export const argumentsOf = (pid) =>
  quietly(() => readFileSync(`/proc/${pid}/cmdline`, "utf8").split("\0").slice(0, -1), []);

/**
 * The processes of this machine that work in a folder, by their numbers. Where the system does not tell of them there
 * are none.
 */
export const processesIn = (folder) =>
  quietly(() => readdirSync("/proc"), [])
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => pid !== process.pid && sameFolder(folderOf(pid), folder));

/** Waits until a process is gone. A defunct one that its parent has not looked after counts as gone. */
export const gone = async (pid, ms) => {
  const isOver = () =>
    !isAlive(pid) || /^\d+ \(.*\) Z /s.test(quietly(() => readFileSync(`/proc/${pid}/stat`, "utf8"), ""));
  for (const end = Date.now() + ms; Date.now() < end; await pause(50)) if (isOver()) return true;
  return isOver();
};
