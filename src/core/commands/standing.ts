import type { Fault } from "../model/schema-parts";
import { type Patch, type Refusal, refuse } from "./engine";

/** What must hold of a kind of document, and what of it an edit can break. */
export interface StandingRules<D> {
  readonly tables: readonly (keyof D & string)[];
  /** Where a document departs from its schema. */
  readonly faults: (doc: D) => readonly Fault[];
  /** What must hold in every revision and does not, in words. */
  readonly broken: (doc: D) => readonly string[];
  /** Fields of a table's entries that rules look at. An edit of others alone can break none; without this, any edit can. */
  readonly ruled?: Readonly<Partial<Record<keyof D & string, readonly string[]>>>;
}

/** Whether an edit reached something that a rule looks at: an entry came or went, or one of its fields that rules speak of changed. */
const breaksRules = <D>({ tables, ruled }: StandingRules<D>, patches: readonly Patch[]): boolean =>
  patches.some(({ path: [table, , field] }) => {
    if (!ruled || !tables.includes(table as keyof D & string)) return ruled === undefined;
    return field === undefined || Boolean(ruled[table as keyof D & string]?.includes(String(field)));
  });

/**
 * The document with only those entries of its tables that the patches touch. The others were held to the schema when they came in,
 * so that a small edit of a large document does not cost the whole of it.
 */
export const touchedOnly = <D>(doc: D, tables: readonly (keyof D & string)[], patches: readonly Patch[]): D => {
  const touched = (table: keyof D & string) => {
    const whole = doc[table];
    if (typeof whole !== "object" || whole === null) return whole;
    const ids = new Set<string>();
    for (const { path } of patches) {
      if (path[0] !== table) continue;
      if (path.length === 1) return whole;
      ids.add(String(path[1]));
    }
    return Object.fromEntries([...ids].flatMap((id) => (Object.hasOwn(whole, id) ? [[id, (whole as Record<string, unknown>)[id]]] : [])));
  };
  return { ...doc, ...Object.fromEntries(tables.map((table) => [table, touched(table)])) };
};

/** What rules an edit breaks that were kept before it: what was broken already, in a document of an older Wandel, is no reason to refuse it. */
export const newlyBroken = <D>(broken: (doc: D) => readonly string[], before: D, after: D): string | undefined => {
  const now = broken(after);
  if (!now.length) return undefined;
  const known = new Set(broken(before));
  return now.find((fault) => !known.has(fault));
};

/** @example placeOf(doc, tables, "/channels/track-1/note") // "note of Fiddle" */
const placeOf = <D>(doc: D, tables: readonly (keyof D & string)[], pointer: string): string => {
  const [table = "", id = "", ...field] = pointer.slice(1).split("/");
  if (!tables.includes(table as keyof D & string)) return pointer.slice(1).replaceAll("/", " ") || "its root";
  const entry = (doc[table as keyof D] as Readonly<Record<string, { readonly name?: unknown; readonly source?: unknown }>>)[id];
  return [field.join(" "), String(entry?.name || entry?.source || id)].filter(Boolean).join(" of ");
};

/**
 * Whether what a whole gesture left may stand: the entries it touched fit the schema, and it broke no rule. Steps inside a gesture may pass through
 * states that would not. Linear in what was touched, and in the document when a rule could be broken.
 */
export const standing =
  <D extends { readonly id: string }>(rules: StandingRules<D>) =>
  (before: D, after: D, patches: readonly Patch[]): Refusal | null => {
    const [fault] = rules.faults(touchedOnly(after, rules.tables, patches));
    if (fault) return refuse("unfit", fault.pointer, `That does not fit at ${placeOf(after, rules.tables, fault.pointer)}: ${fault.message}`);
    const broken = breaksRules(rules, patches) ? newlyBroken(rules.broken, before, after) : undefined;
    return broken ? refuse("unfit", before.id, `That can't be: ${broken}.`) : null;
  };
