import { stopPostgres } from "./lib/postgres.mjs";
import { stopServer } from "./lib/server.mjs";
import { main, say } from "./lib/shell.mjs";

main(async () => {
  const stopped = await stopServer();
  await stopPostgres();
  say(stopped ? "Wandel and its database are stopped." : "Wandel was not running; its database is stopped.");
});
