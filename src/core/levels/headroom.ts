import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { mixLevels } from "./mix-levels";
import { worstPeakDb } from "./sides";

/** Whether anybody has set levels yet: with every fader where it began there is nothing to judge. */
export const isMixed = (doc: Pick<Template, "channels" | "lines">): boolean =>
  entriesOf<Channel>(doc.channels).some(({ faderDb }) => faderDb !== 0) || entriesOf<Line>(doc.lines).some(({ gainDb, loudnessDb }) => gainDb !== null || loudnessDb !== null);

/** By how many dB something that peaks there must be turned down so that it stays within full scale, in half decibels; 0 where it does. */
export const downBy = (peakDb: number | null): number => (peakDb === null || peakDb <= 0.005 ? 0 : Math.ceil(peakDb * 2) / 2);

/** By how many dB a cue must be turned down so that all of it at once and alike stays within full scale. */
export const cueDownBy = (doc: Template, { rig, studio, cueId }: { readonly rig: Rig; readonly studio: Studio; readonly cueId: string }): number => {
  const sides = mixLevels(doc, { rig, studio }).cues.get(cueId as never);
  return sides ? downBy(worstPeakDb(sides)) : 0;
};
