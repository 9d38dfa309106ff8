import type { ChannelId } from "../model/ids";
import { perDocument } from "../model/per-document";
import { isParked } from "../model/read-template";
import { entriesOf, listOf, putInto } from "../model/table";
import type { Processor, ProcessorOf } from "../model/tables/chain-processors";
import type { Bus, Channel } from "../model/tables/channels";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";
import { processorsOf } from "./chains";

type Filter = ProcessorOf<"filter">;

/** One band of a source that was parted: a bus that it feeds, with the filters of its chain. */
export interface SplitBand {
  readonly bus: Bus;
  readonly filters: readonly Filter[];
}

/** Bands of one source, which add up again. */
export interface SplitBands {
  readonly sourceId: ChannelId;
  readonly bands: readonly SplitBand[];
}

const filtersOf = (doc: Template, id: ChannelId): readonly Filter[] =>
  processorsOf(doc, id).filter(
    (one): one is Filter =>
      one.kind === "filter" && !one.bypassed && one.splitId === null && (one.crossover || one.pass === "all-pass"),
  );

const hasCrossover = perDocument((processors: Template["processors"]): ReadonlySet<ChannelId> => {
  const found = new Set<ChannelId>();
  for (const one of entriesOf<Processor>(processors))
    if (one.kind === "filter" && one.crossover && !one.bypassed) found.add(one.channelId);
  return found;
});

/** Buses with a crossover by what feeds each: outputs, and sends that are on. */
const bandsBySource = (doc: Template): ReadonlyMap<ChannelId, readonly Bus[]> => {
  const crossing = hasCrossover(doc.processors);
  const found = new Map<ChannelId, Bus[]>();
  const lay = (from: ChannelId, to: ChannelId): void => {
    const bus = crossing.has(to) ? doc.channels[to] : undefined;
    if (bus?.kind === "bus" && !isParked(bus) && !found.get(from)?.includes(bus)) putInto(found, from, bus);
  };
  if (!crossing.size) return found;
  for (const { id, output } of listOf<Channel>(doc.channels)) if (output.kind === "channel") lay(id, output.channelId);
  for (const { fromId, toId, on, levelDb } of listOf<Send>(doc.sends)) if (on && levelDb !== null) lay(fromId, toId);
  return found;
};

/**
 * Every source that is parted in bands: it feeds two buses or more that have crossovers, one of which lets the lows
 * through and one the highs.
 */
export const splitBandsOf = (doc: Template): readonly SplitBands[] =>
  [...bandsBySource(doc)].flatMap(([sourceId, buses]): readonly SplitBands[] => {
    const bands = buses.map((bus) => ({ bus, filters: filtersOf(doc, bus.id) }));
    const only = (pass: Filter["pass"]): boolean =>
      bands.some(
        ({ filters }) =>
          filters.some((one) => one.pass === pass) &&
          filters.every((one) => one.pass === pass || one.pass === "all-pass"),
      );
    return bands.length > 1 && only("low-pass") && only("high-pass") ? [{ sourceId, bands }] : [];
  });

/** The bands that a bus is one of. */
export const bandsBeside = (doc: Template, busId: ChannelId): SplitBands | null =>
  splitBandsOf(doc).find(({ bands }) => bands.some(({ bus }) => bus.id === busId)) ?? null;
