import { createHash } from "node:crypto";

const sorted = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, entry]) => [key, sorted(entry)]),
  );
};

/** SHA-256 of a document, independent of the order of its keys: equal documents have equal hashes. */
export const hashOf = (document: object): string =>
  createHash("sha256")
    .update(JSON.stringify(sorted(document)))
    .digest("hex");
