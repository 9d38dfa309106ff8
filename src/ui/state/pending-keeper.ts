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
  page === pageId || !navigator.locks
    ? Promise.resolve(false)
    : navigator.locks.request(lockName(page), { ifAvailable: true }, (lock) => lock !== null);

/**
 * A gesture as it is kept, with the version of gestures that its commands are written in. One without a version is of
 * the first.
 */
export interface Kept extends Omit<Pending, "commands"> {
  readonly made?: number;
  /** The name of the document at that time, for whoever is told of them elsewhere. */
  readonly of?: string;
  readonly commands: readonly object[];
}

/** What was kept, as far as it is what we keep: others write to the same place, and a browser may cut it short. */
const gesturesIn = (text: string | null): readonly Kept[] => {
  try {
    const value: unknown = JSON.parse(text ?? "[]");
    return Array.isArray(value)
      ? value.filter((gesture) => typeof gesture?.id === "string" && Array.isArray(gesture?.commands))
      : [];
  } catch {
    return [];
  }
};

/** A key names the kind of the document, its id, the page, and how many times that had shown a document before. */
const KEY = /^wandel:pending:(template|rig|studio):[^:/]+:[\w-]+([.]\d+)?$/;

const keysKept = (): readonly string[] =>
  typeof localStorage === "undefined"
    ? []
    : Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at) ?? "").filter((key) => KEY.test(key));

const pageOf = (key: string): string => key.slice(key.lastIndexOf(":") + 1).split(".")[0] ?? "";
const aboutOf = (key: string): string => key.slice(PREFIX.length + 1, key.lastIndexOf(":"));

/** What is kept by pages that are gone, and of which document it is. */
const orphans = async (): Promise<readonly { readonly key: string; readonly about: string }[]> => {
  const found: { key: string; about: string }[] = [];
  for (const key of keysKept()) if (await isOrphan(pageOf(key))) found.push({ key, about: aboutOf(key) });
  return found;
};

/** Edits of one document that no page is sending. */
export interface Orphaned {
  /** `template:…` */
  readonly about: string;
  readonly name: string;
  /** Oldest first, by name. */
  readonly edits: readonly string[];
}

/** Keeps what is not saved yet in the browser, so that a reload or a crash loses nothing. */
export class PendingKeeper {
  private readonly key: string;

  constructor(private readonly about: string) {
    this.key = `${PREFIX}:${about}:${pageId}.${times++}`;
  }

  keep(pending: readonly Pending[], of: string): void {
    holdLock();
    try {
      if (pending.length)
        localStorage.setItem(
          this.key,
          JSON.stringify(pending.map((gesture): Kept => ({ ...gesture, made: GESTURE_VERSION, of }))),
        );
      else localStorage.removeItem(this.key);
    } catch {
      // The browser keeps nothing for us (private window, full): the edits are in this page and go out as ever.
    }
  }

  /** What pages that are gone left unsaved, oldest page first; taken out of the keeping. */
  async takeOrphans(): Promise<readonly Kept[]> {
    const found: Kept[] = [];
    for (const { key, about } of await orphans()) {
      if (about !== this.about) continue;
      found.push(...gesturesIn(localStorage.getItem(key)));
      localStorage.removeItem(key);
    }
    return found;
  }

  /**
   * What pages that are gone left unsaved, by document. Nothing where pages can't be told from each other (no locks):
   * it may be of one that is sending it.
   */
  static async allOrphans(): Promise<readonly Orphaned[]> {
    if (!navigator.locks) return [];
    const byDocument = new Map<string, Orphaned>();
    for (const { key, about } of await orphans()) {
      const gestures = gesturesIn(localStorage.getItem(key));
      const { edits = [], name = "" } = byDocument.get(about) ?? {};
      if (gestures.length)
        byDocument.set(about, {
          about,
          edits: [...edits, ...gestures.map((gesture) => String(gesture.name))],
          name: gestures.at(-1)?.of ?? name,
        });
    }
    return [...byDocument.values()];
  }

  /** Calls when a page that keeps something now, and lives, is gone. */
  static async whenGone(signal: AbortSignal, then: () => void): Promise<void> {
    if (!navigator.locks) return;
    for (const page of new Set(keysKept().map(pageOf))) {
      if (page === pageId || (await isOrphan(page)) || signal.aborted) continue;
      // What is not wanted any more is refused with the reason of the signal.
      navigator.locks.request(lockName(page), { signal }, then).catch(() => {});
    }
  }

  /** A person gives up what pages that are gone left of this document. */
  static async dropOrphans(about: string): Promise<void> {
    for (const orphan of await orphans()) if (orphan.about === about) localStorage.removeItem(orphan.key);
  }

  /** How many edits wait for a document in this browser, whichever page made them. */
  static countWaiting(): number {
    return keysKept().reduce((sum, key) => sum + gesturesIn(localStorage.getItem(key)).length, 0);
  }
}
