import { STUDIO_SCHEMA, type Studio } from "../model/studio";
import { studioFaults } from "../model/studio-schema";
import { migrationOf } from "./migrate";
import { firstStudioToSecond } from "./studio-1-to-2";
import { secondStudioToThird } from "./studio-2-to-3";
import { thirdStudioToFourth } from "./studio-3-to-4";
import { fourthStudioToFifth } from "./studio-4-to-5";
import { fifthStudioToSixth } from "./studio-5-to-6";

export const migrateStudio = migrationOf<Studio>({
  what: "studio",
  newest: STUDIO_SCHEMA,
  steps: {
    1: firstStudioToSecond,
    2: secondStudioToThird,
    3: thirdStudioToFourth,
    4: fourthStudioToFifth,
    5: fifthStudioToSixth,
  },
  faults: studioFaults,
});
