import { ensureDebian, ensureNpm } from "./lib/packages.mjs";
import { databaseUrl } from "./lib/postgres.mjs";
import { serveHere } from "./lib/server.mjs";
import { freePort, main } from "./lib/shell.mjs";

main(async () => {
  if (!process.env.DATABASE_URL) await ensureDebian(["postgresql"]);
  await ensureNpm();
  const port = await freePort(Number(process.env.PORT ?? 3000));
  process.exitCode = await serveHere("dev", { port, databaseUrl: await databaseUrl("wandel"), env: { WANDEL_DEMO: "1" } });
});
