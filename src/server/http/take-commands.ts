import type { What } from "@/contracts/kinds";
import { MOST } from "@/core/model/limits";
import { plainText } from "@/core/reading/plain-text";
import { database } from "../db/database";
import { CLIENT_HEADER, onBehalfOf } from "../services/asking";
import { Failure } from "../services/failure";
import { rigStore } from "../services/rigs";
import { studioStore } from "../services/studio";
import { templateStore } from "../services/templates";
import { answerTo, NOT_KEPT, needJson, needShort, type PlainAnswer, refuseForeign } from "./answer";

/** Largest body of commands: the largest gesture, and what is told around it. */
export const MOST_COMMAND_BYTES = MOST.gestureBytes + 64 * 1024;

/** What is said of a body that is larger. */
export const tooLarge = (): Failure =>
  new Failure(413, "Too large", `The body is larger than ${MOST_COMMAND_BYTES / 1024 / 1024} MiB.`);

const STORES = { template: templateStore, rig: rigStore, studio: studioStore } as const;

/** Commands for a document as they came in. */
export interface SentCommands {
  readonly what: What;
  readonly id: string;
  readonly header: (name: string) => string | null;
  /** Read only once the request is known to be one that is taken. */
  readonly text: () => Promise<string>;
  readonly signal?: AbortSignal;
}

/**
 * Applies commands to the head of a document and answers what came of it. It asks for nothing of the framework, since
 * saving is what a server of ours does most: the door hands it requests straight away, and the route of the framework
 * does the same where there is no door of ours.
 */
export const takeCommands = async ({ what, id, header, text, signal }: SentCommands): Promise<PlainAnswer> => {
  try {
    refuseForeign("POST", header);
    needJson(header("content-type"));
    needShort([id]);
    const body = await text();
    const saved = await onBehalfOf(header(CLIENT_HEADER), () =>
      STORES[what].saveBody(database(), plainText(id), body, signal),
    );
    return { status: 200, headers: { "content-type": "application/json", ...NOT_KEPT }, body: JSON.stringify(saved) };
  } catch (error) {
    return answerTo(error);
  }
};
