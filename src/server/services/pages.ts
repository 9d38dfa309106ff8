import type { RigState, TemplateState } from "@/contracts/answers";
import type { Deletable } from "@/contracts/kinds";
import type { Rig } from "@/core/model/rig";
import type { Queryable } from "../db/database";
import { readStored } from "../tasks/kinds";
import { Failure } from "./failure";
import { headOf } from "./heads";
import { loadRig } from "./rigs";
import { rigTexts } from "./surroundings";
import { loadTemplate } from "./templates";

/**
 * Up to this many bytes a document comes with its page; a larger one is asked for by the page, as JSON that goes out as
 * it is stored.
 */
const LITTLE_BYTES = 256 * 1024;

/** What a page is opened with: its document, the name alone of a large one, or why it can't be read. */
export type PageOf<S> = {
  readonly id: string;
  readonly name: string;
  readonly initial: S | null;
  readonly unreadable: string | null;
};

const pageOf = async <S>(
  what: Deletable,
  db: Queryable,
  { id, load }: { readonly id: string; readonly load: () => Promise<S> },
): Promise<PageOf<S> | null> => {
  const head = await headOf(db, what, id);
  if (!head) return null;
  try {
    return { id, name: head.name, initial: head.bytes <= LITTLE_BYTES ? await load() : null, unreadable: null };
  } catch (error) {
    if (error instanceof Failure && error.status === 404) return null;
    if (error instanceof Failure) return { id, name: head.name, initial: null, unreadable: error.message };
    throw error;
  }
};

export const templatePage = (db: Queryable, id: string): Promise<PageOf<TemplateState> | null> =>
  pageOf("template", db, { id, load: () => loadTemplate(db, id) });
export const rigPage = (db: Queryable, id: string): Promise<PageOf<RigState> | null> =>
  pageOf("rig", db, { id, load: () => loadRig(db, id) });

/**
 * The rigs that a window sees a template against, its own first. One that can't be read is left out: it can't be
 * chosen.
 */
export const rigsBeside = async (db: Queryable, templateId: string): Promise<readonly Rig[]> => {
  const head = await headOf(db, "template", templateId);
  return (await rigTexts(db, head?.rigId ?? null)).flatMap(({ text }) => {
    try {
      return [readStored("rig", text)];
    } catch {
      return [];
    }
  });
};
