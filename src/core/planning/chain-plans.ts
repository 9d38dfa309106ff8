import { plain } from "../model/families";
import type { BandId, ChainId, ChainProcessorId, ChannelId, IdSource, SendId } from "../model/ids";
import { isSum } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf, inOrder } from "../model/table";
import { type Band, newBand } from "../model/tables/bands";
import { type NewProcessor, newProcessor, type Processor } from "../model/tables/chain-processors";
import { type Chain, newChain } from "../model/tables/chains";
import type { Channel } from "../model/tables/channels";
import { KIND_WORDS, processorName } from "../model/tables/processor-names";
import { PROCESSOR_KIND_NAMES, type ProcessorKind } from "../model/tables/processor-settings";
import { newSideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";
import { bandsOf, keptBandsOf, keptProcessorsOf, processorsOf, sideChainsOf } from "../queries/chains";
import { sumNamed } from "../queries/outputs";
import { counted } from "../units/counted";
import { dB } from "../units/decibels";
import { countChannels } from "./edits/channel-edits";
import type { Edit, NewBand } from "./edits/edit";
import type { StudioEdit } from "./edits/studio-editing";
import { type Planned, planned, unplanned } from "./gesture";
import { commonOutput } from "./route";

interface Cloned<P, B> {
  readonly processors: readonly P[];
  readonly bands: readonly B[];
}

type Loose = Readonly<Record<string, unknown>>;
type OldProcessor = Loose & { readonly id: string; readonly splitId: string | null };

/**
 * Copies of a chain with ids of their own, in their order, for another owner: what refers to one another among them
 * refers to the copies.
 */
const cloned = <P, B>(
  processors: readonly OldProcessor[],
  bandsOfOne: (id: ChainProcessorId) => readonly (Loose & { readonly id: string })[],
  { owner, ids }: { readonly owner: Loose; readonly ids: IdSource },
): Cloned<P, B> & { readonly copyOf: ReadonlyMap<string, ChainProcessorId> } => {
  const copyOf = new Map(processors.map(({ id }) => [id, ids<ChainProcessorId>("processor")]));
  const copies = processors.map(({ order: _order, channelId: _channel, chainId: _chain, ...kept }) => ({
    ...kept,
    ...owner,
    id: copyOf.get(kept.id as string) as ChainProcessorId,
    splitId: kept.splitId === null ? null : (copyOf.get(kept.splitId as string) ?? null),
  }));
  const bands = processors.flatMap(({ id }) =>
    bandsOfOne(id as ChainProcessorId).map(({ order: _order, ...band }) => ({
      ...band,
      id: ids<BandId>("band"),
      processorId: copyOf.get(id) as ChainProcessorId,
    })),
  );
  return { processors: copies as unknown as readonly P[], bands: bands as unknown as readonly B[], copyOf };
};

interface Put {
  readonly kind: ProcessorKind;
  readonly channelIds: readonly ChannelId[];
  /** Before which one of the chain, where there is one channel. */
  readonly before?: ChainProcessorId | null;
  /** Into a branch of a split of that channel. */
  readonly within?: Pick<Processor, "splitId" | "branch">;
  /** What it begins with beside what its kind begins with. */
  readonly set?: Readonly<Record<string, unknown>>;
  readonly ids: IdSource;
}

/** A processor as it is chosen: a filter by what passes. */
export interface ProcessorChoice {
  readonly id: string;
  readonly label: string;
  readonly kind: ProcessorKind;
  readonly set?: Readonly<Record<string, unknown>>;
}

const choicesOf = (kind: ProcessorKind): readonly ProcessorChoice[] =>
  kind === "filter"
    ? [
        { id: "high-pass", label: "High-pass", kind, set: { pass: "high-pass" } },
        { id: "low-pass", label: "Low-pass", kind, set: { pass: "low-pass", frequencyHz: 12_000 } },
      ]
    : [{ id: kind, label: KIND_WORDS[kind], kind }];

/** What each kind begins with beyond its settings. */
const beginning = (kind: ProcessorKind, processorId: ChainProcessorId, ids: IdSource): readonly NewBand[] =>
  kind === "equaliser" ? [newBand({ id: ids<BandId>("band"), processorId, frequencyHz: 1000, q: 1 })] : [];

/** Puts a processor on channels, each with its own settings. */
export const putProcessor = (doc: Template, { kind, channelIds, before = null, within, set, ids }: Put): Planned => {
  if (!channelIds.length) return unplanned("Select one or more channels first.");
  const processors = channelIds.map(
    (channelId) =>
      newProcessor(kind, {
        id: ids<ChainProcessorId>("processor"),
        channelId,
        ...within,
        ...set,
      } as never) as unknown as NewProcessor,
  );
  const bands = processors.flatMap(({ id }) => beginning(kind, id, ids));
  return planned(
    [{ kind: "entries.add", entries: { processors, bands }, before: channelIds.length === 1 ? before : null }],
    `Put ${article(processors[0] ? processorName(processors[0]) : KIND_WORDS[kind])} on ${countChannels(doc, channelIds)}`,
  );
};

/** What can stand in the chains of all of these: note processors work in instruments only. */
export const kindsForAll = (doc: Template, channelIds: readonly ChannelId[]): readonly ProcessorKind[] =>
  PROCESSOR_KIND_NAMES.filter(
    (kind) => kind !== "notes" || channelIds.every((id) => doc.channels[id]?.kind === "instrument"),
  );

/** Every processor that can be put on all of these, as it is chosen. */
export const processorChoices = (doc: Template, channelIds: readonly ChannelId[]): readonly ProcessorChoice[] =>
  kindsForAll(doc, channelIds).flatMap(choicesOf);

/** The choice of that name; null where there is none. */
export const processorChoice = (id: string): ProcessorChoice | null =>
  PROCESSOR_KIND_NAMES.flatMap(choicesOf).find((choice) => choice.id === id) ?? null;

const article = (word: string): string => `${/^[aeiou]/i.test(word) ? "an" : "a"} ${word.toLowerCase()}`;

/** Effects that serve many: on a return of their own, fully wet, and fed by sends. */
export const EFFECTS: readonly ProcessorKind[] = ["reverb", "delay"];

/** An effect for channels in one act: a return that holds it, and a send from each. */
export const putEffect = (doc: Template, { kind, channelIds, ids }: Omit<Put, "before">): Planned => {
  const fromIds = channelIds.filter((id) => doc.channels[id]?.kind !== "main");
  if (!fromIds.length) return unplanned("Select the channels that should be sent to it first.");
  const called = (number: number) => (number === 1 ? KIND_WORDS[kind] : `${KIND_WORDS[kind]} ${number}`);
  let number = 1;
  while (sumNamed(doc, called(number))) number++;
  const name = called(number);
  const returnId = ids<ChannelId>("return");
  const processor = newProcessor(kind, {
    id: ids<ChainProcessorId>("processor"),
    channelId: returnId,
  } as never) as unknown as NewProcessor;
  return planned(
    [
      {
        kind: "channels.add",
        channels: [{ kind: "return", id: returnId, name, colour: "logwood", output: commonOutput(doc, fromIds) }],
        feedIds: [],
      },
      { kind: "entries.add", entries: { processors: [processor] } },
      {
        kind: "sends.add",
        sends: fromIds.map((fromId) => ({ id: ids<SendId>("send"), fromId, toId: returnId, levelDb: dB(-12) })),
      },
    ],
    `Put ${article(KIND_WORDS[kind])} on a return for ${countChannels(doc, fromIds)}`,
  );
};

/** Puts out what is in the chains of channels. */
const emptied = (doc: Template, channelIds: readonly ChannelId[]): readonly Edit[] => {
  const processorIds = channelIds.flatMap((id) => processorsOf(doc, id).map((processor) => processor.id));
  return processorIds.length ? [{ kind: "entries.remove", table: "processors", ids: processorIds }] : [];
};

/** How many of these channels have a chain that would be replaced, in words; null when none has. */
export const replacedInWords = (doc: Template, channelIds: readonly ChannelId[]): string | null => {
  const held = channelIds.filter((id) => processorsOf(doc, id).length);
  return held.length ? `The chain of ${countChannels(doc, held)} is replaced.` : null;
};

interface Copied {
  readonly fromId: ChannelId;
  readonly toIds: readonly ChannelId[];
  /** Behind what is there, which stays. */
  readonly behind?: boolean;
  readonly ids: IdSource;
}

/** Edits that put copies of a channel's chain on others, with what steers it, but for what would steer itself. */
const copiesTo = (doc: Template, { fromId, toIds, ids }: Copied): readonly Edit[] => {
  const chain = processorsOf(doc, fromId);
  if (!chain.length) return [];
  const copies = toIds.map((channelId) => ({
    channelId,
    ...cloned<NewProcessor, NewBand>(chain as never, (id) => bandsOf(doc, id) as never, { owner: { channelId }, ids }),
  }));
  const sideChains = copies.flatMap(({ channelId, copyOf }) =>
    chain.flatMap(({ id }) =>
      sideChainsOf(doc, id).flatMap((side) =>
        side.fromId === channelId
          ? []
          : [newSideChain({ ...side, id: ids("side-chain"), processorId: copyOf.get(id) as ChainProcessorId })],
      ),
    ),
  );
  return [
    {
      kind: "entries.add",
      entries: {
        processors: copies.flatMap(({ processors }) => processors),
        bands: copies.flatMap(({ bands }) => bands),
      },
    },
    ...(sideChains.length ? [{ kind: "sideChains.add", sideChains } as const] : []),
  ];
};

/** Copies the chain of a channel to others in place of theirs or behind them, with what steers it. */
export const copyChain = (doc: Template, { fromId, toIds, behind = false, ids }: Copied): Planned => {
  const others = toIds.filter((id) => id !== fromId);
  if (!processorsOf(doc, fromId).length) return unplanned(`${countChannels(doc, [fromId])} has no chain to copy.`);
  if (!others.length) return unplanned("Choose where it should be copied to.");
  return planned(
    [...(behind ? [] : emptied(doc, others)), ...copiesTo(doc, { fromId, toIds: others, ids })],
    `${behind ? "Add" : "Copy"} the chain of ${countChannels(doc, [fromId])} to ${countChannels(doc, others)}`,
  );
};

/** Chains that the studio keeps, in their order. */
export const keptChains = (studio: Studio): readonly Chain[] => inOrder(studio.chains);

/** Puts a kept chain on channels in place of what is there, in one act. */
export const putChain = (
  doc: Template,
  studio: Studio,
  {
    chainId,
    channelIds,
    ids,
  }: { readonly chainId: ChainId; readonly channelIds: readonly ChannelId[]; readonly ids: IdSource },
): Planned => {
  const chain = studio.chains[chainId];
  if (!chain) return unplanned("That chain is no longer kept.");
  if (!channelIds.length) return unplanned("Select one or more channels first.");
  const kept = keptProcessorsOf(studio, chainId);
  if (!kept.length) return unplanned(`${chain.name} holds no processors.`);
  const copies = channelIds.map((channelId) =>
    cloned<NewProcessor, NewBand>(kept as never, (id) => keptBandsOf(studio, id) as never, {
      owner: { channelId },
      ids,
    }),
  );
  return planned(
    [
      ...emptied(doc, channelIds),
      {
        kind: "entries.add",
        entries: {
          processors: copies.flatMap(({ processors }) => processors),
          bands: copies.flatMap(({ bands }) => bands),
        },
      },
    ],
    `Put the chain ${chain.name} on ${countChannels(doc, channelIds)}`,
  );
};

/** The kept chain of a name, however it is written. */
export const keptChainNamed = (studio: Studio, name: string): Chain | undefined =>
  entriesOf(studio.chains).find((one) => plain(one.name) === plain(name.trim()));

export type KeepPlan =
  | { readonly ok: true; readonly edits: readonly StudioEdit[]; readonly says: string }
  | { readonly ok: false; readonly message: string };

/**
 * Keeps the chain of a channel in the studio under a name; one of that name is replaced. What steers it stays behind,
 * as it belongs to this template.
 */
export const keepChain = (
  doc: Template,
  studio: Studio,
  { channelId, name, ids }: { readonly channelId: ChannelId; readonly name: string; readonly ids: IdSource },
): KeepPlan => {
  const called = name.trim();
  const chain = processorsOf(doc, channelId);
  if (!called) return { ok: false, message: "A chain needs a name, for example that of who it is for." };
  if (!chain.length) return { ok: false, message: `${countChannels(doc, [channelId])} has no chain to keep.` };
  const same = keptChainNamed(studio, called);
  const chainId = ids<ChainId>("chain");
  const { processors, bands } = cloned<Loose & { readonly id: string }, Band>(
    chain.map((processor) => ({ ...processor, steering: null })) as never,
    (id) => bandsOf(doc, id) as never,
    { owner: { chainId }, ids },
  );
  const parts = {
    chains: [newChain({ id: chainId, name: called })],
    processors: processors as never,
    ...(bands.length ? { bands: bands as never } : {}),
  };
  const steered = chain.some(({ id, steering }) => steering || sideChainsOf(doc, id).length);
  return {
    ok: true,
    edits: [
      ...(same ? [{ kind: "entries.remove", table: "chains", ids: [same.id] } as const] : []),
      { kind: "entries.add", entries: parts },
    ],
    says: `${same ? "Replaced" : "Kept"} ${called}: ${counted(chain.length, "processor")}.${steered ? " What steers it belongs to this template and is not kept." : ""}`,
  };
};

/** Lets some processors of a chain lie in one branch of a split, beside what comes as it is. */
export const branchOff = (
  doc: Template,
  { processorIds, ids }: { readonly processorIds: readonly ChainProcessorId[]; readonly ids: IdSource },
): Planned => {
  const chosen = processorIds.flatMap((id) => doc.processors[id] ?? []) as readonly Processor[];
  const [first] = chosen;
  if (!first) return unplanned("Choose one or more processors first.");
  if (chosen.some(({ channelId }) => channelId !== first.channelId))
    return unplanned("Only processors of one chain can lie in a split together.");
  if (chosen.some(({ kind, splitId }) => kind === "split" || splitId !== null))
    return unplanned("A split can't lie in a split.");
  const ordered = processorsOf(doc, first.channelId).filter(({ id }) => processorIds.includes(id));
  const split = newProcessor("split", {
    id: ids<ChainProcessorId>("processor"),
    channelId: first.channelId,
  }) as unknown as NewProcessor;
  return planned(
    [
      { kind: "entries.add", entries: { processors: [split] }, before: ordered[0]?.id ?? null },
      { kind: "entries.set", table: "processors", ids: processorIds, set: { splitId: split.id, branch: "second" } },
    ],
    `Put ${chosen.length === 1 ? `the ${KIND_WORDS[first.kind].toLowerCase()}` : counted(chosen.length, "processor")} beside the line as it comes`,
  );
};

/** The hardware loops of a rig that can be put in a chain: out to a box or a room, and back. */
export const loopChoices = (rig: Rig): readonly { readonly id: string; readonly name: string }[] =>
  entriesOf(rig.loops).map(({ id, name }) => ({ id, name }));

/** A hardware insert through the sends and returns of the rig, on channels. */
export const putInsert = (
  doc: Template,
  rig: Rig,
  { loopId, channelIds, before = null, ids }: { readonly loopId: string } & Omit<Put, "kind">,
): Planned => {
  const loop = entriesOf(rig.loops).find(({ id }) => id === loopId);
  if (!loop) return unplanned(`${rig.name} has no such send and return.`);
  if (!channelIds.length) return unplanned("Select one or more channels first.");
  const processors = channelIds.map(
    (channelId) =>
      newProcessor("insert", {
        id: ids<ChainProcessorId>("processor"),
        channelId,
        name: loop.name,
        sendPortIds: loop.sendPortIds.slice(0, 2),
        returnPortIds: loop.returnPortIds.slice(0, 2),
      }) as unknown as NewProcessor,
  );
  return planned(
    [{ kind: "entries.add", entries: { processors }, before: channelIds.length === 1 ? before : null }],
    `Send ${countChannels(doc, channelIds)} through ${loop.name} and back`,
  );
};

/** Channels by name, for a list to choose from. */
export const channelChoices = (
  doc: Template,
  except: readonly ChannelId[],
): readonly { readonly id: ChannelId; readonly label: string }[] =>
  entriesOf<Channel>(doc.channels)
    .filter((channel) => channel.kind !== "main" && !except.includes(channel.id))
    .map(({ id, name, kind }) => ({ id, label: name || `A ${kind} without a name` }));

export const isEffect = (kind: ProcessorKind, doc: Template, channelIds: readonly ChannelId[]): boolean =>
  EFFECTS.includes(kind) && channelIds.every((id) => !isSum(doc.channels[id]) && doc.channels[id]?.kind !== "main");
