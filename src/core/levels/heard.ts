import type { Processor } from "../model/tables/chain-processors";
import type { Template } from "../model/template";
import { worksWhen } from "../queries/at-work";
import { processorsOf, sideChainsOf } from "../queries/chains";
import type { MixLevels } from "./mix-levels";
import { louderSide } from "./sides";
import { chainGain } from "./static-gain";

/**
 * How loud it usually is where a processor listens, in dBFS RMS: what its channel brings, through the trim and what
 * stands before it in the chain; of one that is steered the loudest of what steers it. Null where nothing comes there.
 */
export const heardDb = (doc: Template, { channels, asked }: MixLevels, processor: Processor): number | null => {
  const sides = "listens" in processor && processor.listens === "others" ? sideChainsOf(doc, processor.id) : [];
  if (sides.length) {
    const levels = sides.flatMap(({ fromId }) => {
      const at = channels.get(fromId);
      return (at && louderSide(at.after, ({ unlikeDb }) => unlikeDb)) ?? [];
    });
    return levels.length ? Math.max(...levels) : null;
  }
  const [channel, at] = [doc.channels[processor.channelId], channels.get(processor.channelId)];
  const into = at ? louderSide(at.into, ({ unlikeDb }) => unlikeDb) : null;
  if (!channel || into === null) return null;
  const chain = processorsOf(doc, processor.channelId);
  const before = chain.slice(
    0,
    Math.max(
      0,
      chain.findIndex(({ id }) => id === processor.id),
    ),
  );
  const gain = Math.abs(chainGain(before, (one) => worksWhen(doc, one, asked)));
  return gain > 1e-9 ? into + channel.trimDb + 20 * Math.log10(gain) : null;
};
