import { ensureBuild } from "./lib/build.mjs";
import { underLock } from "./lib/lock.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { databaseUrl } from "./lib/postgres.mjs";
import { choosePort, serveHere } from "./lib/server.mjs";
import { main } from "./lib/shell.mjs";

main(async () => {
  const settings = await underLock(async () => {
    await ensurePackages(process.env.DATABASE_URL ? [] : ["postgresql"]);
    await ensureBuild();
    return { databaseUrl: await databaseUrl(), port: await choosePort() };
  });
  process.exitCode = await serveHere("start", settings);
});
