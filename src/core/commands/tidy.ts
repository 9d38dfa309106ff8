import type { TableDescription } from "../model/describe/table";
import { type Refusal, refuse } from "./command";
import { keysBetween } from "./order-keys";
import { type Loose, referencesOf, splitKey, targetsOf } from "./references";
import type { Work } from "./work";

type AnyWork = Work<{ readonly id: string }>;

/** What an entry is called in a sentence. */
export const calledOf = (of: TableDescription, entry: Loose, { around }: Pick<AnyWork, "around">): string =>
  (of.called as (entry: Loose, around: AnyWork["around"]) => string | null)(entry, around) || `a ${of.one}`;

const isGone = (work: AnyWork, table: string, id: string): boolean => work.entry(table, id) === undefined;

/** An entry without what it refers to that is gone; nothing is left of it where it can't be without. */
const withoutGone = (
  work: AnyWork,
  of: TableDescription,
  entry: Loose,
): { readonly left: Loose | undefined } | Refusal => {
  if (of.alongside && isGone(work, of.alongside, String(entry.id))) return { left: undefined };
  let left = entry;
  for (const reference of referencesOf(of, entry)) {
    const { to, without } = reference.reference;
    const gone = new Set(targetsOf(reference, left).filter((id) => isGone(work, to, id)));
    if (!gone.size) continue;
    if (!without) return refuse("unfit", String(entry.id), `${calledOf(of, entry, work)} needs it. Change that first.`);
    const kept = (without as (value: unknown, gone: ReadonlySet<string>) => { readonly value: unknown } | null)(
      left[reference.field],
      gone,
    );
    if (!kept) return { left: undefined };
    left = { ...left, [reference.field]: kept.value };
  }
  return { left };
};

/** What referred to something that went lets it go, or goes along; and so on, for as long as something goes. */
export const repair = (work: AnyWork): Refusal | null => {
  const queue = [...work.touched].flatMap(([table, ids]) =>
    [...ids].flatMap((id) => (isGone(work, table, id) ? [[table, id] as const] : [])),
  );
  for (let at = 0; at < queue.length; at++) {
    const [table, id] = queue[at] ?? ["", ""];
    for (const key of [...work.references.referrers(table, id)]) {
      const [from, fromId] = splitKey(key);
      const [of, entry] = [work.description.tables[from], work.entry(from, fromId)];
      if (!of || !entry) continue;
      const mended = withoutGone(work, of, entry);
      if (!("left" in mended)) return mended;
      work.put(from, fromId, mended.left);
      if (!mended.left) queue.push([from, fromId]);
    }
  }
  return null;
};

/** What nothing refers to any more goes, where it is kept only for what does; something new must not come without. */
export const dropUnheld = (work: AnyWork): Refusal | null => {
  const added = [...work.touched].flatMap(([table, ids]) =>
    work.description.tables[table]?.held ? [...ids].map((id) => `${table}/${id}`) : [],
  );
  for (const key of new Set([...added, ...work.released])) {
    const [table, id] = splitKey(key);
    const of = work.description.tables[table];
    const entry = work.entry(table, id);
    if (!of?.held || !entry || work.references.referrers(table, id).size) continue;
    if (!work.had(table, id))
      return refuse("unfit", id, `That can't be: ${(of.held as (entry: Loose) => string)(entry)}.`);
    // Without anything that held it before either, it is a document of an older Wandel: left as it is.
    if (work.released.has(key)) work.put(table, id, undefined);
  }
  return null;
};

/**
 * A key of its own for something that came to stand where another is: before all that stand there. Null when nothing
 * else does.
 */
const ownPlace = (work: AnyWork, table: string, within: string | null, entry: Loose): string | null => {
  const orderOf = work.orderOf(table);
  const siblings = work.references.siblings(table, within ? ((entry[within] as string | null) ?? null) : null, orderOf);
  const isHere = (at: number): boolean =>
    at >= 0 && at < siblings.length && orderOf(siblings[at] ?? "") === entry.order;
  const at = siblings.indexOf(String(entry.id));
  if (!isHere(at - 1) && !isHere(at + 1)) return null;
  let before = at;
  while (isHere(before)) before--;
  const [order = null] = keysBetween(before < 0 ? null : orderOf(siblings[before] ?? ""), String(entry.order), 1);
  return order;
};

/**
 * Gives a place of its own to what came to stand where something else is: a taking back next to what another window put
 * there, or a folder that went and left its contents to the one around it. It goes before what is there. The same in
 * every window and on the server.
 */
export const givePlaces = (work: AnyWork): void => {
  for (const [table, ids] of [...work.touched]) {
    const ordered = work.description.tables[table]?.order;
    for (const id of ordered ? [...ids].sort() : []) {
      const entry = work.entry(table, id);
      const order =
        entry && typeof entry.order === "string" ? ownPlace(work, table, ordered?.within ?? null, entry) : null;
      if (entry && order !== null) work.put(table, id, { ...entry, order });
    }
  }
};
