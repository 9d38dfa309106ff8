import { wholeMill } from "../demo/rigs";
import type { ChainProcessorId, ChannelId, CueId, CueLevelId, LineId, PortId, SendId } from "../model/ids";
import { rigInputsOf } from "../model/read-rig";
import { newProcessor, type Processor } from "../model/tables/chain-processors";
import { MAIN_ID } from "../model/tables/channel-fields";
import { type Channel, newChannel } from "../model/tables/channels";
import { newCueLevel } from "../model/tables/cue-levels";
import { newCue } from "../model/tables/cues";
import { newLine } from "../model/tables/lines";
import type { ProcessorKind } from "../model/tables/processor-settings";
import { newSend } from "../model/tables/sends";
import { emptyTemplate, type Template } from "../model/template";

type Chance = () => number;
const pick = <T>(chance: Chance, from: readonly T[]): T => from[Math.floor(chance() * from.length)] as T;
const between = (chance: Chance, low: number, high: number): number =>
  Math.round((low + chance() * (high - low)) * 2) / 2;
const keyed = <T extends { readonly id: string }>(entries: readonly T[]) =>
  Object.fromEntries(entries.map((entry) => [entry.id, entry]));

const KINDS: readonly ProcessorKind[] = [
  "gain",
  "gain",
  "compressor",
  "filter",
  "other",
  "limiter",
  "gate",
  "insert",
  "split",
];

const processors = (chance: Chance, channelId: ChannelId): readonly Processor[] => {
  const made: Processor[] = [];
  const ofKind = (kind: ProcessorKind): object => {
    if (kind === "gain") return { gainDb: between(chance, -12, 12) };
    if (kind === "compressor") return { makeUpDb: between(chance, -6, 9) };
    if (kind === "limiter" || kind === "gate") return { lookaheadMs: pick(chance, [0, 1, 2.5]) };
    if (kind === "split")
      return {
        firstDb: chance() < 0.1 ? null : between(chance, -12, 3),
        secondDb: chance() < 0.1 ? null : between(chance, -12, 3),
      };
    return kind === "insert"
      ? {
          sendPortIds: [pick(chance, ["brindle:out:11", "brindle:out:12"])],
          returnPortIds: [pick(chance, ["brindle:in:15", "eight:in:5"])],
        }
      : {};
  };
  const settings = (kind: ProcessorKind) => ({
    use: pick(chance, ["always", "always", "not-while-recording", "listening-copy"] as const),
    bypassed: chance() < 0.1,
    wetPercent: chance() < 0.6 ? 100 : Math.round(chance() * 100),
    delaySamples: chance() < 0.4 ? Math.floor(chance() * 200) : 0,
    ...ofKind(kind),
  });
  const put = (kind: ProcessorKind, more: object = {}): string => {
    const id = `${channelId}-p${made.length}`;
    const order = `a${String(made.length).padStart(2, "0")}1`;
    made.push({
      ...newProcessor(kind, { ...settings(kind), ...more, id: id as ChainProcessorId, channelId } as never),
      order,
    } as never);
    return id;
  };
  for (let n = Math.floor(chance() * 3); n > 0; n--) {
    const kind = pick(chance, KINDS);
    const id = put(kind);
    if (kind === "split")
      for (let inner = Math.floor(chance() * 3); inner > 0; inner--)
        put(pick(chance, ["gain", "compressor", "other"]), { splitId: id, branch: pick(chance, ["first", "second"]) });
  }
  return made;
};

const mixed = (chance: Chance) => ({
  trimDb: chance() < 0.3 ? between(chance, -6, 6) : 0,
  faderDb: chance() < 0.08 ? null : between(chance, -20, 6),
  pan: chance() < 0.5 ? 0 : Math.round(between(chance, -100, 100)),
  muted: chance() < 0.08,
  parked: chance() < 0.08,
});

/**
 * Lines of line sources with a level and a gain of their own on inputs that have a gain control: how loud each is
 * follows from three figures.
 */
const lineOf = (chance: Chance, at: number, ports: readonly PortId[]) =>
  newLine({
    id: `line-${at}` as LineId,
    source: `Source ${at}`,
    microphone: { kind: "named", name: "line", type: "line-source" },
    portId: ports[at] ?? null,
    loudnessDb: between(chance, -10, 4),
    gainDb: between(chance, 0, 12) as never,
    pad: chance() < 0.2,
    crestDb: between(chance, 6, 18),
  });

/**
 * A routing by chance in which everything stands that levels and delays hang on: sends that are off, parked channels,
 * splits, wet shares, uses, folds, balances, hardware inserts, levels while recording, cues before and after the fader.
 * Sums are numbered and lead to later ones only, so that no loop can come of it.
 */
export const randomMix = (chance: Chance): Template => {
  const empty = emptyTemplate({
    id: "mix" as never,
    name: "Mix",
    kind: "band",
    rigId: wholeMill.id,
    mainOutputs: ["brindle:out:1" as never, "brindle:out:2" as never],
  });
  const ports = rigInputsOf(wholeMill).flatMap(({ port, gainDb, fedBy }) => (gainDb && !fedBy ? [port.id] : []));
  const lines = Array.from({ length: 10 }, (_, at) => lineOf(chance, at, ports));
  const sums = Array.from({ length: 2 + Math.floor(chance() * 4) }, (_, at) => ({
    at,
    id: `sum-${at}` as ChannelId,
    kind: pick(chance, ["bus", "bus", "return"] as const),
  }));
  const after = (at: number): ChannelId =>
    pick(chance, [MAIN_ID, ...sums.filter((sum) => sum.at > at).map(({ id }) => id)]);
  const to = (channelId: ChannelId) => ({ kind: "channel", channelId }) as const;
  const channels: Channel[] = sums.map(({ id, at, kind }) =>
    newChannel(kind, {
      id,
      name: id,
      layout: pick(chance, ["stereo", "stereo", "mono"]),
      fold: pick(chance, ["sum", "left", "right"]),
      output: chance() < 0.1 ? { kind: "nowhere" } : to(after(at)),
      ...mixed(chance),
    } as never),
  );
  const tracks = Array.from({ length: 3 + Math.floor(chance() * 5) }, (_, at) => {
    const line = (n: number): LineId => `line-${n}` as LineId;
    const input = pick(chance, [
      { kind: "line", lineId: line(at) },
      { kind: "line", lineId: line(Math.floor(chance() * 10)) },
      { kind: "pair", leftId: line(8), rightId: line(9) },
      { kind: "none" },
    ] as const);
    const live = chance() < 0.3 ? { liveApart: true, liveDb: chance() < 0.3 ? null : between(chance, -12, 6) } : {};
    return {
      at,
      channel: newChannel("track", {
        id: `track-${at}` as ChannelId,
        name: `Track ${at}`,
        input,
        output: to(after(-1)),
        sharing: "at-once",
        icon: null,
        ...mixed(chance),
        ...live,
      } as never),
    };
  });
  // One that records a sum, and goes on behind it.
  const recorded = pick(chance, sums);
  const again = newChannel("track", {
    id: "again" as ChannelId,
    name: "Again",
    input: { kind: "bus", busId: recorded.id },
    output: to(after(recorded.at)),
    sharing: null,
    icon: null,
    ...mixed(chance),
  } as never);
  const all = [
    ...channels,
    ...tracks.map(({ channel, at }) => ({ ...channel, order: `a${at}1` })),
    { ...again, order: "b01" },
  ];
  const sends = all.flatMap(({ id }, n) => {
    const at = sums.find((sum) => sum.id === id)?.at ?? (id === "again" ? recorded.at : -1);
    const target = after(at);
    if (target === MAIN_ID || chance() < 0.4) return [];
    return [
      newSend({
        id: `send-${n}` as SendId,
        fromId: id,
        toId: target,
        levelDb: (chance() < 0.1 ? null : between(chance, -20, 0)) as never,
        tap: pick(chance, ["before", "after"]),
        pan: chance() < 0.5 ? 0 : Math.round(between(chance, -100, 100)),
        on: chance() < 0.85,
      }),
    ];
  });
  const cues = Array.from({ length: 2 }, (_, at) => ({
    ...newCue({ id: `cue-${at}` as CueId, name: `Cue ${at}`, levelDb: between(chance, -6, 0) as never }),
    order: `a${at}1`,
  }));
  const levels = cues.flatMap((cue) =>
    all.flatMap(({ id }) =>
      chance() < 0.5
        ? []
        : [
            newCueLevel({
              id: `${cue.id}-${id}` as CueLevelId,
              cueId: cue.id,
              sourceId: id,
              levelDb: (chance() < 0.1 ? null : between(chance, -20, 3)) as never,
              pan: chance() < 0.5 ? 0 : Math.round(between(chance, -100, 100)),
              tap: pick(chance, ["before", "after"]),
              on: chance() < 0.9,
            }),
          ],
    ),
  );
  const chains = [MAIN_ID, ...all.map(({ id }) => id)].flatMap((id) => processors(chance, id));
  return {
    ...empty,
    mix: { panLawDb: pick(chance, [-3, -4.5, -6, 0] as const), mutesBefore: chance() < 0.3, sendTap: "after" },
    lines: keyed(lines.filter(({ id }) => all.some((channel) => JSON.stringify(channel).includes(`"${id}"`)))),
    channels: { ...empty.channels, ...keyed(all as readonly Channel[]) },
    sends: keyed(sends),
    processors: keyed(chains),
    cues: keyed(cues),
    cueLevels: keyed(levels),
  } as Template;
};
