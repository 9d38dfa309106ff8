import { perDocument } from "../model/per-document";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { listOf } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { Control } from "../model/tables/controls";
import type { Line } from "../model/tables/lines";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";
import { mixLevels } from "./mix-levels";
import { worstPeakDb } from "./sides";

const isSet = (channel: Channel): boolean =>
  channel.faderDb !== 0 || channel.trimDb !== 0 || (channel.kind === "track" && channel.liveApart);
const gains = (processor: Processor): boolean =>
  !processor.bypassed &&
  ((processor.kind === "gain" && processor.gainDb !== 0) ||
    (processor.kind === "compressor" && processor.makeUpDb !== 0) ||
    processor.kind === "split");

const anyFader = perDocument((channels: Template["channels"]) => listOf<Channel>(channels).some(isSet));
const anySend = perDocument((sends: Template["sends"]) =>
  listOf<Send>(sends).some(({ levelDb }) => levelDb !== null && levelDb > 0),
);
const anyControl = perDocument((controls: Template["controls"]) =>
  listOf<Control>(controls).some(({ faderDb }) => faderDb !== 0),
);
const anyGain = perDocument((lines: Template["lines"]) =>
  listOf<Line>(lines).some(({ gainDb, loudnessDb }) => gainDb !== null || loudnessDb !== null),
);
const anyProcessor = perDocument((processors: Template["processors"]) => listOf<Processor>(processors).some(gains));

/**
 * Whether anybody has set levels yet, by a fader, a trim, a send that is turned up, a control fader, a gain: with
 * everything where it began there is nothing to judge.
 */
export const isMixed = (doc: Pick<Template, "channels" | "lines" | "controls" | "processors" | "sends">): boolean =>
  anyFader(doc.channels) ||
  anyControl(doc.controls) ||
  anyGain(doc.lines) ||
  anyProcessor(doc.processors) ||
  anySend(doc.sends);

/**
 * By how many dB something that peaks there must be turned down so that it stays within full scale, in half decibels; 0
 * where it does.
 */
export const downBy = (peakDb: number | null): number =>
  peakDb === null || peakDb <= 0.005 ? 0 : Math.ceil(peakDb * 2) / 2;

/** By how many dB a cue must be turned down so that all of it at once and alike stays within full scale. */
export const cueDownBy = (
  doc: Template,
  { rig, studio, cueId }: { readonly rig: Rig; readonly studio: Studio; readonly cueId: string },
): number => {
  const sides = mixLevels(doc, { rig, studio }).cues.get(cueId as never);
  return sides ? downBy(worstPeakDb(sides)) : 0;
};
