import { nanoid } from "nanoid";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import type { Pending } from "@/core/history/rebase";

const PREFIX = "wandel:pending";

/** A page is known by a name of its own; a lock under it is held for as long as the page lives. */
const pageId = nanoid(10);
const lockName = (page: string): string => `wandel:page:${page}`;

let held = false;
const holdLock = (): void => {
  if (held || typeof navigator === "undefined" || !navigator.locks) return;
  held = true;
  void navigator.locks.request(lockName(pageId), () => new Promise(() => {}));
};

/** A page may show one document, another, and the first again: what each time left is kept by itself. */
let times = 0;

const isOrphan = (page: string): Promise<boolean> =>
  page === pageId || !navigator.locks ? Promise.resolve(false) : navigator.locks.request(lockName(page), { ifAvailable: true }, (lock) => lock !== null);

/** A gesture as it is kept, with the version of gestures that its commands are written in. One without a version is of the first. */
export interface Kept extends Omit<Pending, "commands"> {
  readonly made?: number;
  readonly commands: readonly object[];
}

/** What was kept, as far as it is what we keep: others write to the same place, and a browser may cut it short. */
const gesturesIn = (text: string | null): readonly Kept[] => {
  try {
    const value: unknown = JSON.parse(text ?? "[]");
    return Array.isArray(value) ? value.filter((gesture) => typeof gesture?.id === "string" && Array.isArray(gesture?.commands)) : [];
  } catch {
    return [];
  }
};

/** Keeps what is not saved yet in the browser, so that a reload or a crash loses nothing. */
export class PendingKeeper {
  private readonly key: string;

  constructor(private readonly about: string) {
    this.key = `${PREFIX}:${about}:${pageId}.${times++}`;
  }

  keep(pending: readonly Pending[]): void {
    holdLock();
    try {
      if (pending.length) localStorage.setItem(this.key, JSON.stringify(pending.map((gesture): Kept => ({ ...gesture, made: GESTURE_VERSION }))));
      else localStorage.removeItem(this.key);
    } catch {
      // The browser keeps nothing for us (private window, full): the edits are in this page and go out as ever.
    }
  }

  /** What pages that are gone left unsaved, oldest page first; taken out of the keeping. */
  async takeOrphans(): Promise<readonly Kept[]> {
    const found: Kept[] = [];
    const start = `${PREFIX}:${this.about}:`;
    const keys = Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at) ?? "").filter((key) => key.startsWith(start));
    for (const key of keys) {
      const [page = ""] = key.slice(start.length).split(".");
      if (!(await isOrphan(page))) continue;
      found.push(...gesturesIn(localStorage.getItem(key)));
      localStorage.removeItem(key);
    }
    return found;
  }

  /** How many edits wait for a document in this browser, whichever page made them. */
  static countWaiting(): number {
    if (typeof localStorage === "undefined") return 0;
    const keys = Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at) ?? "").filter((key) => key.startsWith(`${PREFIX}:`));
    return keys.reduce((sum, key) => sum + gesturesIn(localStorage.getItem(key)).length, 0);
  }
}
