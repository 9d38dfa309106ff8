import { ensureBuild } from "./lib/build.mjs";
import { openTo } from "./lib/gate.mjs";
import { underLock } from "./lib/lock.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { databaseUrl, putAside } from "./lib/postgres.mjs";
import { HOST, startServer, stopServer } from "./lib/server.mjs";
import { main, say } from "./lib/shell.mjs";

const fresh = process.argv.includes("--fresh");

const start = async () => {
  if (fresh && process.env.DATABASE_URL)
    throw new Error(
      "--fresh is for the database of this checkout, and DATABASE_URL names another one. Empty that yourself, or unset DATABASE_URL.",
    );
  await ensurePackages(process.env.DATABASE_URL ? [] : ["postgresql"]);
  if (fresh) {
    await stopServer();
    await putAside();
  }
  const database = await databaseUrl();
  await ensureBuild();
  return startServer({ databaseUrl: database, env: { WANDEL_DEMO: fresh ? "0" : "1" } });
};

main(async () => {
  const url = await underLock(start);
  say(
    fresh
      ? "\nWandel runs with an empty library; it goes on in the background, npm run stop ends it. A later npm run demo keeps what is made here, and fills it with the demo only while it has no rig."
      : "\nWandel runs with the demo of Mossgate Mill; it goes on in the background, npm run stop ends it.",
  );
  say(`Open ${url}`);
  const warning = openTo(HOST);
  if (warning) say(warning);
});
