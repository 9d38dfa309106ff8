import type { Check, CheckContext, Finding } from "./finding";
import { levelNotAccepted } from "./level-not-accepted";
import { lineWithoutPort } from "./line-without-port";
import { phantomEndangers, phantomMissing } from "./phantom";
import { portNotOnRig } from "./port-not-on-rig";
import { sharedLine, sharedPort } from "./shared-port";
import { stereoNotNeighbours } from "./stereo-not-neighbours";
import { trackNames } from "./track-names";

export const CHECKS: readonly Check[] = [
  portNotOnRig,
  levelNotAccepted,
  sharedPort,
  sharedLine,
  stereoNotNeighbours,
  phantomEndangers,
  phantomMissing,
  trackNames,
  lineWithoutPort,
];

/** Everything the checks have to say, problems before hints, in the order of the rules. */
export const evaluate = (context: CheckContext): readonly Finding[] => {
  const all = CHECKS.flatMap((rule) => rule.check(context));
  return [...all.filter((finding) => finding.severity === "problem"), ...all.filter((finding) => finding.severity === "hint")];
};
