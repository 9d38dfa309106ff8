import { cueDownBy } from "../levels/headroom";
import type { ChainProcessorId, ChannelId, CueId, IdSource, PassId, SendId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { ProcessorKind } from "../model/tables/processor-settings";
import type { Template } from "../model/template";
import { addBeside, addCue, moreOfOwn } from "../planning/cue-plans";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import type { Planned } from "../planning/gesture";
import { trimsFor } from "../planning/headroom-plans";
import { directWithEffects } from "../planning/monitor-plans";
import { duck } from "../planning/weave-plans";
import { cueOutputs, freeCueOutput } from "../queries/cue-outputs";
import { cuesOf, playersOf, tracksOfPlayer } from "../queries/cues";
import { bufferAdvice } from "../timing/low-latency";
import { dB } from "../units/decibels";

/** What a source is taken through: first steps that do no harm, each set for its usual level. */
const CHAINS = {
  voice: [
    ["filter", { pass: "high-pass", frequencyHz: 90, slopeDb: 12 }],
    ["compressor", { thresholdDb: -20, ratio: 2, kneeDb: 6, rangeDb: 8 }],
  ],
  speech: [
    ["filter", { pass: "high-pass", frequencyHz: 90, slopeDb: 12 }],
    ["compressor", { thresholdDb: -24, ratio: 2.5, kneeDb: 6, rangeDb: 8 }],
    ["de-esser", { frequencyHz: 6000, thresholdDb: -30, rangeDb: 6 }],
  ],
  low: [
    ["filter", { pass: "high-pass", frequencyHz: 35, slopeDb: 12 }],
    ["compressor", { thresholdDb: -20, ratio: 3, kneeDb: 6, rangeDb: 8 }],
  ],
  plucked: [["filter", { pass: "high-pass", frequencyHz: 80, slopeDb: 12 }]],
  line: [
    ["filter", { pass: "high-pass", frequencyHz: 150, slopeDb: 12 }],
    ["filter", { pass: "low-pass", frequencyHz: 7000, slopeDb: 12 }],
  ],
} as const satisfies Record<string, readonly (readonly [ProcessorKind, object])[]>;
export type StarterChain = keyof typeof CHAINS;

/**
 * What makes a starter whole beyond its tracks: how it is summed, sent, heard, and recorded. Names are those of its
 * folders and tracks.
 */
export interface Whole {
  readonly sums: readonly string[];
  readonly chains: Readonly<Record<string, StarterChain>>;
  /** A return with a reverb, and what is sent to it. */
  readonly room: { readonly name: string; readonly decayS: number; readonly from: readonly string[] } | null;
  readonly duck?: { readonly what: readonly string[]; readonly under: readonly string[]; readonly by: string };
  /** Who hears at the far end of a line, and never gets their own voice back. */
  readonly far?: string;
  readonly click?: true;
  readonly passes: readonly {
    readonly name: string;
    readonly tracks: readonly string[];
    readonly takeMinutes: number;
    readonly takes: number;
  }[];
}

interface Gear {
  readonly rig: Rig;
  readonly studio: Studio;
  readonly ids: IdSource;
}

const done = (doc: Template, edits: readonly Edit[], what: string): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(`expected ${what} of ${doc.name} to apply, got: ${made.refusal.message}`);
  return made.doc;
};

const did = (doc: Template, made: Planned, what: string): Template => {
  if (!made.ok) throw new Error(`expected ${what} of ${doc.name} to be planned, got: ${made.message}`);
  return done(doc, made.gesture.edits, what);
};

const named = (doc: Template, name: string): ChannelId | null =>
  entriesOf<Channel>(doc.channels).find((channel) => channel.name === name)?.id ?? null;
const allNamed = (doc: Template, names: readonly string[]): readonly ChannelId[] =>
  names.flatMap((name) => named(doc, name) ?? []);

const chained = (doc: Template, { chains }: Whole, ids: IdSource): readonly Edit[] =>
  Object.entries(chains).flatMap(([name, chain]): readonly Edit[] => {
    const channelId = named(doc, name);
    if (!channelId) return [];
    const processors = CHAINS[chain].map(([kind, settings]) =>
      newProcessor(kind, { ...settings, id: ids<ChainProcessorId>("processor"), channelId } as never),
    );
    return [{ kind: "entries.add", entries: { processors: processors as never } }];
  });

const roomed = (doc: Template, { room }: Whole, ids: IdSource): readonly Edit[] => {
  if (!room) return [];
  const id = ids<ChannelId>("return");
  const sends = allNamed(doc, room.from).map((fromId) => ({
    id: ids<SendId>("send"),
    fromId,
    toId: id,
    levelDb: dB(-15),
  }));
  return [
    {
      kind: "channels.add",
      channels: [
        {
          kind: "return",
          id,
          name: room.name,
          colour: "logwood",
          output: { kind: "channel", channelId: "main" as ChannelId },
        },
      ],
      feedIds: [],
    },
    {
      kind: "entries.add",
      entries: {
        processors: [
          newProcessor("reverb", {
            id: ids<ChainProcessorId>("processor"),
            channelId: id,
            decayS: room.decayS,
          } as never) as never,
        ],
      },
    },
    ...(sends.length ? [{ kind: "sends.add", sends } as const] : []),
  ];
};

const lowered = (doc: Template, cueId: CueId, { rig, studio }: Gear): Template => {
  const by = cueDownBy(doc, { rig, studio, cueId });
  return by
    ? done(
        doc,
        [
          {
            kind: "entries.set",
            table: "cues",
            ids: [cueId],
            set: { levelDb: dB((doc.cues[cueId]?.levelDb ?? 0) - by) },
          },
        ],
        "a cue",
      )
    : doc;
};

/** One more cue for these people, with more of their own sound, on the next free headphones. */
const withCue = (doc: Template, people: readonly string[], gear: Gear): Template => {
  const { rig, studio, ids } = gear;
  const free = freeCueOutput(doc, rig);
  if (!free || !people.length) return doc;
  const name = people.length > 2 ? "Everyone else" : "";
  const made = did(
    doc,
    addCue(doc, {
      people,
      name,
      from: "main",
      portIds: free.portIds,
      hearing: "headphones",
      mixedIn: "computer",
      gear: { rig, studio },
      ids,
    }),
    "a cue",
  );
  const cueId = cuesOf(made).at(-1)?.id;
  const more = cueId ? moreOfOwn(made, { cueIds: [cueId], ids }) : null;
  return cueId && more?.ok ? lowered(did(made, more, "more of own sound"), cueId, gear) : made;
};

/** How many more cues can go out to headphones. */
const freeOutputs = (doc: Template, { rig }: Gear): number =>
  cueOutputs(doc, rig).filter(({ takenBy, hearing }) => !takenBy.length && hearing === "headphones").length;

/** Everyone who plays hears a cue: each their own while there are outputs, the rest one together. */
const heard = (doc: Template, whole: Whole, gear: Gear): Template => {
  const people = playersOf(doc).filter((person) => person !== whole.far);
  const free = freeOutputs(doc, gear);
  if (!free) return doc;
  const [own, together] = people.length <= free ? [people, []] : [people.slice(0, free - 1), people.slice(free - 1)];
  const each = own.reduce((now, person) => withCue(now, [person], gear), doc);
  return withCue(each, together, gear);
};

const farHeard = (doc: Template, { far }: Whole, { rig, studio, ids }: Gear): Template =>
  far && tracksOfPlayer(doc, far).length
    ? did(
        doc,
        addCue(doc, {
          people: [far],
          name: far,
          from: "main",
          portIds: freeCueOutput(doc, rig)?.portIds ?? [],
          hearing: "far",
          mixedIn: "computer",
          gear: { rig, studio },
          ids,
        }),
        "the far guest's cue",
      )
    : doc;

/** Own sound past the computer, where the interface can; through it else. */
const monitored = (doc: Template, { rig, ids }: Gear): Template => {
  const own = [
    ...new Set(
      cuesOf(doc).flatMap(({ people, hearing }) =>
        hearing === "far" ? [] : people.flatMap((person) => tracksOfPlayer(doc, person)),
      ),
    ),
  ];
  const direct = directWithEffects(doc, rig, { trackIds: own, ids });
  return own.length && direct.ok ? did(doc, direct, "direct monitoring") : doc;
};

/** A smaller buffer while recording, where somebody would else hear themself late through the computer. */
const inTime = (doc: Template, { rig, studio }: Gear): Template => {
  const { recording } = bufferAdvice(doc, rig, studio);
  return recording !== null && recording < doc.buffers.recordingSamples
    ? done(doc, [{ kind: "settings.set", set: { buffers: { recordingSamples: recording } } }], "the buffer")
    : doc;
};

const passed = (doc: Template, { passes }: Whole, ids: IdSource): readonly Edit[] => {
  const there = passes
    .map(({ name, tracks, takeMinutes, takes }) => ({
      id: ids<PassId>("pass"),
      name,
      trackIds: allNamed(doc, tracks),
      takeMinutes,
      takes,
    }))
    .filter(({ trackIds }) => trackIds.length);
  return there.length ? [{ kind: "entries.add", entries: { passes: there } }] : [];
};

/**
 * Completes a template of a starter: family buses, a return, chains, ducking, cues, monitoring, passes. Throws when
 * something is refused: what is written here is ours.
 */
export const madeWhole = (doc: Template, whole: Whole, gear: Gear): Template => {
  const { ids } = gear;
  const sums = entriesOf(doc.folders).flatMap(({ id, name }) =>
    whole.sums.includes(name) ? [{ folderId: id, busId: ids<ChannelId>("bus") }] : [],
  );
  const summed = sums.length ? done(doc, [{ kind: "folders.sum", sums }], "the family buses") : doc;
  const routed = done(
    summed,
    [...roomed(summed, whole, ids), ...chained(summed, whole, ids)],
    "the return and the chains",
  );
  const { duck: under } = whole;
  const ducked = under
    ? did(
        routed,
        duck(routed, {
          channelIds: allNamed(routed, under.what),
          underIds: allNamed(routed, under.under),
          depthText: under.by,
          ids,
        }),
        "the ducking",
      )
    : routed;
  const quiet = trimsFor(ducked, gear).doc;
  const beside = (now: Template, kind: "click" | "talkback"): Template => did(now, addBeside(now, { kind, ids }), kind);
  const spoken = tracksOf(quiet).length ? beside(whole.click ? beside(quiet, "click") : quiet, "talkback") : quiet;
  // A single pair of headphones is for those in the room.
  const farFirst = freeOutputs(spoken, gear) > 1;
  const cued = farFirst
    ? heard(farHeard(spoken, whole, gear), whole, gear)
    : farHeard(heard(spoken, whole, gear), whole, gear);
  const listening = cuesOf(cued).length ? inTime(monitored(cued, gear), gear) : quiet;
  return done(listening, passed(listening, whole, ids), "the passes");
};
