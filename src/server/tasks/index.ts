import type { What } from "@/contracts/kinds";
import type { Failure } from "../services/failure";
import { delayOf, flowOf, levelsOf, lowLatencyOf, pathsOf, storageTold } from "./answers";
import { applyBatch, broughtTogether, documentHeld, holdHead, stored } from "./apply-batch";
import { chainsOf, keptChainsOf } from "./chains";
import { findingsOf, judge, touched } from "./judging";
import { kindOf, readStored } from "./kinds";
import { previewList, renamed, rigOfDocument, templateOfDocument, templateOfList } from "./lists";
import { writeRig, writeTemplate } from "./open-formats";
import { lessonsOf, sessionOf } from "./sessions";

/** What the row of a head copies out of its document. */
const copiesOf = ({
  what,
  document,
}: {
  readonly what: What;
  readonly document: string;
}): Readonly<Record<string, string>> => kindOf(what).copies(readStored(what, document) as never);

/** A stored document in today's shape, as JSON. */
const broughtUp = ({ what, document }: { readonly what: What; readonly document: string }): string =>
  JSON.stringify(readStored(what, document));

/**
 * Everything whose work grows with what a person sends or keeps: plain functions of texts and numbers, done here when
 * that is little, and in a thread beside the one that answers when it is not.
 */
export const TASKS = {
  applyBatch,
  broughtTogether,
  broughtUp,
  chainsOf,
  copiesOf,
  documentHeld,
  holdHead,
  findingsOf,
  flowOf,
  delayOf,
  levelsOf,
  lessonsOf,
  lowLatencyOf,
  sessionOf,
  storageTold,
  judge,
  keptChainsOf,
  pathsOf,
  previewList,
  renamed,
  rigOfDocument,
  templateOfDocument,
  templateOfList,
  touched,
  writeRig,
  writeTemplate,
  stored: ({ what, document }: { readonly what: What; readonly document: string }) =>
    stored(what, JSON.parse(document) as object),
};

export type TaskName = keyof typeof TASKS;
export type InputOf<K extends TaskName> = Parameters<(typeof TASKS)[K]>[0];
export type OutputOf<K extends TaskName> = Awaited<ReturnType<(typeof TASKS)[K]>>;

/** What a thread is asked. */
export interface Order {
  readonly task: TaskName;
  readonly input: unknown;
}

/** What came of a task: a value, or what a person must be told. A bug is thrown as it is. */
export type Outcome =
  | { readonly ok: true; readonly value: unknown }
  | {
      readonly ok: false;
      readonly failure: {
        readonly status: Failure["status"];
        readonly title: string;
        readonly message: string;
        readonly extra: Failure["extra"];
      };
    };
