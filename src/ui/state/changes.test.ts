import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Told } from "./changes";

/** A stream that says what it is told to. */
class FakeSource {
  static made: FakeSource[] = [];
  static readonly CLOSED = 2;
  readyState = 1;
  private readonly listeners = new Map<string, (event: { readonly data: string }) => void>();
  constructor(readonly url: string) {
    FakeSource.made.push(this);
  }
  addEventListener(type: string, listener: (event: { readonly data: string }) => void): void {
    this.listeners.set(type, listener);
  }
  say(type: string, data: unknown = {}): void {
    this.listeners.get(type)?.({ data: JSON.stringify(data) });
  }
}

/** Pages of one browser hear each other, and not themselves. */
class FakeChannel {
  static all: FakeChannel[] = [];
  private listener: ((event: { readonly data: unknown }) => void) | null = null;
  constructor() {
    FakeChannel.all.push(this);
  }
  addEventListener(_type: string, listener: (event: { readonly data: unknown }) => void): void {
    this.listener = listener;
  }
  postMessage(data: unknown): void {
    for (const other of FakeChannel.all) if (other !== this) other.listener?.({ data });
  }
}

let holders: (() => unknown)[];
const browser = () => ({
  locks: {
    request: (_name: string, run: () => unknown) => {
      holders.push(run);
      if (holders.length === 1) return run();
      return new Promise(() => {});
    },
  },
});

/** A page of the browser: the module anew. */
const page = async (): Promise<Told[]> => {
  vi.resetModules();
  const heard: Told[] = [];
  (await import("./changes")).watchChanges((told) => heard.push(told));
  return heard;
};

beforeEach(() => {
  holders = [];
  FakeSource.made = [];
  FakeChannel.all = [];
  vi.stubGlobal("EventSource", FakeSource);
  vi.stubGlobal("BroadcastChannel", FakeChannel);
  vi.stubGlobal("navigator", browser());
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const change = { kind: "template", id: "t", revision: 4 } as const;

describe("changes from the server", () => {
  it("are heard by every page of a browser through one stream", async () => {
    const [first, second] = [await page(), await page()];
    expect(FakeSource.made.map((source) => source.url)).toEqual(["/api/changes"]);
    FakeSource.made[0]?.say("change", change);
    expect([first, second]).toEqual([[change], [change]]);
  });

  it("a screen that listens only now hears what was told just before, once, and nothing older", async () => {
    vi.useFakeTimers();
    await page();
    const { watchChanges } = await import("./changes");
    FakeSource.made[0]?.say("change", { ...change, revision: 3 });
    vi.advanceTimersByTime(6000);
    FakeSource.made[0]?.say("change", change);
    FakeSource.made[0]?.say("away");
    vi.advanceTimersByTime(1000);
    const [heard, gone]: [Told[], Told[]] = [[], []];
    watchChanges((told) => heard.push(told));
    watchChanges((told) => gone.push(told))();
    await Promise.resolve();
    expect([heard, gone]).toEqual([[change], []]);
    FakeSource.made[0]?.say("again");
    expect(heard).toEqual([change, "again"]);
  });

  it("a page that takes over when the first is closed opens the stream anew", async () => {
    await page();
    const second = await page();
    void holders[1]?.();
    expect(FakeSource.made).toHaveLength(2);
    FakeSource.made[1]?.say("change", change);
    expect(second).toEqual([change]);
  });

  it("an outage is told, and so is its end, when something may have been missed", async () => {
    const heard = await page();
    const [source] = FakeSource.made;
    source?.say("error");
    source?.say("away");
    source?.say("again");
    source?.say("open");
    expect(heard).toEqual(["away", "away", "again", "again"]);
  });

  it("a stream that was refused for good is asked for again", async () => {
    vi.useFakeTimers();
    await page();
    const [source] = FakeSource.made;
    if (source) source.readyState = FakeSource.CLOSED;
    source?.say("error");
    await vi.advanceTimersByTimeAsync(1100);
    expect(FakeSource.made).toHaveLength(2);
  });

  it("whoever stops listening hears no more", async () => {
    vi.resetModules();
    const { watchChanges } = await import("./changes");
    const heard: Told[] = [];
    const stop = watchChanges((told) => heard.push(told));
    stop();
    FakeSource.made[0]?.say("change", change);
    expect(heard).toEqual([]);
  });

  it("a browser without streams is left in peace", async () => {
    vi.stubGlobal("EventSource", undefined);
    await expect(page()).resolves.toEqual([]);
  });
});
