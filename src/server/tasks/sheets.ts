import { evaluate } from "@/core/checks";
import { alikeAsOne } from "@/core/checks/alike";
import { contextOf } from "@/core/checks/context";
import type { Finding } from "@/core/checks/finding";
import { countFindings } from "@/core/checks/finding";
import { writeDocument } from "@/core/formats/document-json";
import { writeInputList } from "@/core/formats/input-list/write-input-list";
import { type DelayAsked, delayAnswer, type LevelsAsked, levelsAnswer, lowLatencyAnswer, type StorageAsked, storageAnswer } from "@/core/layout/delay-answer";
import { flowAnswer, pathsAnswer } from "@/core/layout/flow-answer";
import { patchingSheet } from "@/core/layout/patching-sheet";
import type { LineId, PortId, TemplateId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { readStored } from "./kinds";

/** A template and what it is seen against, as they are stored. */
export interface Seen {
  readonly template: string;
  readonly rigs: readonly string[];
  readonly studio: string;
}

const contextIn = ({ template, rigs, studio }: Seen) =>
  contextOf({ doc: readStored("template", template), rigs: rigs.map((rig) => readStored("rig", rig)), studio: readStored("studio", studio) });

const allFindings = (seen: Seen): readonly Finding[] => evaluate(contextIn(seen));

export interface Judged {
  readonly problems: number;
  readonly hints: number;
}

/** The findings as JSON, those that are alike as one with its members, which goes on to the window as it is. */
export const findingsOf = (seen: Seen): string => JSON.stringify(alikeAsOne(allFindings(seen)));

/** The routing of a template as JSON. */
export const flowOf = (seen: Seen): string => {
  const { doc, rig } = contextIn(seen);
  return JSON.stringify(flowAnswer(doc, rig));
};

const heardIn = (seen: Seen) => {
  const { doc, rig, rigMissing = false } = contextIn(seen);
  return { doc, rig, rigMissing, studio: readStored("studio", seen.studio) };
};

/** What each of these says, with whether the rig that the template names is not here. */
const heard = (seen: Seen, answer: (of: ReturnType<typeof heardIn>) => object): string => {
  const of = heardIn(seen);
  return JSON.stringify({ rigMissing: of.rigMissing, ...answer(of) });
};

export const delayOf = (asked: Seen & DelayAsked): string => heard(asked, (of) => delayAnswer(of, asked));
export const lowLatencyOf = (seen: Seen): string => heard(seen, lowLatencyAnswer);
export const levelsOf = (seen: Seen & LevelsAsked): string => heard(seen, (of) => levelsAnswer(of, seen));
export const storageTold = ({ template, ...asked }: { readonly template: string } & StorageAsked): string =>
  JSON.stringify(storageAnswer({ doc: readStored("template", template) }, asked));

export interface PathsAsked extends Seen {
  readonly from: string;
  readonly to: string;
}

/** The ways from one channel to another as JSON; null when one of the two is not there. */
export const pathsOf = ({ from, to, ...seen }: PathsAsked): string | null => {
  const { doc, rig } = contextIn(seen);
  const paths = pathsAnswer(doc, { from, to, rig });
  return paths && JSON.stringify(paths);
};

export const judge = (seen: Seen): Judged => countFindings(alikeAsOne(allFindings(seen)));

export interface Touched extends Judged {
  readonly id: TemplateId;
  readonly name: string;
  readonly lines: readonly { readonly id: LineId; readonly portId: PortId | null }[];
}

/** A template as a change of its rig would touch it. */
export const touched = (seen: Seen): Touched => {
  const context = contextIn(seen);
  const { id, name, lines } = context.doc;
  return { id, name, lines: entriesOf(lines).map(({ id: lineId, portId }) => ({ id: lineId, portId })), ...countFindings(alikeAsOne(evaluate(context))) };
};

const rigIn = ({ template, rigs }: Seen): { readonly doc: Template; readonly rig: Rig | undefined } => {
  const doc = readStored("template", template);
  const all = rigs.map((rig) => readStored("rig", rig));
  return { doc, rig: all.find((rig) => rig.id === doc.rigId) };
};

export interface SheetInput extends Seen {
  readonly revision: number;
  readonly savedAt: string;
  readonly format: "csv" | "json" | "pdf";
}

/** The head of a template in an open format. */
export const writeTemplate = async (input: SheetInput): Promise<string | Uint8Array> => {
  const { doc, rig } = rigIn(input);
  if (input.format === "json") return writeDocument(doc);
  if (!rig) throw new Error(`expected the rig ${doc.rigId} of the template, got none`);
  if (input.format === "csv") return writeInputList(doc, rig);
  const { renderPatchingSheet } = await import("../pdf/patching-sheet-pdf");
  return renderPatchingSheet(patchingSheet(doc, rig), { revision: input.revision, savedAt: input.savedAt, ownColours: entriesOf(readStored("studio", input.studio).colours) });
};

export const writeRig = ({ rig }: { readonly rig: string }): string => writeDocument(readStored("rig", rig));
