import { sql } from "drizzle-orm";
import { nanoid } from "nanoid";
import type { RigList, RigState, RigTouches } from "@/contracts/answers";
import type { CreateRigRequest } from "@/contracts/requests";
import { countFindings, evaluate } from "@/core/checks";
import { contextOf } from "@/core/checks/context";
import { rigEngine } from "@/core/commands/rig/apply-rig";
import type { RigCommand } from "@/core/commands/rig/rig-command";
import { readRigJson } from "@/core/formats/document-json";
import { migrateRig } from "@/core/migrate/migrate-rig";
import type { RigId } from "@/core/model/ids";
import { inputJacks } from "@/core/model/read-rig";
import { emptyRig, entriesOf, RIG_SCHEMA, type Rig } from "@/core/model/rig";
import type { Database, Queryable } from "../db/database";
import { decodeText } from "./decode-text";
import { documentStore } from "./document-store";
import { Failure } from "./failure";
import { templateStore } from "./revisions";
import { loadStudio } from "./studio";

const readStoredRig = (value: unknown): Rig => {
  if (typeof value === "object" && value !== null && "schema" in value && value.schema === RIG_SCHEMA) return value as Rig;
  const migrated = migrateRig(value);
  if (!migrated.ok) throw new Error(`expected a readable stored rig, got: ${migrated.message}`);
  return migrated.doc;
};

export const rigStore = documentStore<Rig, RigCommand>({ what: "rig", engine: rigEngine, read: readStoredRig, copies: (rig) => ({ name: rig.name }) });

/** All rigs of the studio, oldest first. */
export const allRigs = (db: Queryable): Promise<readonly RigState[]> => rigStore.all(db);
export const loadRig = (db: Queryable, id: string): Promise<RigState> => rigStore.load(db, id);
export const addRig = (db: Database, rig: Rig, name?: string): Promise<RigState> => rigStore.add(db, rig, name);

export const listRigs = async (db: Queryable): Promise<RigList> => {
  // Counted by the database: the library asks for this on every visit, and the documents are large.
  const { rows } = await db.execute(
    sql`select r.document->>'rigId' as rig, count(*)::int as templates from templates h join template_revisions r on r.template_id = h.id and r.number = h.head where h.deleted_at is null group by 1`,
  );
  const counts = new Map(rows.map((row) => [String(row.rig), Number(row.templates)]));
  return {
    rigs: (await allRigs(db)).map(({ revision, document }) => ({
      id: document.id,
      name: document.name,
      inputs: inputJacks(document).filter((jack) => !jack.occupied && !jack.loopBack).length,
      devices: entriesOf(document.devices).length,
      templates: counts.get(document.id) ?? 0,
      revision,
    })),
  };
};

const freeName = (name: string, taken: readonly string[]): string => {
  let number = 2;
  let free = name;
  while (taken.includes(free.toLowerCase())) free = `${name} ${number++}`;
  return free;
};

/** A new rig: empty, or a copy of one under a name of its own. Ports keep their ids, so that templates can move between the two. */
export const createRig = async (db: Database, { name, copyOf }: CreateRigRequest): Promise<RigState> => {
  const taken = (await allRigs(db)).map((rig) => rig.document.name.toLowerCase());
  const id = nanoid(12) as RigId;
  if (!copyOf) return addRig(db, emptyRig(id, freeName(name?.trim() || "New rig", taken)));
  const { document } = await loadRig(db, copyOf);
  return addRig(db, { ...document, id, name: freeName(name?.trim() || `${document.name.slice(0, 180)}, copy`, taken) }, `Copied from ${document.name}`);
};

/** The templates that stand on a rig: what a change of it would touch. */
export const rigTouches = async (db: Queryable, id: string): Promise<RigTouches> => {
  const { document: rig, revision } = await loadRig(db, id);
  const [templates, studio] = await Promise.all([templateStore.all(db, sql`r.document->>'rigId' = ${id}`), loadStudio(db)]);
  return {
    revision,
    templates: templates.map(({ document }) => {
      const findings = evaluate(contextOf({ doc: document, rigs: [rig], studio: studio.document }));
      return {
        id: document.id,
        name: document.name,
        lines: entriesOf(document.lines).map(({ id: lineId, portId }) => ({ id: lineId, portId })),
        ...countFindings(findings),
      };
    }),
  };
};

/** Takes a rig away. While templates stand on it, it stays, and they are named. */
export const deleteRig = async (db: Database, id: string): Promise<void> => {
  const { templates } = await rigTouches(db, id);
  if (templates.length)
    throw new Failure(
      422,
      "Templates stand on it",
      `${templates
        .slice(0, 3)
        .map((template) => template.name)
        .join(", ")}${templates.length > 3 ? ` and ${templates.length - 3} more` : ""} stand on this rig. Fit them to another one first.`,
    );
  await db.execute(sql`update rigs set deleted_at = now() where id = ${id}`);
};

/** Makes a rig of a rig document. */
export const importRig = async (db: Database, bytes: Uint8Array): Promise<RigState> => {
  const decoded = decodeText(bytes);
  const read = decoded.ok ? readRigJson(decoded.text) : ({ ok: false, message: decoded.message, pointer: "" } as const);
  if (!read.ok) throw new Failure(422, "The rig can't be read", read.message, { errors: [{ pointer: read.pointer, detail: read.message }] });
  const taken = (await allRigs(db)).map((rig) => rig.document.name.toLowerCase());
  return addRig(db, { ...read.doc, id: nanoid(12) as RigId, name: freeName(read.doc.name, taken) }, "Read from a file");
};
