/** A document of a version that is no longer typed. */
export type Loose = Readonly<Record<string, unknown>>;

export const tableOf = (value: unknown): Record<string, Loose> =>
  typeof value === "object" && value !== null ? (value as Record<string, Loose>) : {};

export const mapTable = (value: unknown, change: (entry: Loose) => Loose): Record<string, Loose> =>
  Object.fromEntries(Object.entries(tableOf(value)).map(([key, entry]) => [key, change(entry)]));
