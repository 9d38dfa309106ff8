import type { ChainId, ChannelId, FolderId, IdSource, SendId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { inOrder } from "../model/table";
import type { Template } from "../model/template";
import { keptChains, putChain } from "../planning/chain-plans";
import type { Edit, NewSum } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import type { Planned } from "../planning/gesture";
import { sumsOf } from "../queries/outputs";
import type { Decibels } from "../units/decibels";
import { demoStudio } from "./studio";

interface SentTo {
  readonly to: string;
  /** Tracks or buses by name. */
  readonly from: readonly string[];
  readonly levelDb: number;
  readonly tap?: "before" | "after";
}

/** How a template of the demo is woven: which folders sum, what there is besides, and what is sent where. */
export interface Weave {
  readonly sums: readonly string[];
  readonly channels?: readonly (Pick<NewSum, "kind" | "name" | "colour"> & {
    readonly feeds?: readonly string[];
    readonly into?: string;
  })[];
  readonly sends?: readonly SentTo[];
  /** Faders away from 0 dB, and what is turned down on its way in. */
  readonly faders?: Readonly<Record<string, number>>;
  readonly trims?: Readonly<Record<string, number>>;
  /** Kept chains by the channels that they are put on. */
  readonly chains?: Readonly<Record<string, string>>;
  /** Further acts, each from what the ones before left. */
  readonly acts?: readonly ((doc: Template, found: (name: string) => ChannelId, ids: IdSource) => Planned)[];
}

const done = (doc: Template, edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(`expected ${doc.name} to be woven, got: ${made.refusal.message}`);
  return made.doc;
};

const did = (doc: Template, planned: Planned): Template => {
  if (!planned.ok) throw new Error(`expected ${doc.name} to be woven, got: ${planned.message}`);
  return done(doc, planned.gesture.edits);
};

/** A chain of the house by its name. */
export const chainNamed = (name: string): ChainId =>
  found(
    keptChains(demoStudio).find((chain) => chain.name === name),
    name,
  ).id;

const found = <T>(value: T | undefined, name: string): T => {
  if (value === undefined) throw new Error(`expected something called ${name}`);
  return value;
};

const channelNamed = (doc: Template, name: string): ChannelId => {
  // A bus goes before a track of the same name: what is sent to or fed is nearly always one.
  const sum = sumsOf(doc).find((channel) => channel.name === name);
  return found(sum ?? tracksOf(doc).find((track) => track.name === name), name).id;
};

/** Weaves a template of the demo. Throws where it can't be: what is woven here is ours. */
export const woven = (
  plain: Template,
  { sums, channels = [], sends = [], faders = {}, trims = {}, chains = {}, acts = [] }: Weave,
  ids: IdSource,
): Template => {
  const folders = sums.map(
    (name) => found(inOrder(plain.folders).find((folder) => folder.name === name)?.id, name) as FolderId,
  );
  let doc = folders.length
    ? done(plain, [
        { kind: "folders.sum", sums: folders.map((folderId) => ({ folderId, busId: ids<ChannelId>("bus") })) },
      ])
    : plain;
  for (const { feeds = [], into, ...channel } of channels) {
    const output =
      into === undefined ? {} : { output: { kind: "channel", channelId: channelNamed(doc, into) } as const };
    const feedIds = feeds.map((name) => channelNamed(doc, name));
    doc = done(doc, [
      { kind: "channels.add", channels: [{ ...channel, ...output, id: ids<ChannelId>(channel.kind) }], feedIds },
    ]);
  }
  const sent = sends.flatMap(({ to, from, levelDb, tap = "after" }) =>
    from.map((name) => ({
      id: ids<SendId>("send"),
      fromId: channelNamed(doc, name),
      toId: channelNamed(doc, to),
      levelDb: levelDb as Decibels,
      tap,
    })),
  );
  const set = (values: Readonly<Record<string, number>>, field: "faderDb" | "trimDb"): readonly Edit[] =>
    Object.entries(values).map(([name, value]) => ({
      kind: "entries.set",
      table: "channels",
      ids: [channelNamed(doc, name)],
      set: { [field]: value as Decibels },
    }));
  const last = [
    ...(sent.length ? [{ kind: "sends.add", sends: sent } as const] : []),
    ...set(faders, "faderDb"),
    ...set(trims, "trimDb"),
  ];
  if (last.length) doc = done(doc, last);
  for (const [channel, chain] of Object.entries(chains))
    doc = did(
      doc,
      putChain(doc, demoStudio, { chainId: chainNamed(chain), channelIds: [channelNamed(doc, channel)], ids }),
    );
  return acts.reduce(
    (now, act) =>
      did(
        now,
        act(now, (name) => channelNamed(now, name), ids),
      ),
    doc,
  );
};
