import type { ChainProcessorId, ChannelId } from "../model/ids";
import { isParked } from "../model/read-template";
import { listOf } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { worksWhen } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import type { MixLevels } from "./mix-levels";
import { likelyPeakDb } from "./sides";
import { chainGain } from "./static-gain";

/**
 * A place where sound leaves the computer's own reckoning, in which nothing clips: an output, a hardware insert, a take
 * in whole numbers.
 */
export interface Leaving {
  readonly channelId: ChannelId;
  readonly by: "output" | "insert" | "take";
  /** Of an insert. */
  readonly processorId: ChainProcessorId | null;
  /** Where its peaks will likely stand there, in dBFS. */
  readonly peakDb: number;
  /** The channel that is turned down where that is too loud: the one that leaves, or the bus that is recorded. */
  readonly trimId: ChannelId;
}

const takes = (doc: Template, channel: Channel): boolean =>
  doc.format.bitDepth !== 32 &&
  channel.kind === "track" &&
  (channel.input.kind === "bus" || (channel.recordPoint === "after" && channel.input.kind !== "none"));

/**
 * Where each channel leaves the mix and how loud it likely peaks there. Inner buses are left out: a mix in floating
 * point does not clip. Linear in channels and processors.
 */
export const leavings = (doc: Template, { channels, asked }: MixLevels): readonly Leaving[] =>
  listOf<Channel>(doc.channels).flatMap((channel): readonly Leaving[] => {
    const at = channels.get(channel.id);
    if (!at || isParked(channel)) return [];
    const leaves = (by: Leaving["by"], peakDb: number | null, more: Partial<Leaving> = {}): readonly Leaving[] =>
      peakDb === null ? [] : [{ channelId: channel.id, by, processorId: null, peakDb, trimId: channel.id, ...more }];
    const chain = processorsOf(doc, channel.id);
    const inserts = chain.flatMap((one, index) => {
      if (one.kind !== "insert" || !worksWhen(doc, one, asked)) return [];
      const gain = Math.abs(chainGain(chain.slice(0, index), (before: Processor) => worksWhen(doc, before, asked)));
      const into = likelyPeakDb(at.into);
      return gain < 1e-9 || into === null
        ? []
        : leaves("insert", into + channel.trimDb + 20 * Math.log10(gain), { processorId: one.id });
    });
    const recorded =
      channel.kind === "track" && channel.input.kind === "bus" && channel.recordPoint === "before"
        ? channel.input.busId
        : channel.id;
    return [
      ...(channel.output.kind === "hardware" ? leaves("output", likelyPeakDb(at.after)) : []),
      ...inserts,
      ...(asked === "recording" && takes(doc, channel)
        ? leaves(
            "take",
            likelyPeakDb(channel.kind === "track" && channel.recordPoint === "after" ? at.before : at.into),
            { trimId: recorded },
          )
        : []),
    ];
  });
