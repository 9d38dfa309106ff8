import { type FixAll, fixAlike } from "./alike";
import { BAND_CHECKS } from "./bands";
import { CHAIN_CHECKS } from "./chains";
import { colourClash } from "./colour-clash";
import { colourNotHere } from "./colour-not-here";
import { connectorNotAccepted } from "./connector-not-accepted";
import { CUE_CHECKS } from "./cues";
import { documentNames } from "./document-names";
import type { Check, CheckContext, Finding } from "./finding";
import { gainOutOfRange } from "./gain-out-of-range";
import { HEARING_CHECKS } from "./hearing";
import { type Evaluation, Judgement } from "./judgement";
import { levelNotAccepted } from "./level-not-accepted";
import { LEVEL_CHECKS } from "./levels";
import { lineWithoutPort } from "./line-without-port";
import { LISTENER_CHECKS } from "./listeners";
import { microphoneOverused } from "./microphone-overused";
import { OUTPUT_CHECKS } from "./outputs-twice";
import { PAIR_CHECKS } from "./pairs";
import { PASS_CHECKS } from "./passes";
import { passesBus } from "./past-the-family";
import { phantomEndangers, phantomMissing } from "./phantom";
import { pictureRate } from "./picture-rate";
import { playerInTwoRooms } from "./player-in-two-rooms";
import { portNotOnRig } from "./port-not-on-rig";
import { PRINTED_CHECKS } from "./printed";
import { RECORDING_CHECKS } from "./recording";
import { rigMissing } from "./rig-missing";
import { ROUTING_CHECKS } from "./routing";
import { sharedLine, sharedPort } from "./shared-port";
import { stereoNotNeighbours } from "./stereo-not-neighbours";
import { TAIL_CHECKS } from "./tails";
import { trackNames } from "./track-names";
import { WOVEN_CHECKS } from "./woven";

export const CHECKS: readonly Check[] = [
  rigMissing,
  portNotOnRig,
  levelNotAccepted,
  connectorNotAccepted,
  microphoneOverused,
  playerInTwoRooms,
  gainOutOfRange,
  pictureRate,
  sharedPort,
  sharedLine,
  stereoNotNeighbours,
  phantomEndangers,
  phantomMissing,
  trackNames,
  documentNames,
  colourClash,
  colourNotHere,
  lineWithoutPort,
  ...ROUTING_CHECKS,
  ...CHAIN_CHECKS,
  ...WOVEN_CHECKS,
  ...HEARING_CHECKS,
  ...CUE_CHECKS,
  ...RECORDING_CHECKS,
  ...TAIL_CHECKS,
  ...LEVEL_CHECKS,
  passesBus,
  ...BAND_CHECKS,
  ...PAIR_CHECKS,
  ...PRINTED_CHECKS,
  ...PASS_CHECKS,
  ...LISTENER_CHECKS,
  ...OUTPUT_CHECKS,
];

/** Everything the checks have to say, with what was accepted apart, from nothing. */
export const evaluateAll = (context: CheckContext): Evaluation => new Judgement(CHECKS).of(context);

/** The same, kept from edit to edit: what an edit does not bear on is not worked out again. */
export const judging = (): ((context: CheckContext) => Evaluation) => {
  const judgement = new Judgement(CHECKS);
  return (context) => judgement.of(context);
};

/** What the checks have to say that nobody has accepted. */
export const evaluate = (context: CheckContext): readonly Finding[] => evaluateAll(context).open;

/** What one rule has to say that nobody has accepted, by the findings of it. */
const lookOf =
  (rule: string) =>
  (context: CheckContext): readonly Finding[] =>
    CHECKS.filter(({ id }) => id === rule || RULES_OF[id]?.includes(rule)).flatMap((check) =>
      check.check(context).filter((one) => one.rule === rule),
    );

/** Checks that tell of more than one rule, or of one by another name. */
const RULES_OF: Readonly<Record<string, readonly string[]>> = {
  "track-names": ["track-name"],
  "document-names": ["document-name"],
  "gain-misfits": ["too-strong"],
};

/** Puts all findings of a group that are alike right in one act. */
export const fixGroup = (context: CheckContext, { rule, members = [] }: Finding): FixAll =>
  fixAlike(lookOf(rule), context, members);
