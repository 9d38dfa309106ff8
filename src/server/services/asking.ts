import { AsyncLocalStorage } from "node:async_hooks";

/** The header in which the door says who asks: made by it alone, whatever a request brings. */
export const CLIENT_HEADER = "x-wandel-client";

const holder = globalThis as typeof globalThis & { wandelAsking?: AsyncLocalStorage<string> };
holder.wandelAsking ??= new AsyncLocalStorage<string>();
const asking = holder.wandelAsking;

/** Does something on behalf of whoever asks. */
export const onBehalfOf = <T>(client: string | null, act: () => T): T => asking.run(client ?? "", act);

/** Who asks; empty where nobody from outside does. */
export const clientNow = (): string => asking.getStore() ?? "";
