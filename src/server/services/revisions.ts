import { templateEngine } from "@/core/commands/apply";
import type { Command } from "@/core/commands/command";
import { searchText } from "@/core/layout/search-text";
import { migrateTemplate } from "@/core/migrate/migrate-template";
import { TEMPLATE_SCHEMA, type Template } from "@/core/model/template";
import { documentStore } from "./document-store";

/** A stored document in today's shape: it was held to the schema when it came in. An older one that can't be brought up is a fault of the store, not of the request. */
export const readStored = (value: unknown): Template => {
  if (typeof value === "object" && value !== null && "schema" in value && value.schema === TEMPLATE_SCHEMA) return value as Template;
  const migrated = migrateTemplate(value);
  if (!migrated.ok) throw new Error(`expected a readable stored template, got: ${migrated.message}`);
  return migrated.doc;
};

/**
 * Applies commands to the head and stores the result as the next revision: all or none. A base that is not the head is answered 409 with what is newer.
 * A batch that was stored before is answered as it was then, so that a window may send again what it got no answer for.
 */
export const templateStore = documentStore<Template, Command>({
  what: "template",
  engine: templateEngine,
  read: readStored,
  copies: (doc) => ({ name: doc.name, kind: doc.kind, search: searchText(doc) }),
});

export const { load: loadTemplate, newer: newerThan, add: addTemplate, save: saveCommands } = templateStore;
