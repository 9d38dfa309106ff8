import { STUDIO_SCHEMA, type Studio } from "../model/studio";
import { studioFaults } from "../model/studio-schema";
import { migrationOf } from "./migrate";
import { firstStudioToSecond } from "./studio-1-to-2";

export const migrateStudio = migrationOf<Studio>({ what: "studio", newest: STUDIO_SCHEMA, steps: { 1: firstStudioToSecond }, faults: studioFaults });
