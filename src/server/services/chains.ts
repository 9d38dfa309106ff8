import { eq } from "drizzle-orm";
import type { Queryable } from "../db/database";
import { templates } from "../db/schema";
import { Failure } from "./failure";
import { task } from "./pool";
import { studioText } from "./studio";
import { rigTexts } from "./surroundings";
import { templateStore } from "./templates";

/** The chains that the studio keeps. */
export const keptChainsText = async (db: Queryable, signal?: AbortSignal): Promise<string> => {
  const { text, revision } = await studioText(db);
  return `{"revision":${revision},"chains":${await task("keptChainsOf", { studio: text }, { signal })}}`;
};

/** The chain of a channel of the head, or all of them, short. */
export const templateChains = async (
  db: Queryable,
  id: string,
  { channel, signal }: { readonly channel?: string; readonly signal?: AbortSignal },
): Promise<string> => {
  const { revision, text } = await templateStore.head(db, id);
  const [row] =
    channel === undefined
      ? []
      : await db.select({ rigId: templates.rigId }).from(templates).where(eq(templates.id, id));
  const rigs = row?.rigId ? (await rigTexts(db, row.rigId)).slice(0, 1).map((rig) => rig.text) : [];
  const told = await task("chainsOf", { template: text, rigs, channel: channel ?? null }, { signal });
  if (told === null)
    throw new Failure(
      404,
      "No such channel",
      `The channel ${channel?.slice(0, 64)} is not in this template. GET …/flow lists those that are.`,
    );
  return `{"revision":${revision},"${channel === undefined ? "chains" : "chain"}":${told}}`;
};
