import { and, eq, isNull } from "drizzle-orm";
import { rigs } from "../db/schema";
import { documentStore } from "./document-store";
import { Failure } from "./failure";

/**
 * Applies commands to the head and stores the result as the next revision: all or none. A base that is not the head is
 * answered 409 with what is newer. A batch that was stored before is answered as it was then, so that a window may send
 * again what it got no answer for.
 */
export const templateStore = documentStore<"template">({
  what: "template",
  // Held until the template is stored: a rig can't be taken away between this look and that.
  stands: async (tx, copies) => {
    const rows = await tx
      .select({ id: rigs.id })
      .from(rigs)
      .where(and(eq(rigs.id, copies.rig_id ?? ""), isNull(rigs.deletedAt)))
      .for("share");
    if (!rows.length)
      throw new Failure(
        422,
        "No such rig",
        `There is no rig with the id ${copies.rig_id}: it may have been deleted. Choose another one for this template.`,
      );
  },
});

export const { load: loadTemplate, add: addTemplate, save: saveCommands } = templateStore;
