import {
  type DelayAsked,
  delayAnswer,
  type LevelsAsked,
  levelsAnswer,
  lowLatencyAnswer,
  type StorageAsked,
  storageAnswer,
} from "@/core/layout/delay-answer";
import { flowAnswer, pathsAnswer } from "@/core/layout/flow-answer";
import { contextIn, readStored, type Seen } from "./kinds";

/** The routing of a template as JSON. */
export const flowOf = (seen: Seen): string => {
  const { doc, rig } = contextIn(seen);
  return JSON.stringify(flowAnswer(doc, rig));
};

const heardIn = (seen: Seen) => {
  const { doc, rig, rigMissing = false } = contextIn(seen);
  return { doc, rig, rigMissing, studio: readStored("studio", seen.studio) };
};

/** What each of these says, with whether the rig that the template names is not here. */
const heard = (seen: Seen, answer: (of: ReturnType<typeof heardIn>) => object): string => {
  const of = heardIn(seen);
  return JSON.stringify({ rigMissing: of.rigMissing, ...answer(of) });
};

export const delayOf = (asked: Seen & DelayAsked): string => heard(asked, (of) => delayAnswer(of, asked));
export const lowLatencyOf = (seen: Seen): string => heard(seen, lowLatencyAnswer);
export const levelsOf = (seen: Seen & LevelsAsked): string => heard(seen, (of) => levelsAnswer(of, seen));
export const storageTold = ({ template, ...asked }: { readonly template: string } & StorageAsked): string =>
  JSON.stringify(storageAnswer({ doc: readStored("template", template) }, asked));

export interface PathsAsked extends Seen {
  readonly from: string;
  readonly to: string;
}

/** The ways from one channel to another as JSON; null when one of the two is not there. */
export const pathsOf = ({ from, to, ...seen }: PathsAsked): string | null => {
  const { doc, rig } = contextIn(seen);
  const paths = pathsAnswer(doc, { from, to, rig });
  return paths && JSON.stringify(paths);
};
