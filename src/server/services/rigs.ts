import { and, eq } from "drizzle-orm";
import type { RigList, RigState } from "@/contracts/answers";
import { inputJacks } from "@/core/model/read-rig";
import type { Rig } from "@/core/model/rig";
import type { Queryable } from "../db/database";
import { rigRevisions, rigs } from "../db/schema";
import { Failure } from "./failure";
import { hashOf } from "./hash";

const heads = (db: Queryable) =>
  db
    .select({ revision: rigRevisions.number, document: rigRevisions.document })
    .from(rigs)
    .innerJoin(rigRevisions, and(eq(rigRevisions.rigId, rigs.id), eq(rigRevisions.number, rigs.head)))
    .$dynamic();

/** All rigs of the studio, oldest first. */
export const allRigs = async (db: Queryable): Promise<readonly RigState[]> => heads(db).orderBy(rigs.createdAt, rigs.id);

export const listRigs = async (db: Queryable): Promise<RigList> => ({
  rigs: (await allRigs(db)).map(({ revision, document }) => ({
    id: document.id,
    name: document.name,
    inputs: inputJacks(document).filter((jack) => !jack.occupied).length,
    revision,
  })),
});

export const loadRig = async (db: Queryable, id: string): Promise<RigState> => {
  const [found] = await heads(db).where(eq(rigs.id, id));
  if (!found) throw new Failure(404, "No such rig", `There is no rig with the id ${id}.`);
  return found;
};

export const addRig = async (db: Queryable, rig: Rig): Promise<void> => {
  await db.insert(rigs).values({ id: rig.id, name: rig.name, head: 1 });
  await db.insert(rigRevisions).values({ rigId: rig.id, number: 1, document: rig, hash: hashOf(rig) });
};
