import { count, eq } from "drizzle-orm";
import { type DemoRevision, lifeOfTheNine } from "@/core/demo/life";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import { demoTemplates } from "@/core/demo/templates";
import type { Template } from "@/core/model/template";
import { type Database, inTransaction } from "../db/database";
import { type Origin, rigs, templateRevisions, templates, versions } from "../db/schema";
import { columnsByProperty } from "./document-store";
import { task } from "./pool";
import { addRig } from "./rigs";
import { ensureStudio } from "./studio";
import { addTemplate } from "./templates";

/** A demo template with its past: one that has none was just made. */
interface Past {
  readonly revisions: readonly DemoRevision[];
  readonly origin?: Origin;
}

interface Demo {
  readonly plain: readonly Template[];
  readonly pasts: readonly Past[];
}

/** What is loaded, worked out before anything is written. */
const demoNow = (): Demo => {
  const all = demoTemplates();
  const nine = all.find(({ id }) => id === "tidewrack-nine");
  if (!nine) throw new Error("expected the Nine among the demo templates, got none");
  const { id, revisions, sessions, descendants } = lifeOfTheNine(nine);
  return {
    plain: all.filter((template) => template !== nine),
    pasts: [
      ...[...descendants, ...sessions].map(
        (copy): Past => ({ revisions: copy.revisions, origin: { kind: "template", id, revision: copy.from } }),
      ),
      { revisions },
    ],
  };
};

/** Writes a template with all its revisions, as they were saved one after the other. */
const addPast = async (tx: Database, { revisions, origin }: Past): Promise<string> => {
  const made = await Promise.all(
    revisions.map(({ document }) => task("stored", { what: "template", document: JSON.stringify(document) })),
  );
  const [last, id] = [made.at(-1), String(revisions[0]?.document.id)];
  if (!last) throw new Error("expected a demo template with a revision, got none");
  const from = origin ? { fromId: origin.id, fromRevision: origin.revision } : {};
  await tx
    .insert(templates)
    .values({ id, head: made.length, ...columnsByProperty(last.copies), ...from } as typeof templates.$inferInsert);
  for (const [at, { document, hash }] of made.entries()) {
    const { name, by, at: savedAt, commands, version } = revisions[at] as DemoRevision;
    await tx.insert(templateRevisions).values({
      of: id,
      number: at + 1,
      document: JSON.parse(document) as Template,
      hash,
      commands,
      names: [name],
      by,
      savedAt: new Date(savedAt),
      ...(at === 0 && origin ? { origin } : {}),
    });
    if (version)
      await tx
        .insert(versions)
        .values({ of: id, number: at + 1, ...version, by, at: new Date(savedAt), document: JSON.parse(document) });
  }
  return id;
};

/**
 * Fills a database that has no rig with the rigs and templates of the demo, all or none: a start may be killed halfway.
 * One that has is left as it is. They are made a millisecond apart, as they follow each other: what is done as one has
 * one time, and the library shows them by it.
 */
export const loadDemo = async (db: Database): Promise<void> => {
  const [there] = await db.select({ rigs: count() }).from(rigs);
  if (there && there.rigs > 0) return;
  const { plain, pasts } = demoNow();
  await inTransaction(db, async (tx) => {
    const [found] = await tx.select({ rigs: count() }).from(rigs);
    if (found && found.rigs > 0) return;
    await ensureStudio(tx, demoStudio);
    let time = Date.now();
    const made = async (table: typeof rigs | typeof templates, id: string): Promise<void> => {
      const at = new Date(time++);
      await tx.update(table).set({ createdAt: at, changedAt: at }).where(eq(table.id, id));
    };
    for (const rig of DEMO_RIGS) {
      await addRig(tx, rig);
      await made(rigs, rig.id);
    }
    const [nine, ...copies] = [...pasts].reverse();
    for (const past of copies.reverse()) await made(templates, await addPast(tx, past));
    for (const template of plain) {
      await addTemplate(tx, template);
      await made(templates, template.id);
    }
    if (nine) await made(templates, await addPast(tx, nine));
  });
};
