import type { Command } from "../commands/command";
import { HEADER } from "../commands/command";
import type { Field, Fields, Reference } from "../model/describe/fields";
import { type DocumentDescription, isOrdered, type TableDescription } from "../model/describe/table";

type Chance = () => number;
type Loose = Readonly<Record<string, unknown>>;
type Tables = Readonly<Record<string, Readonly<Record<string, Loose>>>>;

const pick = <T>(chance: Chance, from: readonly T[]): T | undefined => from[Math.floor(chance() * from.length)];
const WORDS = ["Fiddle", "Loft", "", "A/B", "con", "x".repeat(60)];

let serial = 0;

/**
 * An id that suits a table: one of those it always has, or a new one, and now and then one that is taken or that every
 * object has.
 */
const idFor = (chance: Chance, { id, ids }: TableDescription, there: readonly string[]): string => {
  if (ids === "fixed")
    return String(pick(chance, (id as { readonly enum?: readonly string[] }).enum ?? there) ?? "none");
  if (chance() < 0.08) return pick(chance, [...there, "constructor"]) ?? "constructor";
  return `${"pattern" in id ? "own-" : ""}r${serial++}`;
};

const sampleText = (chance: Chance, { schema, initial }: Field): string | null =>
  initial === null && chance() < 0.5
    ? null
    : (pick(chance, WORDS) ?? "").padEnd((schema as { readonly minLength?: number }).minLength ?? 0, "z");

const sampleNumber = (chance: Chance, { range, initial }: Field): number | null => {
  if (initial === null && chance() < 0.3) return null;
  const { min, max } = range ?? { min: 0, max: 1 };
  // No −0: a document that is stored and read again has none.
  return Math.min(max, Math.ceil(min + chance() * (max - min))) + 0;
};

/** What a reference may lead to. */
const fitting = (reference: Reference | undefined, tables: Tables): readonly string[] => {
  const there = tables[reference?.to ?? ""] ?? {};
  return Object.keys(there).filter((id) => !reference?.kinds || reference.kinds.includes(String(there[id]?.kind)));
};

/**
 * Whether one could be added: nothing that only others hold, and there is something that each of the references could
 * lead to that an entry of a table can't be without.
 */
const canBe = (of: TableDescription, tables: Tables): boolean =>
  !of.held &&
  Object.values(of.fields).every(
    ({ references, initial }) => !references || initial !== undefined || fitting(references[0], tables).length > 0,
  );

const sampleReference = (
  chance: Chance,
  { schema, initial, references }: Field,
  tables: Tables,
): string | null | readonly string[] => {
  const ids = fitting(references?.[0], tables);
  const target = () => (chance() < 0.06 ? "nobody" : (pick(chance, ids) ?? "nobody"));
  if ((schema as { readonly type?: string }).type === "array")
    return [...new Set([target(), ...(chance() < 0.5 ? [target()] : [])])];
  return initial === null && chance() < 0.4 ? null : target();
};

const sampleClosed = (chance: Chance, { samples, initial }: Field): unknown =>
  samples ? pick(chance, samples) : chance() < 0.5 && initial === null ? null : "elsewhere";

const SAMPLES: { readonly [K in Field["kind"]]: (chance: Chance, field: Field, tables: Tables) => unknown } = {
  text: sampleText,
  flag: (chance) => chance() < 0.5,
  choice: (chance, { options }) => pick(chance, options ?? []),
  number: sampleNumber,
  decibels: sampleNumber,
  reference: sampleReference,
  closed: sampleClosed,
  group: (chance, { fields }, tables) => sampleFields(chance, fields ?? {}, tables),
};

/** A value that a field could have, by what its description says; a reference leads now and then to nothing. */
export const sampleOf = (chance: Chance, field: Field, tables: Tables): unknown =>
  SAMPLES[field.kind](chance, field, tables);

const sampleFields = (chance: Chance, fields: Fields, tables: Tables): Loose =>
  Object.fromEntries(Object.entries(fields).map(([key, field]) => [key, sampleOf(chance, field, tables)]));

const newEntry = (
  chance: Chance,
  of: TableDescription,
  { tables, there }: { readonly tables: Tables; readonly there: readonly string[] },
): { readonly id: string } => {
  const kind = of.kinds ? (pick(chance, Object.keys(of.kinds)) ?? "") : null;
  const fields = kind === null ? of.fields : { ...of.fields, ...of.kinds?.[kind] };
  const id = of.alongside
    ? (pick(chance, Object.keys(tables[of.alongside] ?? {})) ?? "none")
    : idFor(chance, of, there);
  return { id, ...(kind === null ? {} : { kind }), ...sampleFields(chance, fields, tables) };
};

const someFields = (chance: Chance, fields: Fields, tables: Tables): Loose => {
  const [first, second] = [pick(chance, Object.entries(fields)), pick(chance, Object.entries(fields))];
  return Object.fromEntries(
    [first, second].flatMap((one) => (one ? [[one[0], sampleOf(chance, one[1], tables)] as const] : [])),
  );
};

interface Place {
  readonly table: string;
  readonly of: TableDescription;
  readonly tables: Tables;
  readonly there: readonly string[];
  readonly one: string;
}

const VERBS: { readonly [K in "add" | "set" | "move" | "remove"]: (chance: Chance, place: Place) => Command } = {
  add: (chance, { table, of, tables, there }) => ({
    kind: "add",
    table,
    entries: [newEntry(chance, of, { tables, there })],
    ...(of.order ? { before: beforeOf(chance, there) } : {}),
  }),
  set: (chance, { table, of, tables, one }) => {
    const fields = { ...of.fields, ...of.kinds?.[String(tables[table]?.[one]?.kind)] };
    const settable = Object.fromEntries(Object.entries(fields).filter(([key]) => key !== of.order?.within));
    return { kind: "set", table, values: { [one]: someFields(chance, settable, tables) } };
  },
  move: (chance, { table, of, tables, there }) => {
    const movable = there.filter((id) => isOrdered(of, tables[table]?.[id]?.kind));
    const within = of.order?.within;
    const to = within && { ...of.fields, ...of.kinds?.[String(of.order?.kinds?.[0])] }[within]?.references?.[0]?.to;
    const parents = Object.keys(tables[to ?? ""] ?? {});
    const parent = within ? { parent: chance() < 0.5 ? (pick(chance, parents) ?? null) : null } : {};
    return {
      kind: "move",
      table,
      ids: [pick(chance, movable) ?? "nobody"],
      ...parent,
      before: beforeOf(chance, there),
    };
  },
  remove: (chance, { table, there, one }) => ({
    kind: "remove",
    table,
    ids: [...new Set([one, ...there.filter(() => chance() < 1 / Math.max(2, there.length))])],
  }),
};

const beforeOf = (chance: Chance, there: readonly string[]): string | null =>
  chance() < 0.5 ? (pick(chance, there) ?? null) : null;

/**
 * Any of the verbs on any table of a kind of document, with values that its description allows and now and then with
 * what it does not.
 */
export const randomVerb = (description: DocumentDescription, doc: { readonly id: string }, chance: Chance): Command => {
  const tables = doc as unknown as Tables;
  const able = Object.entries(description.tables).filter(
    ([name, one]) => Object.keys(tables[name] ?? {}).length > 0 || canBe(one, tables) || chance() < 0.1,
  );
  const [table = "", of] = pick(chance, able) ?? [];
  if (!of || chance() < 0.05)
    return { kind: "set", table: HEADER, values: { [doc.id]: someFields(chance, description.header, tables) } };
  const there = Object.keys(tables[table] ?? {});
  const kind =
    there.length || chance() < 0.05
      ? (pick(chance, ["add", "add", "set", "set", "set", "move", "remove"] as const) ?? "set")
      : "add";
  return VERBS[kind === "move" && !of.order ? "set" : kind](chance, {
    table,
    of,
    tables,
    there,
    one: pick(chance, there) ?? "nobody",
  });
};
