import { underLock } from "./lib/lock.mjs";
import { stopPostgres } from "./lib/postgres.mjs";
import { stopServer } from "./lib/server.mjs";
import { main, say } from "./lib/shell.mjs";

main(() =>
  underLock(async () => {
    const server = await stopServer();
    const database = await stopPostgres();
    const words = [server && "Wandel", database && "its database"].filter(Boolean).join(" and ");
    say(
      words ? `${words} ${server && database ? "are" : "is"} stopped.` : "Neither Wandel nor its database was running.",
    );
  }),
);
