import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import type { DocumentDescription } from "./describe/table";

const sorted = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, entry]) => [key, sorted(entry)]),
  );
};

/** The same text for the same value, whatever the order of its keys. */
const canonical = (value: unknown): string => JSON.stringify(sorted(value));

const ofEntries = new WeakMap<object, { readonly table: string; readonly digest: Uint8Array }>();

/** Entries are never changed, only replaced: what was worked out for one stays true for as long as it lives. */
const digestOf = (table: string, entry: object): Uint8Array => {
  const kept = ofEntries.get(entry);
  if (kept?.table === table) return kept.digest;
  const digest = sha256(utf8ToBytes(`${table} ${canonical(entry)}`));
  ofEntries.set(entry, { table, digest });
  return digest;
};

/**
 * A hash of a document: SHA-256 (FIPS 180-4) over its own fields and the exclusive-or of the SHA-256 of every entry of its tables. 64 hexadecimal digits,
 * independent of the order of keys and entries: equal documents have equal hashes, and after an edit only what it touched is worked out again.
 * The first time it is linear in the document.
 */
export const hashOf = ({ tables }: Pick<DocumentDescription, "tables">, doc: object): string => {
  const all = new Uint8Array(32);
  const own: Record<string, unknown> = {};
  let count = 0;
  for (const [field, value] of Object.entries(doc)) {
    if (!Object.hasOwn(tables, field)) {
      own[field] = value;
      continue;
    }
    for (const entry of Object.values(value as Readonly<Record<string, object>>)) {
      const digest = digestOf(field, entry);
      for (let at = 0; at < 32; at++) all[at] = (all[at] ?? 0) ^ (digest[at] ?? 0);
      count += 1;
    }
  }
  return bytesToHex(sha256(utf8ToBytes(`${canonical(own)} ${count} ${bytesToHex(all)}`)));
};
