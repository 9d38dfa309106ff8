import { type EntryOf, name, text } from "../describe/fields";
import { described } from "../describe/table";
import type { ProcessorId } from "../ids";
import { MOST } from "../limits";

const FIELDS = {
  name: name(200, { word: "the name", cell: { heading: "Processor" } }),
  version: text(40, { word: "the version", cell: { heading: "Version", width: 110 } }),
  kind: text(60, { word: "the kind", cell: { heading: "What it does", width: 260 } }),
};

/** Processors installed on the computer here, so that a template can say what is missing. */
export const PROCESSORS = described({
  one: "processor",
  many: "processors",
  most: MOST.parts,
  fields: FIELDS,
  called: (processor: InstalledProcessor) => processor.name,
});

export interface InstalledProcessor extends EntryOf<typeof FIELDS> {
  readonly id: ProcessorId;
}
