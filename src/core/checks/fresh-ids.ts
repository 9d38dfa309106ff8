import type { IdSource } from "../model/ids";
import type { Template } from "../model/template";

/** Ids for what a fix brings: the same each time it is asked of the same document, and none that is taken. */
export const fresh = (doc: Template, prefix: string): IdSource => {
  const tables = [
    doc.lines,
    doc.channels,
    doc.folders,
    doc.sends,
    doc.processors,
    doc.bands,
    doc.sideChains,
    doc.gangs,
    doc.controls,
    doc.cues,
    doc.cueLevels,
    doc.passes,
  ];
  let at = 0;
  return (kind) => {
    for (;;) {
      const id = `${prefix}-${kind}-${++at}`;
      if (!tables.some((table) => Object.hasOwn(table, id))) return id as never;
    }
  };
};
