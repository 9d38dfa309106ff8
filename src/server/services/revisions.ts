import { and, asc, eq, gt, isNull } from "drizzle-orm";
import type { NewerRevision, Saved, TemplateState } from "@/contracts/answers";
import { apply } from "@/core/commands/apply";
import type { Command } from "@/core/commands/command";
import { searchText } from "@/core/layout/search-text";
import { migrateTemplate } from "@/core/migrate/migrate-template";
import { TEMPLATE_SCHEMA, type Template } from "@/core/model/template";
import type { Database, Queryable } from "../db/database";
import { templateRevisions, templates } from "../db/schema";
import { Failure } from "./failure";
import { hashOf } from "./hash";

/** A stored document in today's shape: it was held to the schema when it came in. An older one that can't be brought up is a fault of the store, not of the request. */
export const readStored = (value: unknown): Template => {
  if (typeof value === "object" && value !== null && "schema" in value && value.schema === TEMPLATE_SCHEMA) return value as Template;
  const migrated = migrateTemplate(value);
  if (!migrated.ok) throw new Error(`expected a readable stored template, got: ${migrated.message}`);
  return migrated.doc;
};

const gone = (id: string) =>
  new Failure(404, "No such template", `There is no template with the id ${id}. It may have been deleted; the library can bring it back for as long as its notice is shown.`);

export const loadTemplate = async (db: Queryable, id: string): Promise<TemplateState> => {
  const [found] = await db
    .select({ revision: templateRevisions.number, savedAt: templateRevisions.savedAt, document: templateRevisions.document })
    .from(templates)
    .innerJoin(templateRevisions, and(eq(templateRevisions.templateId, templates.id), eq(templateRevisions.number, templates.head)))
    .where(and(eq(templates.id, id), isNull(templates.deletedAt)));
  if (!found) throw gone(id);
  return { revision: found.revision, savedAt: found.savedAt.toISOString(), document: readStored(found.document) };
};

/** What came after a revision, oldest first. */
export const newerThan = async (db: Queryable, id: string, base: number): Promise<readonly NewerRevision[]> => {
  const rows = await db
    .select()
    .from(templateRevisions)
    .where(and(eq(templateRevisions.templateId, id), gt(templateRevisions.number, base)))
    .orderBy(asc(templateRevisions.number));
  return rows.map((row) => ({ revision: row.number, savedAt: row.savedAt.toISOString(), batch: row.batch, names: row.names, commands: row.commands }));
};

/** Stores the first revision of a new template. */
export const addTemplate = async (db: Database, doc: Template): Promise<TemplateState> =>
  db.transaction(async (tx) => {
    await tx.insert(templates).values({ id: doc.id, name: doc.name, kind: doc.kind, search: searchText(doc), head: 1 });
    const [row] = await tx
      .insert(templateRevisions)
      .values({ templateId: doc.id, number: 1, document: doc, hash: hashOf(doc), commands: [], names: ["Made"] })
      .returning({ savedAt: templateRevisions.savedAt });
    return { revision: 1, savedAt: (row?.savedAt ?? new Date()).toISOString(), document: doc };
  });

const applyInTurn = (doc: Template, commands: readonly Command[]): { readonly doc: Template; readonly names: readonly string[] } => {
  let current = doc;
  const names: string[] = [];
  for (const [index, command] of commands.entries()) {
    const done = apply(current, command);
    if (!done.ok) throw new Failure(422, "This can't be done", done.refusal.message, { errors: [{ pointer: `/commands/${index}`, detail: done.refusal.message }] });
    current = done.doc;
    names.push(done.name);
  }
  return { doc: current, names };
};

export interface Batch {
  readonly base: number;
  readonly batch?: string;
  readonly commands: readonly Command[];
}

/**
 * Applies commands to the head and stores the result as the next revision: all or none. A base that is not the head is answered 409 with what is newer.
 * A batch that was stored before is answered as it was then, so that a window may send again what it got no answer for.
 */
export const saveCommands = async (db: Database, id: string, { base, batch, commands }: Batch): Promise<Saved> =>
  db.transaction(async (tx) => {
    const [template] = await tx
      .select()
      .from(templates)
      .where(and(eq(templates.id, id), isNull(templates.deletedAt)))
      .for("update");
    if (!template) throw gone(id);
    if (batch) {
      const [known] = await tx
        .select()
        .from(templateRevisions)
        .where(and(eq(templateRevisions.templateId, id), eq(templateRevisions.batch, batch)));
      if (known && known.number === base + 1) return { revision: known.number, savedAt: known.savedAt.toISOString() };
    }
    if (base !== template.head) {
      const newer = await newerThan(tx, id, base);
      throw new Failure(409, "Changed in the meantime", `This was based on revision ${base}, and the newest is ${template.head}. Apply what is newer and send again.`, { newer });
    }
    const [head] = await tx
      .select({ document: templateRevisions.document })
      .from(templateRevisions)
      .where(and(eq(templateRevisions.templateId, id), eq(templateRevisions.number, template.head)));
    const { doc, names } = applyInTurn(readStored(head?.document), commands);
    const number = template.head + 1;
    const [row] = await tx
      .insert(templateRevisions)
      .values({ templateId: id, number, document: doc, hash: hashOf(doc), commands, names, batch: batch ?? null })
      .returning({ savedAt: templateRevisions.savedAt });
    const savedAt = row?.savedAt ?? new Date();
    await tx
      .update(templates)
      .set({ name: doc.name, kind: doc.kind, search: searchText(doc), head: number, changedAt: savedAt })
      .where(eq(templates.id, id));
    return { revision: number, savedAt: savedAt.toISOString() };
  });
