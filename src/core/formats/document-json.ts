import { brokenRig } from "../commands/rig-engine";
import { brokenInvariants } from "../commands/template-engine";
import type { MigratedTo } from "../migrate/migrate";
import { migrateRig } from "../migrate/migrate-rig";
import { migrateTemplate } from "../migrate/migrate-template";
import type { Rig } from "../model/rig";
import type { Template } from "../model/template";
import { plainTexts } from "../reading/plain-text";

/** A document as JSON for keeping and exchange: as it is, keys in order, two spaces. */
export const writeDocument = (doc: Template | Rig): string => `${JSON.stringify(doc, null, 2)}\n`;

interface Kind<D> {
  readonly what: string;
  readonly migrate: (value: unknown) => MigratedTo<D>;
  readonly broken: (doc: D) => readonly string[];
}

/**
 * Reads a document from JSON of any schema version. What is no JSON, of another kind or damaged is told with its place.
 */
const readerOf =
  <D>({ what, migrate, broken }: Kind<D>) =>
  (text: string): MigratedTo<D> => {
    let value: unknown;
    try {
      value = plainTexts(JSON.parse(text.replace(/^\uFEFF/, "")));
    } catch (error) {
      return {
        ok: false,
        pointer: "",
        message: `This is not JSON: ${error instanceof Error ? error.message : "it can't be read"}.`,
      };
    }
    const migrated = migrate(value);
    const fault = migrated.ok ? broken(migrated.doc)[0] : undefined;
    return fault ? { ok: false, pointer: "", message: `The ${what} is damaged: ${fault}.` } : migrated;
  };

export const readTemplateJson = readerOf<Template>({
  what: "template",
  migrate: migrateTemplate,
  broken: brokenInvariants,
});
export const readRigJson = readerOf<Rig>({ what: "rig", migrate: migrateRig, broken: brokenRig });
