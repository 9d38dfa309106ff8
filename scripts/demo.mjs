import { ensureDebian, ensureNpm } from "./lib/packages.mjs";
import { databaseUrl } from "./lib/postgres.mjs";
import { ensureBuild, startServer, stopServer } from "./lib/server.mjs";
import { main, say } from "./lib/shell.mjs";

const fresh = process.argv.includes("--fresh");

main(async () => {
  if (!process.env.DATABASE_URL) await ensureDebian(["postgresql"]);
  await ensureNpm();
  if (fresh) await stopServer();
  const database = await databaseUrl("wandel", { fresh });
  await ensureBuild();
  const url = await startServer({ databaseUrl: database, env: { WANDEL_DEMO: "1" } });
  say("\nWandel runs with the demo of Mossgate Mill; it goes on in the background, npm run stop ends it.");
  say(`Open ${url}`);
});
