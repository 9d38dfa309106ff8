import { createHash } from "node:crypto";
import type { What } from "@/contracts/kinds";
import { CommandsRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import type { Command, Patch } from "@/core/commands/command";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { patchAll } from "@/core/commands/patches";
import { hashOf } from "@/core/model/hash";
import { accept } from "../services/accept";
import { Failure } from "../services/failure";
import { readBody } from "./json-body";
import { kindOf, readStored } from "./kinds";

export interface Mark {
  readonly number: number;
  readonly savedAt: string;
}

/** A batch as it was asked for. */
export interface Asked {
  readonly base: number;
  readonly batch: string;
  readonly baseSavedAt: string | null;
  /** Who made it; empty where nobody was asked. */
  readonly by: string;
  /** The commands as they are stored, as JSON. */
  readonly commands: string;
}

export interface Stored {
  readonly document: string;
  readonly hash: string;
  readonly copies: Readonly<Record<string, string>>;
}

/** What a batch makes of a head. */
interface Applied {
  readonly doc: object;
  readonly patches: readonly Patch[];
  readonly hash: string;
  readonly copies: Readonly<Record<string, string>>;
  readonly names: readonly string[];
}

/** What of a document is stored beside it. */
export const stored = <D extends object>(what: What, doc: D): Stored => {
  const { engine, copies } = kindOf(what);
  return { document: JSON.stringify(doc), hash: hashOf(engine.description, doc), copies: copies(doc as never) };
};

/** So many commands of a batch without a name are named one by one. */
const MOST_NAMES = 20;

const applied = (
  what: What,
  doc: object,
  { name, commands }: { readonly name: string | undefined; readonly commands: readonly Command[] },
): Applied => {
  const { engine, copies } = kindOf(what);
  const done = engine.applyAll(doc as never, commands);
  if (!done.ok) {
    const { index, message } = done.refusal;
    throw new Failure(422, "This can't be done", message, {
      errors: [
        {
          pointer: index === undefined ? (commands.length > 1 ? "/commands" : "/commands/0") : `/commands/${index}`,
          detail: message,
        },
      ],
    });
  }
  const names = name
    ? [name]
    : commands.slice(0, MOST_NAMES).map((command) => engine.commandName(doc as never, command));
  return {
    doc: done.doc as object,
    patches: done.patches,
    hash: hashOf(engine.description, done.doc as object),
    copies: copies(done.doc as never),
    names,
  };
};

/**
 * Reads a batch of commands and applies it to the head, also when it was made for a revision before it: the commands
 * name what they mean, and what still can be done is what was meant. One that can't be, or that knows another past, is
 * only read: what is to be done with it is for the store to say.
 */
export const applyTo = (
  what: What,
  body: string,
  head: Mark & { readonly doc: object },
): Asked & { readonly done: Applied | null } => {
  const {
    base,
    batch,
    baseSavedAt,
    made = GESTURE_VERSION,
    name,
    by = "",
    commands,
  } = accept(parse(CommandsRequest, readBody(body)));
  if (made !== GESTURE_VERSION)
    throw new Failure(
      409,
      made < GESTURE_VERSION ? "Wandel was renewed" : "This server is older",
      `The edit is written as version ${made} of Wandel's gestures, and this server speaks version ${GESTURE_VERSION}. Reload the window; what it holds is kept in the browser.`,
      { renewed: true },
    );
  const accepted = accept(kindOf(what).parse(commands));
  const asked = { base, batch, baseSavedAt: baseSavedAt ?? null, by: by.trim(), commands: JSON.stringify(accepted) };
  if (base > head.number || (base === head.number && baseSavedAt !== undefined && baseSavedAt !== head.savedAt))
    return { ...asked, done: null };
  try {
    return { ...asked, done: applied(what, head.doc, { name, commands: accepted }) };
  } catch (error) {
    // What came between is told with the refusal, so that the sender sees why.
    if (base < head.number && error instanceof Failure && error.status === 422) return { ...asked, done: null };
    throw error;
  }
};

/** A head by what is in it: the same hash is the same document. */
export interface HeadOf {
  readonly what: What;
  readonly id: string;
  readonly hash: string;
}

export interface BatchInput extends HeadOf {
  /** The body of the request as it came. */
  readonly body: string;
  readonly head: Mark;
  /** The head as it is stored; null where this thread is asked to build on what it holds of it. */
  readonly document: string | null;
  /** The whole document is wanted as well, not only what changed. */
  readonly whole: boolean;
}

/**
 * What a batch became, as texts that go to the database as they are; of what is copied out of it only what changed, and
 * the rig it stands on.
 */
export interface BatchDone extends Omit<Stored, "document"> {
  /** Null where it was not asked for. */
  readonly document: string | null;
  readonly patches: string;
  readonly names: readonly string[];
  /** About how large it is as text. */
  readonly bytes: number;
}

interface Held {
  readonly doc: object;
  readonly bytes: number;
}

/**
 * Documents that this thread holds taken apart, by their hash, the last used last: an edit of one is an edit, and not
 * reading all of it. As text they come to this much at most.
 */
const MOST_HELD_BYTES = 24 * 1024 * 1024;
const held = new Map<string, Held>();
const keyOf = ({ what, id, hash }: HeadOf): string => `${what} ${id} ${hash}`;

const hold = (key: string, doc: Held): void => {
  held.delete(key);
  held.set(key, doc);
  let bytes = [...held.values()].reduce((sum, one) => sum + one.bytes, 0);
  for (const [oldest, one] of held) {
    if (bytes <= MOST_HELD_BYTES || held.size <= 1) return;
    held.delete(oldest);
    bytes -= one.bytes;
  }
};

/** What a batch makes of a head that this thread holds, or is given; null when it does neither. */
export const applyBatch = ({
  body,
  head,
  document,
  whole,
  ...of
}: BatchInput): (Asked & { readonly done: BatchDone | null }) | null => {
  const known =
    held.get(keyOf(of)) ?? (document === null ? null : { doc: readStored(of.what, document), bytes: document.length });
  if (!known) return null;
  hold(keyOf(of), known);
  const { done, ...asked } = applyTo(of.what, body, { ...head, doc: known.doc });
  if (!done) return { ...asked, done: null };
  const patches = JSON.stringify(done.patches);
  const text = whole || patches.length > known.bytes ? JSON.stringify(done.doc) : null;
  const bytes = text?.length ?? known.bytes + patches.length;
  // The one before stays for as long as there is room: another may have been faster to store.
  hold(keyOf({ ...of, hash: done.hash }), { doc: done.doc, bytes });
  const before = kindOf(of.what).copies(known.doc as never);
  const copies = whole
    ? done.copies
    : Object.fromEntries(
        Object.entries(done.copies).filter(([column, value]) => column === "rig_id" || value !== before[column]),
      );
  return { ...asked, done: { document: text, patches, hash: done.hash, copies, names: done.names, bytes } };
};

/**
 * Has this thread hold a head before its first edit comes; answers whether it does. Without the document it is only
 * asked.
 */
export const holdHead = ({ document, ...of }: HeadOf & { readonly document: string | null }): boolean => {
  const key = keyOf(of);
  if (held.has(key)) return true;
  if (document === null) return false;
  const doc = readStored(of.what, document);
  const { engine, copies } = kindOf(of.what);
  // What an edit builds on is worked out once for a document.
  hashOf(engine.description, doc);
  copies(doc as never);
  hold(key, { doc, bytes: document.length });
  return true;
};

/** A head that this thread holds as it is stored; null when it does not. */
export const documentHeld = (of: HeadOf): string | null => {
  const known = held.get(keyOf(of));
  return known ? JSON.stringify(known.doc) : null;
};

/** A stored document with what later revisions changed of it, as JSON. */
export const broughtTogether = ({
  document,
  patches,
}: {
  readonly document: string;
  readonly patches: readonly string[];
}): string => {
  const doc = JSON.parse(document) as object;
  patchAll(
    doc,
    patches.map((one) => JSON.parse(one) as readonly Patch[]),
  );
  return JSON.stringify(doc);
};

/** An id or a mark made of a text: the same text has the same one. */
export const shortHash = (text: string | Uint8Array): string =>
  createHash("sha256").update(text).digest("base64url").slice(0, 20);
