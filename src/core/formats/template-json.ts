import { brokenInvariants } from "../commands/invariants";
import { type Migrated, migrateTemplate } from "../migrate/migrate-template";
import type { Template } from "../model/template";

/** A template as JSON for keeping and exchange: the document as it is, keys in order, two spaces. */
export const writeTemplateJson = (doc: Template): string => `${JSON.stringify(doc, null, 2)}\n`;

/** Reads a template from JSON of any schema version. What is no JSON, no template or damaged is told with its place. */
export const readTemplateJson = (text: string): Migrated => {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ""));
  } catch (error) {
    return { ok: false, pointer: "", message: `This is not JSON: ${error instanceof Error ? error.message : "it can't be read"}.` };
  }
  const migrated = migrateTemplate(value);
  const broken = migrated.ok ? brokenInvariants(migrated.doc)[0] : undefined;
  return broken ? { ok: false, pointer: "", message: `The template is damaged: ${broken}.` } : migrated;
};
