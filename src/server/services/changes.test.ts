import { createServer, type Server, type Socket } from "node:net";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

/** Where a database was and is no more: what comes is turned away. */
const nothingThere = (): Promise<Server> =>
  new Promise((resolve) => {
    const server = createServer((socket: Socket) => socket.destroy());
    server.listen(0, "127.0.0.1", () => resolve(server));
  });

describe("whoever listens while the database can't be reached", () => {
  const url = process.env.DATABASE_URL;
  const stops: (() => void)[] = [];
  const holder = globalThis as { wandelChanges?: unknown };
  const { wandelChanges } = holder;
  let server: Server;
  let onChange: typeof import("./changes").onChange;

  beforeEach(async () => {
    // The one connection of this process is another's.
    delete holder.wandelChanges;
    vi.resetModules();
    ({ onChange } = await import("./changes"));
    server = await nothingThere();
    const address = server.address();
    process.env.DATABASE_URL = `postgres://nobody@127.0.0.1:${typeof address === "object" && address ? address.port : 0}/nothing`;
  });
  afterEach(() => {
    for (const stop of stops.splice(0)) stop();
    server.close();
    process.env.DATABASE_URL = url;
    holder.wandelChanges = wandelChanges;
  });
  const listen = () => {
    const told: unknown[] = [];
    stops.push(
      onChange(
        (change) => told.push(change),
        () => {},
      ),
    );
    return told;
  };

  it("is told so, once, also when it was never reached; and so is who comes later", async () => {
    const first = listen();
    await vi.waitFor(() => expect(first).toEqual(["away"]), 5000);
    expect(listen()).toEqual(["away"]);
    await new Promise((resolve) => setTimeout(resolve, 1200));
    expect(first).toEqual(["away"]);
  });
});
