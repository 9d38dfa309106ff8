import { plain } from "../model/families";
import type { ChainId, ChainProcessorId, ChannelId, GangId, IdSource } from "../model/ids";
import { colourOf, trackOf, tracksByLine, tracksOf } from "../model/read-template";
import type { Studio } from "../model/studio";
import { newProcessor, type Processor, type ProcessorOf } from "../model/tables/chain-processors";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import { newSideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";
import { DUCKING_RATIO, thresholdFor, USUAL_LEVEL_DB } from "../processors/dynamics";
import { processorsOf } from "../queries/chains";
import { readDecibels } from "../reading/read-cells";
import { counted } from "../units/counted";
import { type Decibels, dB, formatDb, readShare } from "../units/decibels";
import { putChain } from "./chain-plans";
import { countChannels } from "./edits/channel-edits";
import type { Edit, NewTrack } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { stem } from "./edits/track-edits";
import { type Planned, planned, unplanned } from "./gesture";
import { commonOutput } from "./route";

/** A level typed as dB or as a share: "−3", "70 %", "−∞". Undefined when it is neither. */
export const readBalance = (text: string): Decibels | null | undefined => {
  const word = text.trim();
  if (["−∞", "-∞", "off"].includes(word)) return null;
  if (word.endsWith("%")) return readShare(word);
  const read = readDecibels(word, { min: -120, max: 12 });
  return read && word ? (read.db ?? undefined) : undefined;
};

/** What the other of two gets when one is typed as a share: the rest of it. Empty when nothing follows from it. */
export const restOfShare = (text: string): string => {
  const word = text.trim();
  const share = word.endsWith("%") ? Number(word.slice(0, -1).replace(",", ".")) : Number.NaN;
  return Number.isFinite(share) && share >= 0 && share <= 100 ? `${Math.round((100 - share) * 100) / 100} %` : "";
};

interface Blend {
  readonly channelIds: readonly ChannelId[];
  readonly name: string;
  /** For each of them a level or a share; empty is 0 dB. */
  readonly balance: readonly string[];
  readonly ids: IdSource;
}

/** Tracks in the order of the input list. */
const inListOrder = (doc: Template, ids: readonly ChannelId[]): readonly Track[] =>
  tracksOf(doc).filter(({ id }) => ids.includes(id));

export const after = (doc: Template, track: Track): ChannelId | null => {
  const siblings = tracksOf(doc).filter(({ folderId }) => folderId === track.folderId);
  return siblings[siblings.indexOf(track) + 1]?.id ?? null;
};

/**
 * What the names of several have in common at their beginning, without a side or a number; that of the first where they
 * have nothing.
 */
export const commonName = (names: readonly string[]): string => {
  const [first = "", ...others] = names;
  const words = first.split(" ");
  let count = words.length;
  for (const name of others) {
    const own = name.split(" ");
    let same = 0;
    while (same < count && plain(own[same] ?? "") === plain(words[same] ?? "") && same < own.length) same++;
    count = same;
  }
  return count ? words.slice(0, count).join(" ") : stem(first);
};

/**
 * Blends several lines to one track: each through its own channel at its own balance, held together by a gang, into a
 * bus that is recorded on a new track. The new track goes on to where the first of them went; the bus itself goes
 * nowhere, as what it sums is heard through that track.
 */
export const blend = (doc: Template, { channelIds, name, balance, ids }: Blend): Planned => {
  const sources = inListOrder(doc, channelIds);
  const [first] = sources;
  const last = sources.at(-1);
  if (!first || !last || sources.length < 2) return unplanned("Select two tracks or more that should be blended.");
  const called = name.trim();
  if (!called) return unplanned("The track that records the blend needs a name.");
  const levels = sources.map((_, at) => (balance[at]?.trim() ? readBalance(balance[at] ?? "") : dB(0)));
  const odd = levels.indexOf(undefined);
  if (odd >= 0)
    return unplanned(`“${balance[odd]?.trim()}” is no level from −120 to +12 dB and no share such as 70 %.`);
  const [busId, trackId] = [ids<ChannelId>("bus"), ids<ChannelId>("track")];
  const output = commonOutput(doc, [first.id]);
  const track: NewTrack = {
    id: trackId,
    name: called,
    note: "",
    colour: first.colour,
    icon: first.icon,
    input: { kind: "bus", busId },
    sharing: null,
    output,
    folderId: first.folderId,
  };
  const stereo = sources.some(({ input }) => input.kind === "pair");
  return planned(
    [
      {
        kind: "channels.add",
        channels: [
          {
            kind: "bus",
            id: busId,
            name: `${called} blend`,
            colour: colourOf(doc, first),
            layout: stereo ? "stereo" : "mono",
            output: { kind: "nowhere" },
          },
        ],
        feedIds: sources.map(({ id }) => id),
      },
      ...sources.map(
        ({ id }, at): Edit => ({
          kind: "entries.set" as const,
          table: "channels" as const,
          ids: [id],
          set: { faderDb: levels[at] as Decibels | null },
          alone: true,
        }),
      ),
      {
        kind: "gangs.add",
        gang: { id: ids<GangId>("gang"), name: called, level: true, mute: true, pan: false, sends: false },
        channelIds: sources.map(({ id }) => id),
      },
      { kind: "tracks.add", tracks: [track], lines: [], folderId: first.folderId, before: null },
      ...(after(doc, last)
        ? [
            {
              kind: "entries.move" as const,
              table: "channels" as const,
              ids: [trackId],
              parent: first.folderId,
              before: after(doc, last),
            } as const,
          ]
        : []),
      { kind: "entries.set" as const, table: "channels" as const, ids: [trackId], set: { output } },
    ],
    `Blend ${countChannels(
      doc,
      sources.map(({ id }) => id),
    )} to one track, ${called}`,
  );
};

interface Ways {
  readonly trackId: ChannelId;
  readonly chainIds: readonly ChainId[];
  readonly ids: IdSource;
}

/**
 * Records the line of a track several ways at once: a further track for each kept chain, recorded after it and heard
 * nowhere until somebody routes it.
 */
export const recordSeveralWays = (doc: Template, studio: Studio, { trackId, chainIds, ids }: Ways): Planned => {
  const track = trackOf(doc, trackId);
  if (!track || !inputLineIds(track.input).length) return unplanned("Select a track that takes a line.");
  if (!chainIds.length)
    return unplanned("Choose one or more kept chains: the line is recorded through each of them as well.");
  const sharers = [
    ...new Set(
      inputLineIds(track.input).flatMap((lineId) => (tracksByLine(doc).get(lineId) ?? []).map(({ id }) => id)),
    ),
  ];
  const made: NewTrack[] = chainIds.map((chainId) => ({
    id: ids<ChannelId>("track"),
    name: `${track.name} ${studio.chains[chainId]?.name ?? ""}`.trim(),
    note: "",
    colour: track.colour,
    icon: track.icon,
    input: track.input,
    sharing: "at-once",
    recordPoint: "after",
    output: { kind: "nowhere" },
    folderId: track.folderId,
  }));
  const added: Edit = { kind: "tracks.add", tracks: made, lines: [], folderId: track.folderId, before: null };
  const edits: Edit[] = [added];
  const before = after(doc, track);
  if (before)
    edits.push({
      kind: "entries.move" as const,
      table: "channels" as const,
      ids: made.map(({ id }) => id),
      parent: track.folderId,
      before,
    });
  edits.push({
    kind: "entries.set" as const,
    table: "channels" as const,
    ids: [...sharers, ...made.map(({ id }) => id)],
    set: { sharing: "at-once" },
  });
  const there = applyAll(doc, edits);
  if (!there.ok) return unplanned(there.refusal.message);
  for (const [at, chainId] of chainIds.entries()) {
    const put = putChain(there.doc, studio, { chainId, channelIds: [made[at]?.id as ChannelId], ids });
    if (!put.ok) return put;
    edits.push(...put.gesture.edits);
  }
  return planned(edits, `Record ${track.name} ${counted(chainIds.length + 1, "way")} at once`);
};

export const passing = (doc: Template, ids: readonly ChannelId[]): readonly ChannelId[] =>
  ids.filter((id) => doc.channels[id] && doc.channels[id]?.kind !== "main");

interface Duck {
  readonly channelIds: readonly ChannelId[];
  readonly underIds: readonly ChannelId[];
  readonly depthText: string;
  readonly ids: IdSource;
}

/** The processor of a channel that ducks it: a compressor that listens to others. */
export const duckerOf = (doc: Template, id: ChannelId): ProcessorOf<"compressor"> | undefined =>
  processorsOf(doc, id).find(
    (processor: Processor): processor is ProcessorOf<"compressor"> =>
      processor.kind === "compressor" && processor.listens === "others",
  );

/**
 * Ducks channels under others by some dB, in one act: on each a compressor that listens to the others, with the
 * threshold at which it takes the depth off when they are at their usual level (−24 dBFS), and no more than that when
 * they are louder. What ducks there already is set anew.
 */
export const duck = (doc: Template, { channelIds, underIds, depthText, ids }: Duck): Planned => {
  const targets = passing(doc, channelIds).filter((id) => !underIds.includes(id));
  const depth = readDecibels(depthText.trim().replace(/^[-−]/, ""), { min: 0.5, max: 40 });
  if (!targets.length) return unplanned("Select what should be ducked.");
  if (!underIds.length) return unplanned("Choose under what it should be ducked.");
  if (!depth || depth.db === null) return unplanned(`“${depthText.trim()}” is no depth from 0.5 to 40 dB.`);
  const rangeDb = depth.db;
  const set = {
    thresholdDb: dB(
      Math.round(thresholdFor({ depthDb: rangeDb, ratio: DUCKING_RATIO, heardDb: USUAL_LEVEL_DB }) * 100) / 100,
    ),
    ratio: DUCKING_RATIO,
    kneeDb: dB(0),
    rangeDb,
    listens: "others" as const,
  };
  const there = new Map(
    targets.flatMap((id) => (duckerOf(doc, id) ? [[id, duckerOf(doc, id)?.id as ChainProcessorId] as const] : [])),
  );
  const fresh = targets
    .filter((id) => !there.has(id))
    .map((channelId) => ({ channelId, id: ids<ChainProcessorId>("processor") }));
  const processorOf = new Map<ChannelId, ChainProcessorId>([
    ...there,
    ...fresh.map(({ channelId, id }) => [channelId, id] as const),
  ]);
  const sideChains = targets.flatMap((target) =>
    underIds.map((fromId) =>
      newSideChain({ id: ids("side-chain"), fromId, processorId: processorOf.get(target) as ChainProcessorId }),
    ),
  );
  return planned(
    [
      ...(fresh.length
        ? [
            {
              kind: "entries.add" as const,
              entries: {
                processors: fresh.map(
                  (own) =>
                    newProcessor("compressor", {
                      ...own,
                      name: "Ducking",
                      attackMs: 20,
                      releaseMs: 400,
                      ...set,
                    }) as never,
                ),
              },
            },
          ]
        : []),
      ...(there.size
        ? [{ kind: "entries.set" as const, table: "processors" as const, ids: [...there.values()], set }]
        : []),
      { kind: "sideChains.add", sideChains },
    ],
    `Duck ${countChannels(doc, targets)} under ${countChannels(doc, underIds)} by ${formatDb(rangeDb)}`,
  );
};
