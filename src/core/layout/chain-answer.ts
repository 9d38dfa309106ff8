import type { ChannelId } from "../model/ids";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf, inOrder } from "../model/table";
import type { Band } from "../model/tables/bands";
import type { Processor } from "../model/tables/chain-processors";
import type { KeptBand, KeptProcessor } from "../model/tables/chains";
import type { Template } from "../model/template";
import { type Point, responseCurve, sectionsOf } from "../processors/response";
import { chainShort } from "../queries/chain-text";
import { bandsOf, keptBandsOf, keptProcessorsOf, processorsOf, sideChainsOf } from "../queries/chains";
import { type Need, needsOf } from "../queries/installed";
import { chainDelay, delayContext } from "../timing/arrivals";
import { chainInWords, settingsInWords, stateInWords, steeredInWords } from "./chain-words";

/** So many points of a response are answered: enough to draw it. */
const POINTS = 61;

export interface ToldProcessor {
  readonly processor: Processor;
  readonly bands: readonly Band[];
  readonly words: string;
  readonly steeredBy: readonly {
    readonly channelId: ChannelId;
    readonly lowHz: number | null;
    readonly highHz: number | null;
  }[];
  /** Of what filters: x in Hz, y in dB. */
  readonly response: readonly Point[] | null;
}

export interface ToldChain {
  readonly channelId: ChannelId;
  readonly name: string;
  readonly delaySamples: number;
  readonly words: readonly string[];
  readonly processors: readonly ToldProcessor[];
  readonly needs: readonly Pick<Need, "name" | "version" | "state" | "has" | "from">[];
}

const rounded = ({ x, y }: Point): Point => ({ x: Math.round(x * 10) / 10, y: Math.round(y * 1000) / 1000 });

/**
 * The chain of a channel in data and in words; null when the channel is not there. What it needs is told against the
 * rig, where there is one.
 */
export const chainAnswer = (doc: Template, rig: Rig | null, id: string): ToldChain | null => {
  const channel = Object.hasOwn(doc.channels, id) ? doc.channels[id as ChannelId] : undefined;
  if (!channel) return null;
  const processors = processorsOf(doc, channel.id);
  const rateHz = doc.format.sampleRateHz;
  return {
    channelId: channel.id,
    name: channel.name,
    delaySamples: chainDelay(doc, channel.id, delayContext(doc, rig ?? undefined)),
    words: chainInWords(doc, channel.id).map(({ title, detail }) => (detail ? `${title}: ${detail}` : title)),
    processors: processors.map((processor) => {
      const bands = bandsOf(doc, processor.id);
      const sections = sectionsOf(processor, bands, rateHz);
      return {
        processor,
        bands,
        words: [settingsInWords(processor, bands), ...stateInWords(processor), steeredInWords(doc, processor)]
          .filter(Boolean)
          .join(", "),
        steeredBy: sideChainsOf(doc, processor.id).map(({ fromId, lowHz, highHz }) => ({
          channelId: fromId,
          lowHz,
          highHz,
        })),
        response:
          sections && responseCurve(sections, rateHz, { count: POINTS, wetPercent: processor.wetPercent }).map(rounded),
      };
    }),
    needs: rig
      ? needsOf(processors, rig).map(({ name, version, state, has, from }) => ({ name, version, state, has, from }))
      : [],
  };
};

export interface KeptChainTold {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly short: string;
  readonly processors: readonly { readonly processor: KeptProcessor; readonly bands: readonly KeptBand[] }[];
}

/** The chains that a studio keeps. */
export const keptChainsAnswer = (studio: Studio): readonly KeptChainTold[] =>
  inOrder(studio.chains).map(({ id, name, note }) => {
    const processors = keptProcessorsOf(studio, id);
    return {
      id,
      name,
      note,
      short: chainShort(processors),
      processors: processors.map((processor) => ({ processor, bands: keptBandsOf(studio, processor.id) })),
    };
  });

/** Which channels of a template have a chain, short. */
export const chainsOfTemplate = (
  doc: Template,
): readonly { readonly channelId: ChannelId; readonly name: string; readonly chain: string }[] =>
  entriesOf(doc.channels).flatMap(({ id, name }) => {
    const processors = processorsOf(doc, id);
    return processors.length ? [{ channelId: id, name, chain: chainShort(processors) }] : [];
  });
