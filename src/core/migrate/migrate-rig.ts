import { RIG_SCHEMA, type Rig } from "../model/rig";
import { rigFaults } from "../model/rig-schema";
import { migrationOf } from "./migrate";
import { rigOneToTwo } from "./rig-1-to-2";
import { rigTwoToThree } from "./rig-2-to-3";
import { rigThreeToFour } from "./rig-3-to-4";
import { rigFourToFive } from "./rig-4-to-5";

export const migrateRig = migrationOf<Rig>({
  what: "rig",
  newest: RIG_SCHEMA,
  steps: { 1: rigOneToTwo, 2: rigTwoToThree, 3: rigThreeToFour, 4: rigFourToFive },
  faults: rigFaults,
});
