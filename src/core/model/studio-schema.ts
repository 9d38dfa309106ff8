import { checkerOf } from "./checker";
import { documentSchema } from "./describe/table";
import { STUDIO } from "./studio";

/** JSON Schema (draft 2020-12) of the studio document of the present version. */
export const STUDIO_JSON_SCHEMA = documentSchema(STUDIO);

export const studioFaults = checkerOf(STUDIO_JSON_SCHEMA).faults;
