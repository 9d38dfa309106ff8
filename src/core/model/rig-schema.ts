import { checkerOf } from "./checker";
import { documentSchema } from "./describe/table";
import { RIG } from "./rig";

/** JSON Schema (draft 2020-12) of a rig document of the present version. */
export const RIG_JSON_SCHEMA = documentSchema(RIG);

/** Where a value departs from the rig schema. Empty when it is a rig document. */
export const rigFaults = checkerOf(RIG_JSON_SCHEMA).faults;
