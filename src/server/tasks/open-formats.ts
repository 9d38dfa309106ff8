import { writeDocument } from "@/core/formats/document-json";
import { writeInputList } from "@/core/formats/input-list/write-input-list";
import { patchingSheet } from "@/core/layout/patching-sheet";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { readStored, type Seen } from "./kinds";

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
  return renderPatchingSheet(patchingSheet(doc, rig), {
    revision: input.revision,
    savedAt: input.savedAt,
    ownColours: entriesOf(readStored("studio", input.studio).colours),
  });
};

export const writeRig = ({ rig }: { readonly rig: string }): string => writeDocument(readStored("rig", rig));
