import { type Command, type Refusal, refuse } from "../../commands/command";
import { fieldWords } from "../../commands/naming";
import type { BandId, ChainProcessorId, ChannelId, SideChainId } from "../../model/ids";
import { BANDS } from "../../model/tables/bands";
import { CHAIN_PROCESSORS, type Processor } from "../../model/tables/chain-processors";
import { DYNAMICS, PROCESSOR_KINDS } from "../../model/tables/processor-settings";
import type { Template } from "../../model/template";
import { countProcessors, processorName } from "../../queries/chains";
import { counted } from "../../units/counted";
import { countChannels } from "./channel-edits";
import { type EditOf, type Planners, toAll } from "./edit";
import { firstOf, goneFrom, tooMany } from "./refusals";

const missingProcessors = (doc: Template, ids: readonly ChainProcessorId[]): Refusal | null =>
  ids.length ? goneFrom(doc.processors, ids, "processor") : refuse("empty", "", "No processor was named. Choose one first.");
const missingBands = (doc: Template, ids: readonly BandId[]): Refusal | null => (ids.length ? goneFrom(doc.bands, ids, "band") : refuse("empty", "", "No band was named."));
const missingSides = (doc: Template, ids: readonly SideChainId[]): Refusal | null =>
  ids.length ? goneFrom(doc.sideChains, ids, "side-chain") : refuse("empty", "", "No side-chain was named.");

/** A setting that one of the processors does not have. */
const foreign = (doc: Template, { processorIds, set }: EditOf<"processors.set">): Refusal | null => {
  for (const id of processorIds) {
    const processor = doc.processors[id];
    const unknown = processor && Object.keys(set).find((field) => !(field in CHAIN_PROCESSORS.fields) && !(field in PROCESSOR_KINDS[processor.kind]));
    if (unknown) return refuse("unfit", id, `${processorName(processor)} has no ${unknown}.`);
  }
  return null;
};

const ownersOf = (doc: Template, ids: readonly ChainProcessorId[]): readonly ChannelId[] => [...new Set(ids.flatMap((id) => doc.processors[id]?.channelId ?? []))];

const setName = (doc: Template, { processorIds, set }: EditOf<"processors.set">): string => {
  const who = countProcessors(doc, processorIds);
  if (set.bypassed !== undefined) return `${set.bypassed ? "Bypass" : "Take in"} ${who}`;
  if (set.name !== undefined) return set.name ? `Call ${who} ${set.name}` : `Take the name off ${who}`;
  const [first] = processorIds.flatMap((id) => doc.processors[id] ?? []);
  const fields = { ...CHAIN_PROCESSORS.fields, ...(first ? PROCESSOR_KINDS[first.kind] : {}) };
  return `Set ${fieldWords(fields, Object.keys(set))} of ${who}`;
};

/** Those that lie in splits which are moved to another chain go with them. */
const withMembers = (doc: Template, ids: readonly ChainProcessorId[]): readonly ChainProcessorId[] => {
  const splits = new Set<string>(ids.filter((id) => doc.processors[id]?.kind === "split"));
  if (!splits.size) return ids;
  const moved = new Set<string>(ids);
  const members = (Object.values(doc.processors) as readonly Processor[]).flatMap(({ id, splitId }) => (splitId && splits.has(splitId) && !moved.has(id) ? [id] : []));
  return [...ids, ...members];
};

export const processorEdits: Planners<"processors"> = {
  "processors.add": {
    plan: (doc, { processors, bands, before }) =>
      firstOf(
        () => (processors.length ? null : refuse("empty", "", "Nothing to add: choose a kind of processor.")),
        () =>
          goneFrom(
            doc.channels,
            processors.map(({ channelId }) => channelId),
            "channel",
          ),
        () => tooMany(doc, { processors, bands }),
      ) ?? [
        { kind: "add", table: "processors", entries: processors as never, ...(before ? { before } : {}) },
        ...(bands.length ? [{ kind: "add", table: "bands", entries: bands } as const] : []),
      ],
    name: (doc, { processors }) => {
      const owners = [...new Set(processors.map(({ channelId }) => channelId))];
      const kinds = new Set(processors.map(processorName));
      const [only] = kinds;
      return `Put ${kinds.size === 1 && only ? (processors.length === 1 ? only.toLowerCase() : `${only.toLowerCase()}s`) : counted(processors.length, "processor")} on ${countChannels(doc, owners)}`;
    },
  },
  "processors.set": {
    plan: (doc, edit) =>
      firstOf(
        () => missingProcessors(doc, edit.processorIds),
        () => foreign(doc, edit),
      ) ?? [{ kind: "set", table: "processors", values: toAll(edit.processorIds, edit.set) }],
    name: setName,
  },
  "processors.move": {
    plan: (doc, { processorIds, channelId, before }) =>
      firstOf(
        () => missingProcessors(doc, processorIds),
        () => goneFrom(doc.channels, [channelId], "channel"),
      ) ?? [{ kind: "move", table: "processors", ids: withMembers(doc, processorIds), parent: channelId, before }],
    name: (doc, { processorIds, channelId }) => {
      const [owner, ...others] = ownersOf(doc, processorIds);
      const who = countProcessors(doc, processorIds);
      return owner === channelId && !others.length ? `Move ${who} in the chain` : `Move ${who} to ${countChannels(doc, [channelId])}`;
    },
  },
  "processors.remove": {
    plan: (doc, { processorIds }) => missingProcessors(doc, processorIds) ?? [{ kind: "remove", table: "processors", ids: processorIds }],
    name: (doc, { processorIds }) => `Take ${countProcessors(doc, processorIds)} off ${countChannels(doc, ownersOf(doc, processorIds))}`,
  },
};

export const bandEdits: Planners<"bands"> = {
  "bands.add": {
    plan: (doc, { bands }) =>
      firstOf(
        () => (bands.length ? null : refuse("empty", "", "There is no band to add.")),
        () =>
          missingProcessors(
            doc,
            bands.map(({ processorId }) => processorId),
          ),
        () => tooMany(doc, { bands }),
      ) ?? [{ kind: "add", table: "bands", entries: bands }],
    name: (_doc, { bands }) => (bands.length === 1 ? "Add a band" : `Add ${bands.length} bands`),
  },
  "bands.set": {
    plan: (doc, { bandIds, set }) => missingBands(doc, bandIds) ?? [{ kind: "set", table: "bands", values: toAll(bandIds, set) }],
    name: (_doc, { bandIds, set }) => `Set ${fieldWords(BANDS.fields, Object.keys(set))} of ${bandIds.length === 1 ? "a band" : `${bandIds.length} bands`}`,
  },
  "bands.remove": {
    plan: (doc, { bandIds }) => missingBands(doc, bandIds) ?? [{ kind: "remove", table: "bands", ids: bandIds }],
    name: (_doc, { bandIds }) => `Remove ${bandIds.length === 1 ? "a band" : `${bandIds.length} bands`}`,
  },
};

/** Why a channel can't steer a processor, but for loops, which the document itself refuses. */
const unsteerable = (doc: Template, { sideChains }: EditOf<"sideChains.add">): Refusal | null =>
  firstOf(
    () => (sideChains.length ? null : refuse("empty", "", "Choose what steers it.")),
    () =>
      goneFrom(
        doc.channels,
        sideChains.map(({ fromId }) => fromId),
        "channel",
      ),
    () =>
      goneFrom(
        doc.processors,
        sideChains.map(({ processorId }) => processorId),
        "processor",
      ),
    () => tooMany(doc, { sideChains }),
    () => {
      const main = sideChains.find(({ fromId }) => doc.channels[fromId]?.kind === "main");
      return main ? refuse("unfit", main.fromId, "The main bus is last: it can steer nothing that comes before it.") : null;
    },
    () => {
      const wrong = sideChains.find(({ processorId }) => !DYNAMICS.some((kind) => kind === doc.processors[processorId]?.kind));
      const processor = wrong && doc.processors[wrong.processorId];
      return processor ? refuse("unfit", processor.id, `${processorName(processor)} can't be steered. A gate, a compressor, a de-esser or a limiter can.`) : null;
    },
    () => {
      const own = sideChains.find(({ fromId, processorId }) => doc.processors[processorId]?.channelId === fromId);
      return own ? refuse("unfit", own.fromId, `${countChannels(doc, [own.fromId])} hears itself in its own processor already; choose another channel.`) : null;
    },
  );

export const sideChainEdits: Planners<"sideChains"> = {
  "sideChains.add": {
    plan: (doc, edit) => {
      const refusal = unsteerable(doc, edit);
      if (refusal) return refusal;
      const there = new Set(Object.values(doc.sideChains).map(({ fromId, processorId }) => `${fromId} ${processorId}`));
      const fresh = edit.sideChains.filter(({ fromId, processorId }) => !there.has(`${fromId} ${processorId}`));
      const deaf = [...new Set(fresh.map(({ processorId }) => processorId))];
      // What is steered listens to what steers it.
      return fresh.length
        ? [
            { kind: "add", table: "sideChains", entries: fresh },
            { kind: "set", table: "processors", values: toAll(deaf, { listens: "others" }) },
          ]
        : [];
    },
    name: (doc, { sideChains }) =>
      `Steer ${countChannels(
        doc,
        ownersOf(
          doc,
          sideChains.map(({ processorId }) => processorId),
        ),
      )} by ${countChannels(doc, [...new Set(sideChains.map(({ fromId }) => fromId))])}`,
  },
  "sideChains.set": {
    plan: (doc, { sideChainIds, set }) => missingSides(doc, sideChainIds) ?? [{ kind: "set", table: "sideChains", values: toAll(sideChainIds, set) }],
    name: () => "Set the band that the detector hears",
  },
  "sideChains.remove": {
    plan: (doc, { sideChainIds }): readonly Command[] | Refusal => missingSides(doc, sideChainIds) ?? [{ kind: "remove", table: "sideChains", ids: sideChainIds }],
    name: (_doc, { sideChainIds }) => `Take off ${sideChainIds.length === 1 ? "a side-chain" : `${sideChainIds.length} side-chains`}`,
  },
};
