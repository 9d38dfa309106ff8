import { type Loose, mapTable } from "./loose";
import { keyed, renamedField } from "./order-keys";

/** Version 1 numbered what stands in an order, and had another word for colours. */
export const firstStudioToSecond = ({ dyes, ...doc }: Loose): Loose => ({
  ...doc,
  schema: 2,
  rooms: keyed(doc.rooms),
  people: keyed(doc.people),
  colours: dyes,
  families: mapTable(doc.families, (family) => renamedField(family, "dye", "colour")),
});
