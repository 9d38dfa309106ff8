import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { sameFolder } from "./process.mjs";
import { hashOf, isRoot, LOCAL, ROOT, readState, say } from "./shell.mjs";

/** The note of a checkout of where its data lie, and what is logged of them. */
export const STATE = "postgres.json";
export const LOG = "postgres.log";
/**
 * The cluster tells itself whose it is and how to get in, so that it is found again when the checkout was moved or its
 * notes are lost.
 */
export const CARD = "wandel.json";

export const readJson = (file) => {
  try {
    return JSON.parse(readFileSync(file, "utf8"));
  } catch {
    return null;
  }
};

const traversable = (path) => {
  for (let at = path; ; at = dirname(at)) {
    if (existsSync(at) && (statSync(at).mode & 0o001) === 0) return false;
    if (at === dirname(at)) return true;
  }
};

export const inCheckout = join(LOCAL, "postgres");
const OUTSIDE = "/var/lib/wandel";

/** A folder as the disk knows it: it stays the same when the folder is moved on it. */
export const placeOf = (folder) => {
  const { dev, ino } = statSync(folder);
  return `${dev}:${ino}`;
};

/**
 * Data folders outside of checkouts, with what is written in them of whose they are. One who may not look there has
 * none there.
 */
const outside = () => {
  try {
    return readdirSync(OUTSIDE)
      .map((name) => join(OUTSIDE, name, "postgres"))
      .flatMap((dir) => {
        const card = isEmpty(dir) ? null : readJson(join(dir, CARD));
        return card?.checkout ? [{ dir, card }] : [];
      });
  } catch {
    return [];
  }
};

const isOwn = ({ card }) =>
  sameFolder(card.checkout, ROOT) || (!existsSync(card.checkout) && card.place === placeOf(ROOT));

/** Data outside whose checkout is gone: this one may have been that under another name. */
const orphans = () => outside().filter(({ card }) => !existsSync(card.checkout));

/**
 * Where a cluster is made when there is none: in the checkout; when root's checkout lies where the database's user may
 * not go, in a folder of this checkout's under /var/lib.
 */
const newFolder = () =>
  !isRoot || traversable(ROOT) ? inCheckout : join(OUTSIDE, hashOf([ROOT]).slice(0, 16), "postgres");

/** A folder that may not be looked into has something in it, for all we know. */
export const isEmpty = (dir) => {
  try {
    return !existsSync(dir) || readdirSync(dir).length === 0;
  } catch {
    return false;
  }
};

/**
 * Whether a folder outside the checkout belongs to another checkout that is still there and uses it: then this one is
 * its copy.
 */
const isAnothers = (dir) => {
  const home = readJson(join(dir, CARD))?.checkout;
  return home && !sameFolder(home, ROOT) && readJson(join(home, ".wandel", STATE))?.dir === dir;
};

/**
 * The folder of this checkout's data: what lies in it, else what its notes name (also when it was moved since), else
 * where new ones go.
 */
export const dataFolder = () => {
  if (!isEmpty(inCheckout)) return inCheckout;
  const noted = readState(STATE)?.dir;
  if (noted && !isEmpty(noted) && !noted.endsWith("/.wandel/postgres")) {
    if (!isAnothers(noted)) return noted;
    say(
      `This checkout is a copy of ${readJson(join(noted, CARD)).checkout}, whose library lies in ${noted} and stays there; this one gets a database of its own.`,
    );
  }
  return outside().find(isOwn)?.dir ?? newFolder();
};

/** Before a checkout that ran before begins with nothing: what is known of where its data may be. */
export const tellOfLost = () => {
  const ran = [STATE, LOG, "server.json", "server.log"].some((name) => existsSync(join(LOCAL, name)));
  if (!ran || readState(STATE)?.dir) return;
  const found = orphans().map(({ dir, card }) => `${dir} (of ${card.checkout}, which is gone)`);
  say(
    found.length
      ? `The note of where the data of this checkout lie was lost. These belong to checkouts that are gone, and one of them may be its own: ${found.join(", ")}. An empty library is begun now; to have one of those instead, stop Wandel, write {"dir":"…"} with its folder into ${join(LOCAL, STATE)}, and start again. Nothing was changed in them.`
      : `The note of where the data of this checkout lie was lost, and none were found here or in ${OUTSIDE}. An empty library is begun.`,
  );
};
