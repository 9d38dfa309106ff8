import { TEMPLATE_SCHEMA, type Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { migrationOf } from "./migrate";
import { oneToTwo } from "./template-1-to-2";
import { twoToThree } from "./template-2-to-3";
import { threeToFour } from "./template-3-to-4";
import { fourToFive } from "./template-4-to-5";
import { fiveToSix } from "./template-5-to-6";
import { sixToSeven } from "./template-6-to-7";
import { sevenToEight } from "./template-7-to-8";

export const migrateTemplate = migrationOf<Template>({
  what: "template",
  newest: TEMPLATE_SCHEMA,
  steps: { 1: oneToTwo, 2: twoToThree, 3: threeToFour, 4: fourToFive, 5: fiveToSix, 6: sixToSeven, 7: sevenToEight },
  faults: templateFaults,
});
