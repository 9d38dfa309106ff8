import { Client } from "pg";
import { CHANGES, type Change } from "./change-channel";

/**
 * "away": the database can't be reached. "again": it can, and some changes may have been missed, so look at everything.
 */
type Listener = (change: Change | "away" | "again") => void;

interface Hub {
  readonly listeners: Set<Listener>;
  readonly closers: Set<() => void>;
  client: Client | null;
  connecting: boolean;
  /** Whoever listens was told that the database can't be reached, and not yet that it can. */
  isAway: boolean;
}

/** One listening connection a process, also over the reloads of development. */
const holder = globalThis as typeof globalThis & { wandelChanges?: Hub };
const hub: Hub = holder.wandelChanges ?? {
  listeners: new Set(),
  closers: new Set(),
  client: null,
  connecting: false,
  isAway: false,
};
holder.wandelChanges = hub;

const PAUSE_MS = 500;

const tell = (change: Change | "away" | "again"): void => {
  for (const listener of hub.listeners) listener(change);
};

const tellAway = (): void => {
  if (hub.isAway) return;
  hub.isAway = true;
  tell("away");
};

const lost = (client: Client): void => {
  if (hub.client !== client) return;
  hub.client = null;
  tellAway();
  setTimeout(() => void connect(), PAUSE_MS);
};

const connect = async (): Promise<void> => {
  if (hub.client || hub.connecting || !hub.listeners.size) return;
  hub.connecting = true;
  const client = new Client({
    connectionString: process.env.DATABASE_URL,
    connectionTimeoutMillis: 4000,
    keepAlive: true,
  });
  client.on("error", () => lost(client));
  client.on("end", () => lost(client));
  client.on("notification", ({ payload }) => payload && tell(JSON.parse(payload) as Change));
  try {
    await client.connect();
    await client.query(`listen ${CHANGES}`);
    hub.client = client;
    hub.isAway = false;
    tell("again");
  } catch {
    // Also when it was never reached: who began to listen in the very moment it went would wait for ever.
    tellAway();
    await client.end().catch(() => {});
    setTimeout(() => void connect(), PAUSE_MS);
  } finally {
    hub.connecting = false;
  }
};

const rest = (): void => {
  if (hub.listeners.size) return;
  // Nobody looks any more: how it is then is not known.
  hub.isAway = false;
  if (!hub.client) return;
  const { client } = hub;
  hub.client = null;
  void client.end().catch(() => {});
};

/** Calls back for every saved revision, by this process or another one. Answers how to stop. */
export const onChange = (listener: Listener, onClose: () => void): (() => void) => {
  hub.listeners.add(listener);
  hub.closers.add(onClose);
  if (hub.isAway) listener("away");
  void connect();
  return () => {
    hub.listeners.delete(listener);
    hub.closers.delete(onClose);
    rest();
  };
};

/** Ends every open stream, or the server would wait for its windows for ever. */
export const closeStreams = (): void => {
  for (const close of [...hub.closers]) close();
};
