import { TEMPLATE_SCHEMA, type Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { migrationOf } from "./migrate";
import { twoToThree } from "./template-2-to-3";
import { threeToFour } from "./template-3-to-4";
import { fourToSix } from "./template-4-to-6";
import { sixToSeven } from "./template-6-to-7";
import { sevenToEight } from "./template-7-to-8";
import { eightToNine } from "./template-8-to-9";

export const migrateTemplate = migrationOf<Template>({
  what: "template",
  newest: TEMPLATE_SCHEMA,
  steps: { 2: twoToThree, 3: threeToFour, 4: fourToSix, 6: sixToSeven, 7: sevenToEight, 8: eightToNine },
  faults: templateFaults,
});
