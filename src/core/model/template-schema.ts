import { checkerOf } from "./checker";
import { documentSchema } from "./describe/table";
import { TEMPLATE } from "./template";

/**
 * JSON Schema (draft 2020-12) of a template document of the present version. Served and documented as it stands here.
 */
export const TEMPLATE_JSON_SCHEMA = documentSchema(TEMPLATE);

/** Where a value departs from the template schema. Empty when it is a template document. */
export const templateFaults = checkerOf(TEMPLATE_JSON_SCHEMA).faults;
