/**
 * What the server tells: a saved revision (of a template with the rig it stands on), that a document was deleted
 * (`gone`) or brought back (`gone` is false), that its database is away, or that all is well again and something may
 * have been missed.
 */
export type Told =
  | {
      readonly kind: "template" | "rig" | "studio";
      readonly id: string;
      readonly revision: number;
      readonly on?: string;
      readonly gone?: boolean;
    }
  | "away"
  | "again";

type Listener = (told: Told) => void;

const listeners = new Set<Listener>();
let started = false;

/** A screen that one goes to was read on the server this long before it listens, at most. */
const LATELY_MS = 5000;
let lately: readonly { readonly at: number; readonly told: Told }[] = [];
const stillLate = () => lately.filter(({ at }) => at > Date.now() - LATELY_MS);

const tell = (told: Told): void => {
  if (typeof told === "object") lately = [...stillLate().slice(-99), { at: Date.now(), told }];
  for (const listener of listeners) listener(told);
};

/**
 * One page of this browser holds the stream and passes on what it hears, since a browser opens only few connections to
 * one server.
 */
const hold = (pass: (told: Told) => void): void => {
  const source = new EventSource("/api/changes");
  source.addEventListener("change", (event) => pass(JSON.parse((event as MessageEvent<string>).data) as Told));
  source.addEventListener("away", () => pass("away"));
  source.addEventListener("again", () => pass("again"));
  source.addEventListener("open", () => pass("again"));
  source.addEventListener("error", () => {
    pass("away");
    // A server that refuses the stream for good is asked again all the same.
    if (source.readyState !== EventSource.CLOSED) return;
    setTimeout(() => hold(pass), 1000);
  });
};

const start = (): void => {
  if (started || typeof EventSource === "undefined") return;
  started = true;
  const channel = new BroadcastChannel("wandel:changes");
  channel.addEventListener("message", (event) => tell(event.data as Told));
  const pass = (told: Told) => {
    channel.postMessage(told);
    tell(told);
  };
  if (!navigator.locks) {
    hold(pass);
    return;
  }
  void navigator.locks.request("wandel:changes", () => {
    hold(pass);
    return new Promise(() => {});
  });
};

/**
 * Calls back for everything the server tells, and for the changes that it told just before: a screen is read on the
 * server first, and what was saved between that and its listening would be missed by a window that only goes from one
 * screen to the next. Answers how to stop.
 */
export const watchChanges = (listener: Listener): (() => void) => {
  listeners.add(listener);
  for (const { told } of stillLate()) queueMicrotask(() => listeners.has(listener) && listener(told));
  start();
  return () => void listeners.delete(listener);
};
