/** Entries by id. */
export type Table<K extends string, T> = Readonly<Record<K, T>>;

/** All entries of a table. Object.values loses the key's brand but not the value's type. */
export const entriesOf = <T>(table: Readonly<Record<string, T>>): T[] => Object.values(table);

interface Ordered {
  readonly order: string;
}

/** Keys of an order are compared as plain text, never by the rules of a language. */
export const byOrder = (a: Ordered, b: Ordered): number => (a.order < b.order ? -1 : a.order > b.order ? 1 : 0);

/** Entries of a table in their order. */
export const inOrder = <T extends Ordered>(table: Readonly<Record<string, T>>): T[] => Object.values(table).sort(byOrder);
