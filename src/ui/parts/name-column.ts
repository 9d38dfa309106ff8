import type { PartColumn } from "./part-table";

/** The name of a part, which can't be empty. */
export const nameColumn = <T extends { readonly name: string }>(
  header: string,
  what: string,
  width?: number,
): PartColumn<T> => ({
  id: "name",
  header,
  ...(width === undefined ? {} : { width }),
  text: (row) => row.name,
  editor: { kind: "text" },
  write: (name) => (name.trim() ? { name: name.trim() } : `A ${what} needs a name.`),
});
