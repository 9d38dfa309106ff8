import { type Checker, checkerOf } from "../model/checker";
import { entrySchema, type TableDescription } from "../model/describe/table";
import { type Refusal, refuse } from "./command";
import type { Loose } from "./references";

const checkers = new WeakMap<TableDescription, Checker>();

const checkerFor = (of: TableDescription): Checker => {
  const made = checkers.get(of) ?? checkerOf(entrySchema(of));
  checkers.set(of, made);
  return made;
};

const nameIn = ({ name, source, id }: Loose): string => String(name || source || id);

/**
 * Where an entry departs from the schema of its table, as a refusal; null when it fits. Rules and references are looked
 * at only in what fits.
 */
export const unfit = (table: string, of: TableDescription, entry: Loose): Refusal | null => {
  const [fault] = checkerFor(of).faults(entry);
  if (!fault) return null;
  const field = fault.pointer.slice(1).replaceAll("/", " ");
  const where = [field, nameIn(entry)].filter(Boolean).join(" of ");
  return refuse(
    "unfit",
    `/${table}/${String(entry.id)}${fault.pointer}`,
    `That does not fit at ${where}: ${fault.message}`,
  );
};
