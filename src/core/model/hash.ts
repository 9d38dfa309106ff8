import { type DocumentDescription, fieldsOf, type TableDescription } from "./describe/table";
import { stepwise } from "./table";

type Loose = Readonly<Record<string, unknown>>;
type Lanes = readonly [number, number, number, number];

/**
 * Odd multipliers whose products spread every bit of a lane over all of it (those of MurmurHash3, x86 128, A. Appleby,
 * public domain).
 */
const SPREAD: Lanes = [0x239b961b, 0xab0e9789, 0x38b34ae5, 0xa1e38b93];

/** The last step of MurmurHash3: every bit of the lane changes every other. */
const finished = (lane: number): number => {
  let mixed = Math.imul(lane ^ (lane >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return mixed ^ (mixed >>> 16);
};

/**
 * 128 bits that stand for a text: four lanes of 32, each mixed with every UTF-16 unit and with its neighbour. It finds
 * out slips, not forgers. Linear in the text.
 */
const digestOf = (text: string): Lanes => {
  let [a, b, c, d]: [number, number, number, number] = [1, 2, 3, 4];
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    a = b ^ Math.imul(a ^ unit, SPREAD[0]);
    b = c ^ Math.imul(b ^ unit, SPREAD[1]);
    c = d ^ Math.imul(c ^ unit, SPREAD[2]);
    d = a ^ Math.imul(d ^ unit, SPREAD[3]);
  }
  return [finished(a), finished(b), finished(c), finished(d)];
};

/**
 * What an entry says, field by field in the order of its description, so that the order in which its fields were put
 * together is none of it.
 */
const said = (of: TableDescription, entry: Loose): string =>
  JSON.stringify([entry.id, entry.kind, entry.order, ...Object.keys(fieldsOf(of, entry)).map((field) => entry[field])]);

const kept = new WeakMap<object, { readonly table: string; readonly lanes: Lanes }>();

/** Entries are never changed, only replaced: what was worked out for one stays true for as long as it lives. */
const ofEntry = (table: string, of: TableDescription, entry: Loose): Lanes => {
  const known = kept.get(entry);
  if (known?.table === table) return known.lanes;
  const lanes = digestOf(`${table} ${said(of, entry)}`);
  kept.set(entry, { table, lanes });
  return lanes;
};

const NOTHING = {};
const NONE: Lanes = [0, 0, 0, 0];

interface Sum {
  readonly lanes: Lanes;
  readonly count: number;
}

const xor = (a: Lanes, b: Lanes): Lanes => [a[0] ^ b[0], a[1] ^ b[1], a[2] ^ b[2], a[3] ^ b[3]];

/**
 * The exclusive-or of all entries of a table; of the next one from that of the last, as what is taken in twice is out
 * again.
 */
const sumOf = (table: string, of: TableDescription) =>
  stepwise<Loose, Sum>(
    (entries) => {
      const all = Object.values(entries);
      return { lanes: all.reduce((sum, entry) => xor(sum, ofEntry(table, of, entry)), NONE), count: all.length };
    },
    ({ lanes, count }, changes) => ({
      lanes: changes.flat().reduce((sum, entry) => xor(sum, ofEntry(table, of, entry)), lanes),
      count,
    }),
  );

const sums = new WeakMap<TableDescription, ReturnType<typeof sumOf>>();
const tableSum = (table: string, of: TableDescription, entries: Readonly<Record<string, Loose>>): Sum => {
  const known = sums.get(of) ?? sumOf(table, of);
  sums.set(of, known);
  return known(entries);
};

/**
 * A hash of a document, 32 hexadecimal digits: that of its own fields, their count of entries and the exclusive-or of
 * those of all entries, each with its table. Equal documents have equal hashes, whatever the order in which entries and
 * fields were put; after an edit only what it touched is worked out again. The first time it is linear in the document.
 * @example hashOf(TEMPLATE, a) === hashOf(TEMPLATE, structuredClone(a)) // true
 */
export const hashOf = ({ header, tables }: Pick<DocumentDescription, "header" | "tables">, doc: object): string => {
  let [all, count]: [Lanes, number] = [NONE, 0];
  for (const [table, of] of Object.entries(tables)) {
    const sum = tableSum(
      table,
      of,
      (doc as Readonly<Record<string, Readonly<Record<string, Loose>>>>)[table] ?? NOTHING,
    );
    all = xor(all, sum.lanes);
    count += sum.count;
  }
  const own = Object.keys(header).map((field) => (doc as Loose)[field]);
  return digestOf(JSON.stringify([(doc as Loose).id, (doc as Loose).schema, ...own, count, ...all]))
    .map((lane) => (lane >>> 0).toString(16).padStart(8, "0"))
    .join("");
};
