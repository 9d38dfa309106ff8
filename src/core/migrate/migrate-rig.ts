import { RIG_SCHEMA, type Rig } from "../model/rig";
import { rigFaults } from "../model/rig-schema";
import { migrationOf } from "./migrate";
import { rigOneToTwo } from "./rig-1-to-2";

export const migrateRig = migrationOf<Rig>({ what: "rig", newest: RIG_SCHEMA, steps: { 1: rigOneToTwo }, faults: rigFaults });
