import { createHash } from "node:crypto";
import { CommandsRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import type { Command } from "@/core/commands/command";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { plainTexts } from "@/core/reading/plain-text";
import { accept } from "../services/accept";
import { Failure } from "../services/failure";
import { hashOf } from "../services/hash";
import { readBody } from "./json-body";
import { kindOf, readStored, type What } from "./kinds";

export interface BatchInput {
  readonly what: What;
  /** The body of the request as it came. */
  readonly body: string;
  readonly head: { readonly number: number; readonly savedAt: string; readonly document: string };
}

interface Asked {
  readonly base: number;
  readonly batch: string;
  readonly baseSavedAt: string | null;
  /** The commands as they are stored, as JSON. */
  readonly commands: string;
}

export interface Stored {
  readonly document: string;
  readonly hash: string;
  readonly copies: Readonly<Record<string, string>>;
}

export type BatchOutput = Asked & { readonly done: (Stored & { readonly names: readonly string[] }) | null };

/** What of a document is stored beside it. */
export const stored = <D extends object>(what: What, doc: D): Stored => {
  const copies = kindOf(what).copies(doc as never);
  return { document: JSON.stringify(doc), hash: hashOf(doc), copies };
};

/** So many commands of a batch without a name are named one by one. */
const MOST_NAMES = 20;

const applyInTurn = (what: What, document: string, commands: readonly Command[]): { readonly doc: object; readonly names: readonly string[] } => {
  const { engine } = kindOf(what);
  const done = engine.applyAll(readStored(what, document) as never, commands);
  if (!done.ok) {
    const { index, message } = done.refusal;
    throw new Failure(422, "This can't be done", message, {
      errors: [{ pointer: index === undefined ? (commands.length > 1 ? "/commands" : "/commands/0") : `/commands/${index}`, detail: message }],
    });
  }
  // A name that was cut to its length may end in half of a character, and one such document would keep the database from looking into all of them.
  return { doc: plainTexts(done.doc as object), names: plainTexts(commands.slice(0, MOST_NAMES).map((command) => engine.commandName(done.doc as never, command))) };
};

/**
 * Reads a batch of commands and applies it to the head, also when it was made for a revision before it: the commands name what they mean, and what
 * still can be done is what was meant. One that can't be, or that knows another past, is only read: what is to be done with it is for the store to say.
 */
export const applyBatch = ({ what, body, head }: BatchInput): BatchOutput => {
  const { base, batch, baseSavedAt, made = GESTURE_VERSION, name, commands } = accept(parse(CommandsRequest, readBody(body)));
  if (made !== GESTURE_VERSION)
    throw new Failure(
      409,
      made < GESTURE_VERSION ? "Wandel was renewed" : "This server is older",
      `The edit is written as version ${made} of Wandel's gestures, and this server speaks version ${GESTURE_VERSION}. Reload the window; what it holds is kept in the browser.`,
      { renewed: true },
    );
  const accepted = accept(kindOf(what).parse(commands));
  const asked = { base, batch, baseSavedAt: baseSavedAt ?? null, commands: JSON.stringify(accepted) };
  if (base > head.number || (base === head.number && baseSavedAt !== undefined && baseSavedAt !== head.savedAt)) return { ...asked, done: null };
  try {
    const { doc, names } = applyInTurn(what, head.document, accepted);
    return { ...asked, done: { ...stored(what, doc), names: name ? [name] : names } };
  } catch (error) {
    // What came between is told with the refusal, so that the sender sees why.
    if (base < head.number && error instanceof Failure && error.status === 422) return { ...asked, done: null };
    throw error;
  }
};

/** An id or a mark made of a text: the same text has the same one. */
export const shortHash = (text: string | Uint8Array): string => createHash("sha256").update(text).digest("base64url").slice(0, 20);
