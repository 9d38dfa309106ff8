import type { What } from "@/contracts/kinds";
import { rigRevisions, rigs, studioRevisions, studios, templateRevisions, templates } from "./schema";

/** The tables of each kind of document, as far as they are alike: where its heads are, and its revisions. */
interface DocumentTables {
  readonly heads: typeof studios;
  readonly revisions: typeof studioRevisions;
}

const TABLES: Readonly<Record<What, DocumentTables>> = {
  template: { heads: templates, revisions: templateRevisions } as unknown as DocumentTables,
  rig: { heads: rigs, revisions: rigRevisions } as unknown as DocumentTables,
  studio: { heads: studios, revisions: studioRevisions },
};

export const tablesOf = (what: What): DocumentTables => TABLES[what];
