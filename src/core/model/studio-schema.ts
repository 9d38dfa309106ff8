import { documentSchema } from "./describe/table";
import { faultsOf } from "./schema-parts";
import { STUDIO } from "./studio";

/** JSON Schema (draft 2020-12) of the studio document of the present version. */
export const STUDIO_JSON_SCHEMA = documentSchema(STUDIO);

export const studioFaults = faultsOf(STUDIO_JSON_SCHEMA);
