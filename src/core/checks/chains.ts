import type { ChainProcessorId, ChannelId } from "../model/ids";
import { perDocument } from "../model/per-document";
import { hardwareOutputs, rigInputsOf } from "../model/read-rig";
import { isParked, isSum, tracksByLine, tracksOf } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Processor, ProcessorOf } from "../model/tables/chain-processors";
import { type Channel, MAIN_ID, type Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { extremes, summedCurve } from "../processors/response";
import { processorName, processorsOf, sideChainsOf } from "../queries/chains";
import { needsOf } from "../queries/installed";
import { sumsOf } from "../queries/outputs";
import { graphOf, intoOf, sendOf } from "../routing/graph";
import { downFrom } from "../routing/reach";
import { counted } from "../units/counted";
import { dB, formatDb } from "../units/decibels";
import { formatHz } from "../units/hertz";
import { type Check, type Finding, finding } from "./finding";

const nameOf = (channel: Channel | undefined): string => channel?.name || "a channel without a name";
const inUse = (channel: Channel | undefined): channel is Channel => channel !== undefined && !isParked(channel);

/** Processors by what can be said of them: nearly all are none of these, and one pass over the table finds them for all checks, kept for as long as no processor changes. */
const remarkable = perDocument((processors: Template["processors"]) => {
  const found = {
    effects: [] as Processor[],
    listening: [] as Processor[],
    crossovers: [] as ProcessorOf<"filter">[],
    asking: [] as Processor[],
    inserts: [] as ProcessorOf<"insert">[],
    moved: [] as Processor[],
  };
  for (const processor of entriesOf<Processor>(processors)) {
    if (processor.installed) found.asking.push(processor);
    if (processor.steering) found.moved.push(processor);
    if (processor.bypassed) continue;
    if (processor.kind === "reverb" || processor.kind === "delay") found.effects.push(processor);
    else if (processor.kind === "insert") found.inserts.push(processor);
    else if (processor.kind === "filter") {
      if (processor.crossover) found.crossovers.push(processor);
    } else if ("listens" in processor && processor.listens === "others") found.listening.push(processor);
  }
  return found;
});

const used = <P extends Processor>(doc: Template, processors: readonly P[]): readonly P[] => processors.filter(({ channelId }) => inUse(doc.channels[channelId]));
const chainOf = (id: ChannelId) => [{ kind: "channel", id, field: "chain" }] as const;
const set = (processorIds: readonly ChainProcessorId[], values: Readonly<Record<string, unknown>>) => ({ kind: "processors.set", processorIds, set: values }) as const;

/** Effects on returns that let some of what is sent through as it is. */
export const notFullyWet: Check = {
  id: "not-fully-wet",
  why: "A return that lets the dry sound through doubles what goes on beside it, a little late.",
  withoutRig: true,
  check: ({ doc }) =>
    used(doc, remarkable(doc.processors).effects).flatMap((processor): readonly Finding[] => {
      const channel = doc.channels[processor.channelId];
      if (channel?.kind !== "return" || processor.wetPercent === 100) return [];
      const dry = intoOf(graphOf(doc), channel.id).some(({ kind, from }) => kind === "send" && doc.channels[from]?.output.kind !== "nowhere");
      return dry
        ? [
            finding("not-fully-wet", {
              severity: "hint",
              about: processor.id,
              message: `${processorName(processor)} on the return ${nameOf(channel)} is ${processor.wetPercent} % wet, and what is sent there is heard dry as well: that is heard twice.`,
              places: chainOf(channel.id),
              fixes: [{ label: "Make it 100 % wet", commands: [set([processor.id], { wetPercent: 100 })] }],
            }),
          ]
        : [];
    }),
};

/** Processors that listen to others and hear nothing. */
export const silentSideChain: Check = {
  id: "silent-side-chain",
  why: "A processor that should be steered and hears nothing does nothing.",
  withoutRig: true,
  check: ({ doc }) =>
    used(doc, remarkable(doc.processors).listening).flatMap((processor): readonly Finding[] => {
      const sides = sideChainsOf(doc, processor.id);
      const graph = graphOf(doc);
      const silent = (id: ChannelId): boolean => {
        const channel = doc.channels[id];
        return !inUse(channel) || (channel.kind !== "main" && channel.muted) || (isSum(channel) && !intoOf(graph, id).length);
      };
      if (sides.some(({ fromId }) => !silent(fromId))) return [];
      const who = `${processorName(processor)} on ${nameOf(doc.channels[processor.channelId])}`;
      return [
        finding("silent-side-chain", {
          severity: "hint",
          about: processor.id,
          message: sides.length
            ? `${who} is steered by ${sides.map(({ fromId }) => nameOf(doc.channels[fromId])).join(", ")}, of which nothing is heard now.`
            : `${who} listens to what steers it, and nothing does.`,
          places: chainOf(processor.channelId),
          fixes: [
            { label: `Take ${who} off`, commands: [{ kind: "processors.remove", processorIds: [processor.id] }] },
            ...(sides.length ? [] : [{ label: "Let it listen to what goes through it", commands: [set([processor.id], { listens: "itself" })] }]),
          ],
        }),
      ];
    }),
};

/** A bump or hole of less is not told. */
const MEETS_DB = 0.5;

interface Half {
  readonly bus: Channel;
  readonly filter: ProcessorOf<"filter">;
}

/** By channel, the halves of a crossover that it feeds: buses with one filter that is half of a crossover. */
const halvesBySource = (doc: Template): ReadonlyMap<ChannelId, readonly Half[]> => {
  const byBus = new Map<ChannelId, ProcessorOf<"filter">[]>();
  for (const filter of used(doc, remarkable(doc.processors).crossovers)) byBus.set(filter.channelId, [...(byBus.get(filter.channelId) ?? []), filter]);
  const found = new Map<ChannelId, Half[]>();
  for (const [busId, [filter, ...more]] of byBus) {
    const bus = doc.channels[busId];
    if (bus && filter && !more.length) for (const { from } of intoOf(graphOf(doc), busId)) found.set(from, [...(found.get(from) ?? []), { bus, filter }]);
  }
  return found;
};

/** Bands of one source that leave a hole between them, or lie over one another. */
export const bandsDoNotMeet: Check = {
  id: "bands-do-not-meet",
  why: "Two bands that do not meet leave a hole in the sound; where they overlap, a bump.",
  withoutRig: true,
  check: ({ doc }) =>
    [...halvesBySource(doc)].flatMap(([sourceId, halves]): readonly Finding[] => {
      const source = doc.channels[sourceId];
      const [low, high] = [halves.find(({ filter }) => filter.pass === "low-pass"), halves.find(({ filter }) => filter.pass === "high-pass")];
      if (!low || !high || halves.length !== 2) return [];
      const { highest, lowest } = extremes(summedCurve([[low.filter], [high.filter]], doc.format.sampleRateHz, 961));
      const worst = highest.y > -lowest.y ? highest : lowest;
      if (Math.abs(worst.y) < MEETS_DB) return [];
      const meeting = Number(Math.sqrt(low.filter.frequencyHz * high.filter.frequencyHz).toPrecision(3));
      return [
        finding("bands-do-not-meet", {
          severity: "hint",
          about: sourceId,
          message: `The bands of ${nameOf(source)} do not meet: ${nameOf(low.bus)} ends at ${formatHz(low.filter.frequencyHz)} and ${nameOf(high.bus)} begins at ${formatHz(high.filter.frequencyHz)}, which makes a ${worst.y > 0 ? "bump" : "hole"} of ${formatDb(dB(Math.round(worst.y * 10) / 10))} at ${formatHz(Math.round(worst.x))}.`,
          places: chainOf(low.bus.id),
          fixes: [{ label: `Let both meet at ${formatHz(meeting)}`, commands: [set([low.filter.id, high.filter.id], { frequencyHz: meeting })] }],
        }),
      ];
    }),
};

/** Where the dry sound of a channel ends up: what it reaches by outputs and by what is recorded. */
const dryFrom = (doc: Template, id: ChannelId): ReadonlySet<ChannelId> => downFrom(graphOf(doc), id, ({ kind }) => kind !== "send").channels;

/** Tracks that record one line at the same time and are heard in one sum. */
export const heardTwice: Check = {
  id: "heard-twice",
  why: "One source that reaches a sum twice is louder than it was meant, and hollow where one of the ways is late.",
  withoutRig: true,
  check: ({ doc }) => {
    const found: Finding[] = [];
    const seen = new Set<string>();
    for (const tracks of tracksByLine(doc).values()) {
      if (tracks.length < 2) continue;
      const heard = tracks.filter((track) => inUse(track) && !track.muted && track.sharing === "at-once" && dryFrom(doc, track.id).has(MAIN_ID));
      const key = heard.map(({ id }) => id).join(" ");
      if (heard.length < 2 || seen.has(key)) continue;
      seen.add(key);
      const [first, ...others] = heard as [Track, ...Track[]];
      found.push(
        finding("heard-twice", {
          severity: "hint",
          message: `${heard.map(nameOf).join(" and ")} record the same line at once, and ${heard.length === 2 ? "both" : "all"} are heard in ${nameOf(doc.channels[MAIN_ID])}.`,
          places: heard.slice(0, 12).map(({ id }) => ({ kind: "channel", id, field: "output" })),
          fixes: [
            {
              label: `Let only ${nameOf(first)} be heard`,
              commands: [{ kind: "channels.set", channelIds: others.map(({ id }) => id), set: { output: { kind: "nowhere" } } }],
            },
          ],
        }),
      );
    }
    return found;
  },
};

/** Stereo tracks of which the two lines differ in polarity. */
export const polarityDiffers: Check = {
  id: "polarity-differs",
  why: "Two halves of a pair with opposite polarity cancel one another in the middle.",
  withoutRig: true,
  check: ({ doc }) =>
    tracksOf(doc).flatMap((track): readonly Finding[] => {
      const { input } = track;
      if (input.kind !== "pair" || track.parked) return [];
      const [left, right] = [doc.lines[input.leftId], doc.lines[input.rightId]];
      if (!left || !right || left.polarityInverted === right.polarityInverted) return [];
      return [
        finding("polarity-differs", {
          severity: "hint",
          message: `One side of ${nameOf(track)} is turned over and the other is not: what is in the middle cancels.`,
          places: [{ kind: "channel", id: track.id, field: "name" }],
          fixes: [{ label: "Turn the other side back", commands: [{ kind: "lines.set", lineIds: [left.id, right.id], set: { polarityInverted: false } }] }],
        }),
      ];
    }),
};

/** Processors that are asked for by name and are not on this rig, or older than asked for. */
export const processorMissing: Check = {
  id: "processor-missing",
  why: "A template that opens with half of its processors missing sounds like another one.",
  check: ({ doc, rig }) =>
    needsOf(used(doc, remarkable(doc.processors).asking), rig).flatMap(({ name, version, state, has, from, processors }): readonly Finding[] => {
      const [first] = processors;
      if (state === "there" || !first) return [];
      const where = [...new Set(processors.map(({ channelId }) => nameOf(doc.channels[channelId])))];
      const asked = `${name}${version ? ` ${version}` : ""}`;
      const on = where.length > 2 ? counted(where.length, "channel") : where.join(" and ");
      return [
        finding("processor-missing", {
          severity: "hint",
          about: name.slice(0, 200),
          message: `${asked}, asked for by ${on}, ${state === "older" ? `is there as ${has || "an older version"} only` : `is not installed on ${rig.name}`}.${from ? ` Get it from ${from}.` : ""}`,
          places: processors.slice(0, 12).map(({ channelId }) => ({ kind: "channel", id: channelId, field: "chain" })),
          fixes: [
            state === "older"
              ? { label: `Ask for ${has || "any version"}`, commands: [set(idsOf(processors), { version: has })] }
              : { label: "Let any of its kind do", commands: [set(idsOf(processors), { installed: "", version: "" })] },
          ],
        }),
      ];
    }),
};

const idsOf = (processors: readonly Processor[]): readonly ChainProcessorId[] => processors.map(({ id }) => id);

/** Processors on the main bus that are on while recording. */
export const mainProcessed: Check = {
  id: "main-processed",
  why: "What works on the main bus while recording is in everything that is heard, adds its delay to it, and hides what is recorded.",
  withoutRig: true,
  check: ({ doc }) => {
    const on = processorsOf(doc, MAIN_ID).filter(({ use, bypassed }) => use === "always" && !bypassed);
    if (!on.length) return [];
    const late = on.reduce((sum, { delaySamples }) => sum + delaySamples, 0);
    return [
      finding("main-processed", {
        severity: "hint",
        message: `${on.map(processorName).join(", ")} on ${nameOf(doc.channels[MAIN_ID])} ${on.length === 1 ? "is" : "are"} on while recording: everybody hears it${late ? `, ${counted(late, "sample")} late` : ""}, and no track has it.`,
        places: chainOf(MAIN_ID),
        fixes: [{ label: "Leave it off while recording", commands: [set(idsOf(on), { use: "not-while-recording" })] }],
      }),
    ];
  },
};

/** Returns with an effect of which nothing is heard, as all that is sent there is off. */
export const effectUnused: Check = {
  id: "effect-unused",
  why: "Effects that nobody uses make a template slow to open and the computer gasp at a small buffer.",
  withoutRig: true,
  check: ({ doc }) => {
    const graph = graphOf(doc);
    return sumsOf(doc).flatMap((sum): readonly Finding[] => {
      const into = intoOf(graph, sum.id);
      if (sum.kind !== "return" || !inUse(sum) || !into.length || !processorsOf(doc, sum.id).length) return [];
      const used = into.some((thread) => {
        const send = sendOf(graph, thread);
        return !send || (send.on && send.levelDb !== null);
      });
      return used
        ? []
        : [
            finding("effect-unused", {
              severity: "hint",
              message: `${nameOf(sum)} holds ${processorsOf(doc, sum.id)
                .map((one) => processorName(one).toLowerCase())
                .join(", ")}, and all that is sent there is off.`,
              places: [{ kind: "channel", id: sum.id, field: "sends" }],
              fixes: [
                { label: `Park ${nameOf(sum)}`, commands: [{ kind: "channels.set", channelIds: [sum.id], set: { parked: true } }] },
                { label: `Remove ${nameOf(sum)}`, commands: [{ kind: "channels.remove", channelIds: [sum.id] }] },
              ],
            }),
          ];
    });
  },
};

/** Buses that are recorded on more than one track. */
export const busRecordedTwice: Check = {
  id: "bus-recorded-twice",
  why: "Two tracks that record one bus hold the same sound twice.",
  withoutRig: true,
  check: ({ doc }) => {
    const takers = new Map<ChannelId, Track[]>();
    for (const track of tracksOf(doc)) {
      const bus = track.input.kind === "bus" ? track.input.busId : null;
      if (bus && !track.parked) takers.set(bus, [...(takers.get(bus) ?? []), track]);
    }
    return [...takers].flatMap(([busId, tracks]): readonly Finding[] => {
      const [first, ...others] = tracks;
      return first && others.length
        ? [
            finding("bus-recorded-twice", {
              severity: "hint",
              about: busId,
              message: `${nameOf(doc.channels[busId])} is recorded on ${tracks.map(nameOf).join(" and ")}: the same sound ${tracks.length === 2 ? "twice" : `${tracks.length} times`}.`,
              places: tracks.slice(0, 12).map(({ id }) => ({ kind: "channel", id, field: "name" })),
              fixes: [
                {
                  label: `Record it on ${nameOf(first)} only`,
                  commands: others.map(({ id }) => ({ kind: "tracks.take", trackId: id, input: { kind: "none" }, lines: [] })),
                },
              ],
            }),
          ]
        : [];
    });
  },
};

/** From so many channels at full level on, headroom is certainly gone. */
const MANY = 16;

/** Buses into which many channels go at full level while nothing is turned down. */
export const headroomGone: Check = {
  id: "headroom-gone",
  why: "Many channels at full level into one bus leave no headroom, however they are played.",
  withoutRig: true,
  check: ({ doc }) => {
    const full = new Map<ChannelId, number>();
    for (const channel of entriesOf<Channel>(doc.channels)) {
      const { output, faderDb, trimDb } = channel;
      if (output.kind !== "channel" || faderDb === null || faderDb < 0 || trimDb < 0 || !inUse(channel) || (channel.kind !== "main" && channel.muted)) continue;
      full.set(output.channelId, (full.get(output.channelId) ?? 0) + 1);
    }
    return [...full].flatMap(([sumId, count]): readonly Finding[] => {
      const sum = doc.channels[sumId];
      if (count < MANY || !inUse(sum) || sum.trimDb < 0) return [];
      const turned = processorsOf(doc, sum.id)[0];
      if (turned?.kind === "gain" && turned.gainDb < 0) return [];
      // Sounds that are not alike add up in power.
      const byDb = dB(-Math.ceil(10 * Math.log10(count)));
      return [
        finding("headroom-gone", {
          severity: "hint",
          message: `${count} channels go into ${nameOf(sum)} at 0 dB or more, and nothing is turned down: they add up to ${formatDb(dB(-byDb))} above one of them.`,
          places: [{ kind: "channel", id: sum.id, field: "fader" }],
          fixes: [{ label: `Trim ${nameOf(sum)} by ${formatDb(byDb)}`, commands: [{ kind: "channels.set", channelIds: [sum.id], set: { trimDb: byDb } }] }],
        }),
      ];
    });
  },
};

/** Hardware inserts that are not plugged in, or on ports that the rig does not have. */
export const insertNotOnRig: Check = {
  id: "insert-not-on-rig",
  why: "A chain that goes out and does not come back is silent from there on.",
  check: ({ doc, rig }) => {
    const outs = new Set<string>(hardwareOutputs(rig).map(({ id }) => id));
    const ins = new Set<string>(rigInputsOf(rig).map(({ port }) => port.id));
    return used(doc, remarkable(doc.processors).inserts).flatMap((processor): readonly Finding[] => {
      const { sendPortIds, returnPortIds } = processor;
      const there = sendPortIds.length > 0 && returnPortIds.length > 0 && sendPortIds.every((id) => outs.has(id)) && returnPortIds.every((id) => ins.has(id));
      const who = `${processorName(processor)} on ${nameOf(doc.channels[processor.channelId])}`;
      return there
        ? []
        : [
            finding("insert-not-on-rig", {
              severity: "problem",
              about: processor.id,
              message: sendPortIds.length
                ? `${who} goes out and back through ports that ${rig.name} does not have.`
                : `${who} goes through no send and return yet, so nothing comes back from it.`,
              places: chainOf(processor.channelId),
              fixes: [{ label: "Bypass it", commands: [set([processor.id], { bypassed: true })] }],
            }),
          ];
    });
  },
};

/** Settings that are moved by a controller which the rig does not have. */
export const controllerNotOnRig: Check = {
  id: "controller-not-on-rig",
  why: "A setting that nothing moves stays where it is.",
  check: ({ doc, rig }) =>
    used(doc, remarkable(doc.processors).moved).flatMap((processor): readonly Finding[] => {
      const { steering } = processor;
      if (!steering || Object.hasOwn(rig.midiPorts, steering.midiPortId)) return [];
      return [
        finding("controller-not-on-rig", {
          severity: "hint",
          about: processor.id,
          message: `${processorName(processor)} on ${nameOf(doc.channels[processor.channelId])} is moved by a controller that ${rig.name} does not have.`,
          places: chainOf(processor.channelId),
          fixes: [{ label: "Let nothing move it", commands: [set([processor.id], { steering: null })] }],
        }),
      ];
    }),
};

/** Instruments that are played from nowhere, or from a port that the rig does not have. */
export const nobodyPlays: Check = {
  id: "nobody-plays",
  why: "An instrument that nobody plays is silent: its controller is on another port.",
  check: ({ doc, rig }) =>
    entriesOf<Channel>(doc.channels).flatMap((channel): readonly Finding[] => {
      if (channel.kind !== "instrument" || channel.parked) return [];
      const port = channel.midiPortId === null ? undefined : rig.midiPorts[channel.midiPortId as never];
      if (port) return [];
      const known = entriesOf(rig.midiPorts).filter(({ direction }) => direction === "in");
      return [
        finding("nobody-plays", {
          severity: "hint",
          message:
            channel.midiPortId === null
              ? `Nobody plays ${nameOf(channel)}: it is on no MIDI port.`
              : `Nobody plays ${nameOf(channel)}: the MIDI port it is on is not on ${rig.name}.`,
          places: [{ kind: "channel", id: channel.id, field: "name" }],
          fixes: known.slice(0, 3).map(({ id, name, number }) => ({
            label: `Play it from ${name || `MIDI in ${number}`}`,
            commands: [{ kind: "channels.set", channelIds: [channel.id], set: { midiPortId: id } }],
          })),
        }),
      ];
    }),
};

export const CHAIN_CHECKS: readonly Check[] = [
  notFullyWet,
  silentSideChain,
  bandsDoNotMeet,
  heardTwice,
  polarityDiffers,
  processorMissing,
  mainProcessed,
  effectUnused,
  busRecordedTwice,
  headroomGone,
  insertNotOnRig,
  controllerNotOnRig,
  nobodyPlays,
];
