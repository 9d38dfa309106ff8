import { type DocumentDescription, fieldsOf, isOrdered, type TableDescription } from "../model/describe/table";
import { isReserved } from "../model/schema-parts";
import type {
  AddCommand,
  Command,
  MoveCommand,
  Patch,
  Refusal,
  RemoveCommand,
  RestoreCommand,
  SetCommand,
} from "./command";
import { HEADER, refuse } from "./command";
import { unfit } from "./entry-schema";
import { keysBetween, LONGEST_KEY, orderKeys } from "./order-keys";
import type { Loose } from "./references";
import { same, type Work } from "./work";

type AnyWork = Work<{ readonly id: string }>;

const noTable = ({ description, before }: AnyWork, table: string): Refusal =>
  refusalsOf(description).noTable(before.id, table);

const gone = ({ one }: TableDescription, id: string): Refusal =>
  refuse("missing", id, `The ${one} this was meant for is no longer there: it was removed in the meantime.`);

const nothing = ({ one }: TableDescription): Refusal => refuse("empty", "", `No ${one} was named. Select one or more.`);

/** How the verbs refuse what is not there; whoever plans edits says the same. */
export const refusalsOf = ({ what }: DocumentDescription) => ({
  noTable: (at: string, table: string): Refusal => refuse("unfit", at, `A ${what} has no ${table.slice(0, 40)}.`),
  gone,
  nothing,
});

const tableOf = ({ tables }: DocumentDescription, name: string): TableDescription | undefined =>
  Object.hasOwn(tables, name) ? tables[name] : undefined;

const parentOf = ({ order }: TableDescription, entry: Loose): string | null =>
  order?.within ? ((entry[order.within] as string | null) ?? null) : null;

interface Place {
  readonly table: string;
  readonly parent: string | null;
  /** What is put there, in this order. */
  readonly ids: readonly string[];
  readonly before: string | null;
}

interface Seats {
  readonly keys: readonly string[];
  /** All that stand there have new ones, as the keys had become too long. */
  readonly anew: ReadonlyMap<string, string> | null;
}

/** Keys for what is put somewhere: between its neighbours there, which are not among those that are put. */
const seatsFor = (work: AnyWork, { table, parent, ids, before }: Place): Seats => {
  const orderOf = work.orderOf(table);
  const moving = new Set(ids);
  const siblings = work.references.siblings(table, parent, orderOf);
  const isThere = before !== null && !moving.has(before) && work.entry(table, before) !== undefined;
  const found = isThere ? siblings.indexOf(before) : -1;
  const at = found < 0 ? siblings.length : found;
  let left = at - 1;
  while (left >= 0 && moving.has(siblings[left] ?? "")) left--;
  let right = at;
  while (right < siblings.length && moving.has(siblings[right] ?? "")) right++;
  const [a, b] = [siblings[left], siblings[right]];
  const keys = keysBetween(a === undefined ? null : orderOf(a), b === undefined ? null : orderOf(b), ids.length);
  if (keys.every((key) => key.length <= LONGEST_KEY)) return { keys, anew: null };
  const still = siblings.filter((id) => !moving.has(id));
  const from = b === undefined ? still.length : still.indexOf(b);
  const all = [...still.slice(0, from), ...ids, ...still.slice(from)];
  const dealt = orderKeys(all.length);
  const anew = new Map(all.map((id, index) => [id, dealt[index] ?? ""]));
  return { keys: ids.map((id) => anew.get(id) ?? ""), anew };
};

const reseat = (work: AnyWork, table: string, { anew }: Seats, ids: readonly string[]): void => {
  for (const [id, order] of anew ?? []) {
    const entry = work.entry(table, id);
    if (entry && !ids.includes(id)) work.put(table, id, { ...entry, order });
  }
};

const taken = (work: AnyWork, of: TableDescription, table: string, id: string): boolean => {
  if (isReserved(id)) return true;
  if (of.ids === "meant") return false;
  const tables = work.description.oneIdSpace
    ? Object.keys(work.description.tables).filter((name) => tableOf(work.description, name)?.ids === "made")
    : [table];
  return tables.some((name) => work.entry(name, id) !== undefined);
};

/** What is added together and lies in one parent, in the order in which it is named. */
const byParent = (of: TableDescription, entries: readonly Loose[]): ReadonlyMap<string | null, readonly Loose[]> => {
  const groups = new Map<string | null, Loose[]>();
  for (const entry of entries) {
    const parent = parentOf(of, entry);
    const there = groups.get(parent);
    if (there) there.push(entry);
    else groups.set(parent, [entry]);
  }
  return groups;
};

const add = (work: AnyWork, { table, entries, before = null }: AddCommand): Refusal | null => {
  const of = tableOf(work.description, table);
  if (!of) return noTable(work, table);
  if (of.ids === "fixed")
    return refuse("unfit", entries[0]?.id ?? "", `A ${work.description.what} has always the same ${of.many}.`);
  if (!entries.length) return refuse("empty", "", "There is nothing to add.");
  const plain = entries.filter(
    (entry) => !isOrdered(of, (entry as unknown as Loose).kind),
  ) as unknown as readonly Loose[];
  const ordered = entries.filter((entry) =>
    isOrdered(of, (entry as unknown as Loose).kind),
  ) as unknown as readonly Loose[];
  const seen = new Set<string>();
  for (const { id } of entries) {
    if (taken(work, of, table, id) || seen.has(id))
      return refuse("clash", id, `Something with the id ${id} is already in this ${work.description.what}.`);
    seen.add(id);
  }
  for (const entry of plain) {
    const fault = unfit(table, of, entry);
    if (fault) return fault;
    work.put(table, String(entry.id), entry);
  }
  for (const [parent, group] of byParent(of, ordered)) {
    const ids = group.map((entry) => String(entry.id));
    const seats = seatsFor(work, { table, parent, ids, before });
    reseat(work, table, seats, ids);
    for (const [at, given] of group.entries()) {
      const entry = { ...given, order: seats.keys[at] };
      const fault = unfit(table, of, entry);
      if (fault) return fault;
      work.put(table, String(given.id), entry);
    }
  }
  return null;
};

const noField = (what: string, field: string): Refusal =>
  refuse("unfit", field, `A ${what} has no field ${field.slice(0, 40)} that can be set.`);

const setHeader = (work: AnyWork, values: SetCommand["values"]): Refusal | null => {
  const { header, what } = work.description;
  for (const [id, fields] of Object.entries(values)) {
    if (id !== work.before.id) return refuse("missing", id, `This is not the ${what} it was meant for.`);
    for (const [field, value] of Object.entries(fields)) {
      const of = Object.hasOwn(header, field) ? header[field] : undefined;
      if (!of) return noField(what, field);
      const merged = of.fields && typeof value === "object" ? { ...(work.header(field) as object), ...value } : value;
      work.setHeader(field, merged);
    }
  }
  return null;
};

const set = (work: AnyWork, { table, values }: SetCommand): Refusal | null => {
  if (table === HEADER) return setHeader(work, values);
  const of = tableOf(work.description, table);
  if (!of) return noTable(work, table);
  const ids = Object.keys(values);
  if (!ids.length) return nothing(of);
  for (const id of ids) {
    const entry = work.entry(table, id);
    if (!entry) return gone(of, id);
    const known = fieldsOf(of, entry);
    const fields = values[id] ?? {};
    const strange = Object.keys(fields).find((field) => !Object.hasOwn(known, field) || field === of.order?.within);
    if (strange !== undefined) return noField(of.one, strange);
    const fault = unfit(table, of, { ...entry, ...fields });
    if (fault) return fault;
    work.change(table, entry, fields);
  }
  return null;
};

/** Whether what is to be moved stands there already, in this order. */
const standsThere = (work: AnyWork, { table, parent, ids, before }: Place): boolean => {
  const siblings = work.references.siblings(table, parent, work.orderOf(table));
  const at = siblings.indexOf(ids[0] ?? "");
  return (
    at >= 0 && ids.every((id, index) => siblings[at + index] === id) && (siblings[at + ids.length] ?? null) === before
  );
};

const move = (work: AnyWork, { table, ids, parent, before }: MoveCommand): Refusal | null => {
  const of = tableOf(work.description, table);
  if (!of) return noTable(work, table);
  if (!ids.length) return nothing(of);
  const entries = ids.map((id) => work.entry(table, id));
  const missing = ids.find((_id, at) => !entries[at]);
  if (missing !== undefined) return gone(of, missing);
  const fixed = ids.find((_id, at) => !isOrdered(of, entries[at]?.kind));
  if (fixed !== undefined || new Set(ids).size < ids.length)
    return refuse("unfit", fixed ?? "", `That is no ${of.one} that can be moved.`);
  const within = of.order?.within ?? null;
  if (within === null && parent) return refuse("unfit", table, `${of.many} lie in nothing.`);
  const home = within === null ? null : parent === undefined ? parentOf(of, entries[0] ?? {}) : parent;
  const place = { table, parent: home, ids, before };
  if (standsThere(work, place)) return null;
  const seats = seatsFor(work, place);
  reseat(work, table, seats, ids);
  for (const [at, id] of ids.entries())
    work.put(table, id, { ...entries[at], ...(within ? { [within]: home } : {}), order: seats.keys[at] } as Loose);
  return null;
};

const remove = (work: AnyWork, { table, ids }: RemoveCommand): Refusal | null => {
  const of = tableOf(work.description, table);
  if (!of) return noTable(work, table);
  if (!ids.length) return nothing(of);
  const missing = ids.find((id) => !work.entry(table, id));
  if (missing !== undefined) return gone(of, missing);
  if (of.ids === "fixed")
    return refuse("unfit", ids[0] ?? "", `A ${work.description.what} has always the same ${of.many}.`);
  for (const id of ids) work.put(table, id, undefined);
  return null;
};

const isEntry = (table: string, of: TableDescription, id: string, value: unknown): boolean =>
  typeof value === "object" &&
  value !== null &&
  (value as Loose).id === id &&
  unfit(table, of, value as Loose) === null;

/** Whether a patch leads to a place that can be restored to what it says, and does it. */
const restoreOne = (work: AnyWork, { op, path, value }: Patch): boolean => {
  const [first = "", id, field, more] = path;
  const of = tableOf(work.description, first);
  if (!of) return restoreHeader(work, { op, path, value });
  if (id === undefined || more !== undefined || isReserved(id)) return false;
  const entry = work.entry(first, id);
  if (field === undefined) {
    const there =
      op === "remove" ? entry !== undefined : op === "add" && entry === undefined && isEntry(first, of, id, value);
    if (there) work.put(first, id, op === "remove" ? undefined : (value as Loose));
    return there;
  }
  const settable =
    entry && (Object.hasOwn(fieldsOf(of, entry), field) || (field === "order" && isOrdered(of, entry.kind)));
  if (op !== "replace" || !settable || value === undefined) return false;
  const restored = { ...entry, [field]: value };
  if (unfit(first, of, restored)) return false;
  if (!same(entry[field], value)) work.put(first, id, restored);
  return true;
};

const restoreHeader = (work: AnyWork, { op, path: [field = "", part, more], value }: Patch): boolean => {
  const { header } = work.description;
  const of = Object.hasOwn(header, field) ? header[field] : undefined;
  if (!of || op !== "replace" || value === undefined || more !== undefined) return false;
  if (part !== undefined && !Object.hasOwn(of.fields ?? {}, part)) return false;
  work.setHeader(field, part === undefined ? value : { ...(work.header(field) as object), [part]: value });
  return true;
};

const restore = (work: AnyWork, { undoes, patches, carries }: RestoreCommand): Refusal | null =>
  patches.every((patch) => restoreOne(work, patch))
    ? null
    : refuse(
        "missing",
        work.before.id,
        carries
          ? `“${undoes}” can't be done: what it changes is not as it was any more. Compare again.`
          : `“${undoes}” can't be undone: what it changed is no longer there.`,
      );

/** Does one command, without asking whether what it leaves may stand. */
export const run = (work: AnyWork, command: Command): Refusal | null => {
  switch (command.kind) {
    case "add":
      return add(work, command);
    case "set":
      return set(work, command);
    case "move":
      return move(work, command);
    case "remove":
      return remove(work, command);
    case "restore":
      return restore(work, command);
    default:
      command satisfies never;
      return refuse("unfit", "", "This edit was made with another version of Wandel, and this one does not know it.");
  }
};
