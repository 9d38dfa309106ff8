import { sql } from "drizzle-orm";
import {
  type AnyPgColumn,
  foreignKey,
  index,
  integer,
  json,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
} from "drizzle-orm/pg-core";
import type { What } from "@/contracts/kinds";
import type { Command, Patch } from "@/core/commands/command";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";

const at = (name: string) => timestamp(name, { withTimezone: true, mode: "date", precision: 3 });

/** Where a document came from: the revision of another one that it is a copy of. */
export interface Origin {
  readonly kind: What;
  readonly id: string;
  readonly revision: number;
}

/**
 * Of a revision: who made it, as they told; empty where nobody was asked. And of a first one that is a copy: of what.
 */
const made = {
  by: text("made_by").notNull().default(""),
  origin: json().$type<Origin>(),
};

/** What the head of every kind of document has. */
const head = {
  id: text().primaryKey(),
  name: text().notNull(),
  head: integer().notNull(),
  createdAt: at("created_at").notNull().defaultNow(),
  changedAt: at("changed_at").notNull().defaultNow(),
  deletedAt: at("deleted_at"),
  /** Who put it into the bin, as they told. */
  deletedBy: text("deleted_by").notNull().default(""),
};

/**
 * What every revision has, of whichever kind of document. json, not jsonb: the order of keys is kept, so that a document
 * reads the same here and in the window.
 */
const revision = <D>() => ({
  number: integer().notNull(),
  /**
   * The whole document: of every sixty-fourth revision, and where the one before was of another version; of the others
   * only what they changed.
   */
  document: json().$type<D>(),
  patches: json().$type<readonly Patch[]>(),
  hash: text().notNull(),
  commands: json().$type<readonly Command[]>().notNull(),
  names: json().$type<readonly string[]>().notNull(),
  batch: text(),
  ...made,
  savedAt: at("saved_at").notNull().defaultNow(),
});

/** One of a number a document, and one of a batch. */
const once =
  (batches: string) =>
  (table: { readonly of: AnyPgColumn; readonly number: AnyPgColumn; readonly batch: AnyPgColumn }) => [
    primaryKey({ columns: [table.of, table.number] }),
    uniqueIndex(batches).on(table.of, table.batch),
  ];

export const rigs = pgTable("rigs", {
  ...head,
  summary: text(),
});

export const rigRevisions = pgTable(
  "rig_revisions",
  {
    of: text("rig_id")
      .notNull()
      .references(() => rigs.id),
    ...revision<Rig>(),
    // Rows of an older Wandel were written without.
    commands: json().$type<readonly Command[]>().notNull().default([]),
    names: json().$type<readonly string[]>().notNull().default([]),
  },
  once("rig_revisions_batch"),
);

/** Rooms, people and defaults: one document for each studio, and one studio here. */
export const studios = pgTable("studios", {
  ...head,
});

export const studioRevisions = pgTable(
  "studio_revisions",
  {
    of: text("studio_id")
      .notNull()
      .references(() => studios.id),
    ...revision<Studio>(),
  },
  once("studio_revisions_batch"),
);

/** Where the head of each template is. Name, kind and search words are copies out of the head, for the library. */
export const templates = pgTable(
  "templates",
  {
    ...head,
    kind: text().notNull(),
    search: text().notNull(),
    /** Null in rows of an older Wandel until the next start has looked into their documents; so with the summary. */
    rigId: text("rig_id").references(() => rigs.id),
    /** Of a session: its date as ISO 8601, and how far it is; empty of templates. */
    sessionDate: text("session_date").notNull().default(""),
    sessionState: text("session_state").notNull().default(""),
    /** What it was copied from: the document, and which revision of it. */
    fromId: text("from_id"),
    fromRevision: integer("from_revision"),
    /** What the library shows of the head, as JSON; the word UNREADABLE where it can't be read. */
    summary: text(),
    /** The revisions of template, rig and studio for which problems and hints were counted. */
    judged: text(),
    problems: integer(),
    hints: integer(),
    /** Why they could not be counted for those revisions. */
    unjudged: text(),
  },
  (table) => [
    // Nulls first, as an order by desc has them: with the others the index is passed over.
    index("templates_by_change")
      .on(table.changedAt.desc().nullsFirst(), table.id.desc().nullsFirst())
      .where(sql`${table.deletedAt} is null`),
    index("templates_by_rig").on(table.rigId).where(sql`${table.deletedAt} is null`),
    index("templates_by_origin").on(table.fromId, table.fromRevision),
    index("sessions_by_date")
      .on(table.sessionDate.desc(), table.id.desc())
      .where(sql`${table.deletedAt} is null and ${table.sessionDate} <> ''`),
  ],
);

export const templateRevisions = pgTable(
  "template_revisions",
  {
    of: text("template_id")
      .notNull()
      .references(() => templates.id),
    ...revision<Template>(),
  },
  once("template_revisions_batch"),
);

/** Revisions of a template that were kept under a name. Naming one is no edit of the plan. */
export const versions = pgTable(
  "versions",
  {
    of: text("template_id").notNull(),
    number: integer().notNull(),
    name: text().notNull(),
    note: text().notNull().default(""),
    /** What was tried with it: "plugged in once, all heard". */
    tried: text().notNull().default(""),
    /** The whole of it, so that it is read without what came before. */
    document: json().$type<Template>().notNull(),
    by: text("made_by").notNull().default(""),
    at: at("kept_at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.of, table.number] }),
    uniqueIndex("versions_by_name").on(table.of, sql`lower(${table.name})`),
    foreignKey({
      columns: [table.of, table.number],
      foreignColumns: [templateRevisions.of, templateRevisions.number],
      name: "versions_of_revisions",
    }),
  ],
);
