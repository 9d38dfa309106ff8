import { compileSchema, type Fits } from "../model/compile-schema";
import { entrySchema, type TableDescription } from "../model/describe/table";
import { type Fault, faultsOf } from "../model/schema-parts";
import { type Refusal, refuse } from "./command";
import type { Loose } from "./references";

const schemas = new WeakMap<
  TableDescription,
  { readonly fits: Fits; readonly faults: (value: unknown) => readonly Fault[] }
>();

const schemaOf = (of: TableDescription) => {
  const known = schemas.get(of);
  if (known) return known;
  const schema = entrySchema(of);
  const made = { fits: compileSchema(schema), faults: faultsOf(schema) };
  schemas.set(of, made);
  return made;
};

const nameIn = ({ name, source, id }: Loose): string => String(name || source || id);

/**
 * Where an entry departs from the schema of its table, as a refusal; null when it fits. Rules and references are looked
 * at only in what fits.
 */
export const unfit = (table: string, of: TableDescription, entry: Loose): Refusal | null => {
  const { fits, faults } = schemaOf(of);
  if (fits(entry)) return null;
  const [fault] = faults(entry);
  const field = (fault?.pointer ?? "").slice(1).replaceAll("/", " ");
  const where = [field, nameIn(entry)].filter(Boolean).join(" of ");
  return refuse(
    "unfit",
    `/${table}/${String(entry.id)}${fault?.pointer ?? ""}`,
    `That does not fit at ${where}: ${fault?.message ?? "it is something else"}`,
  );
};
