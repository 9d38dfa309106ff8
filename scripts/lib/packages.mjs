import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { hashOf, isRoot, must, ROOT, run, say } from "./shell.mjs";

const PG_HOME = "/usr/lib/postgresql";

/**
 * Folder of PostgreSQL's programs, of the version that is asked for or else the newest; null when it is not installed.
 */
export const postgresBin = (version) => {
  if (!existsSync(PG_HOME)) return null;
  const versions = readdirSync(PG_HOME).filter(
    (found) => existsSync(join(PG_HOME, found, "bin/initdb")) && (version === undefined || found === String(version)),
  );
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  return newest ? join(PG_HOME, newest, "bin") : null;
};

/**
 * Debian's Chromium without its windows: quicker to install and to run. The whole one stands in for it where it can't
 * be had.
 */
const [SHELL, WHOLE] = ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"];
export const chromiumPath = () => (existsSync(SHELL) || !existsSync(WHOLE) ? SHELL : WHOLE);

const PRESENT = { postgresql: () => postgresBin() !== null, "chromium-headless-shell": () => existsSync(SHELL) };
const STANDS_IN = { "chromium-headless-shell": () => existsSync(WHOLE) };

/**
 * Installs the Debian packages that are missing. Without root it asks sudo, and says what to do when that is refused.
 */
const ensureDebian = async (names) => {
  const missing = names.filter((name) => !PRESENT[name]());
  if (!missing.length) return;
  say(`Installing ${missing.join(" and ")} …`);
  const as = isRoot ? [] : ["sudo", "-n"];
  const apt = (...args) =>
    run([...as, "apt-get"][0], [...as, "apt-get"].slice(1).concat(args), {
      quiet: true,
      env: { DEBIAN_FRONTEND: "noninteractive" },
    });
  const updated = await apt("update");
  const installed = await apt("install", "-y", "--no-install-recommends", ...missing);
  if (missing.every((name) => PRESENT[name]() || STANDS_IN[name]?.())) return;
  throw new Error(
    `Could not install ${missing.join(" and ")}. Install them as root (apt-get install ${missing.join(" ")}) and start again.\n${(updated.output + installed.output).slice(-1500)}`,
  );
};

/**
 * Which lock file the packages are of: lies with them, so that it goes with them and is theirs in every checkout that
 * has them.
 */
const STAMP = join(ROOT, "node_modules/.wandel-stamp");

const stampThere = () => {
  try {
    return readFileSync(STAMP, "utf8");
  } catch {
    return null;
  }
};

/** Installs the npm packages of the lock file when they are not those that are there. */
export const ensureNpm = async () => {
  const stamp = hashOf([readFileSync(join(ROOT, "package-lock.json"))]);
  if (stampThere() === stamp) return;
  say("Installing npm packages …");
  await must("npm", ["ci", "--no-audit", "--no-fund"], { quiet: true });
  writeFileSync(STAMP, stamp);
};

/**
 * Both at once, since each waits for a registry of its own most of the time. What went wrong is told when both have
 * ended: neither is left half done.
 */
export const ensurePackages = async (debian) => {
  const ended = await Promise.allSettled([ensureDebian(debian), ensureNpm()]);
  const wrong = ended.flatMap(({ reason }) => (reason ? [reason.message] : []));
  if (wrong.length) throw new Error(wrong.join("\n\n"));
};
