import { soundsIn } from "../levels/sounding";
import { plain } from "../model/families";
import type { ChannelId } from "../model/ids";
import { isSum, tracksByLine, tracksOf } from "../model/read-template";
import { listOf, putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import { inputLineIds, MAIN_ID } from "../model/tables/channel-fields";
import type { Channel, Track } from "../model/tables/channels";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { faderDbWhen, isWorking } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { controlledBy } from "../queries/controls";
import { graphOf, intoOf, recordedFrom, sendOf } from "../routing/graph";
import { counted, listed } from "../units/counted";
import { dB } from "../units/decibels";
import { type Check, type Finding, finding } from "./finding";
import { MIXED, ROUTING, TRACKS } from "./reads";
import { chainOf, inUse, nameOf, set, sumsIn } from "./remarkable";

const cantBeTakenOff = (doc: Template, { id }: Track): readonly Processor[] =>
  processorsOf(doc, id).filter(
    (one) =>
      (one.kind === "reverb" || one.kind === "delay" || one.kind === "limiter") &&
      one.wetPercent > 0 &&
      isWorking(doc, one),
  );

/** Whether the same is recorded beside it without that: then it can be done again. */
const isRecordedDryToo = (doc: Template, track: Track): boolean => {
  const lines = inputLineIds(track.input);
  return (
    lines.length > 0 &&
    lines.every((line) =>
      (tracksByLine(doc).get(line) ?? []).some(
        (other) =>
          other.id !== track.id &&
          other.sharing === "at-once" &&
          !other.parked &&
          (other.recordPoint === "before" || !cantBeTakenOff(doc, other).length),
      ),
    )
  );
};

/** Reverbs, delays and limiters that are recorded: the track is recorded after its chain. */
export const effectPrinted: Check = {
  id: "effect-printed",
  why: "A reverb or a limiter that is recorded can't be taken off again.",
  withoutRig: true,
  reads: [
    ...TRACKS,
    "buffers",
    "channels.parked",
    "channels.recordPoint",
    "channels.sharing",
    "processors.bypassed",
    "processors.channelId",
    "processors.kind",
    "processors.name",
    "processors.order",
    "processors.use",
    "processors.wetPercent",
  ],
  check: ({ doc }) =>
    tracksOf(doc).flatMap((track): readonly Finding[] => {
      if (track.recordPoint !== "after" || track.parked || track.input.kind === "none") return [];
      const printed = cantBeTakenOff(doc, track);
      if (!printed.length || isRecordedDryToo(doc, track)) return [];
      const which = listed(printed.map((one) => processorName(one).toLowerCase()));
      return [
        finding("effect-printed", {
          severity: "hint",
          about: track.id,
          message: `${nameOf(track)} is recorded after its chain, and so with its ${which}, which can't be taken off again.`,
          places: chainOf(track.id),
          fixes: [
            {
              label: `Leave the ${which} off while recording`,
              edits: [
                set(
                  printed.map(({ id }) => id),
                  { use: "not-while-recording" },
                ),
              ],
            },
            {
              label: `Record ${nameOf(track)} before its chain`,
              edits: [{ kind: "entries.set", table: "channels", ids: [track.id], set: { recordPoint: "before" } }],
            },
          ],
        }),
      ];
    }),
};

/** A bus and the track that records it, both in the main bus. */
export const busBesideRecording: Check = {
  id: "bus-beside-recording",
  why: "A bus and its own recording are the same sound: both together are 6 dB too loud.",
  withoutRig: true,
  reads: [...MIXED],
  check: ({ doc }) =>
    tracksOf(doc).flatMap((track): readonly Finding[] => {
      const busId = track.input.kind === "bus" ? recordedFrom(track) : null;
      const bus = busId ? doc.channels[busId] : undefined;
      if (!bus || track.parked || !inUse(bus) || track.muted) return [];
      // By its own way, not by the recording.
      const byItself =
        bus.output.kind === "channel" &&
        (bus.output.channelId === MAIN_ID || soundsIn(doc, [bus.output.channelId], "mixing").has(MAIN_ID)) &&
        faderDbWhen(doc, bus, "mixing") !== null;
      if (!byItself || !soundsIn(doc, [track.id], "mixing").has(MAIN_ID)) return [];
      return [
        finding("bus-beside-recording", {
          severity: "hint",
          about: track.id,
          message: `${nameOf(bus)} is heard in ${nameOf(doc.channels[MAIN_ID])} by itself and by ${nameOf(track)}, which records it: the same twice.`,
          places: [
            { kind: "channel", id: bus.id, field: "output" },
            { kind: "channel", id: track.id, field: "output" },
          ],
          fixes: [
            {
              label: `Let only ${nameOf(track)} be heard`,
              edits: [{ kind: "entries.set", table: "channels", ids: [bus.id], set: { output: { kind: "nowhere" } } }],
            },
          ],
        }),
      ];
    }),
};

/** Buses and returns that something goes into and nothing comes out of, as their fader is all the way down. */
export const sumSilent: Check = {
  id: "sum-silent",
  why: "What goes into a bus whose fader is all the way down is heard nowhere.",
  withoutRig: true,
  reads: [
    ...ROUTING,
    "channels.controlIds",
    "channels.faderDb",
    "channels.muted",
    "controls.faderDb",
    "controls.muted",
    "controls.parentId",
    "sends.on",
  ],
  check: ({ doc }) => {
    const graph = graphOf(doc);
    return sumsIn(doc).flatMap((sum): readonly Finding[] => {
      const ridden = controlledBy(doc, sum);
      if (!inUse(sum) || sum.muted || (sum.faderDb !== null && ridden.db !== null)) return [];
      const fed = intoOf(graph, sum.id).filter(
        (thread) => inUse(doc.channels[thread.from]) && sendOf(graph, thread)?.on !== false,
      );
      if (!fed.length) return [];
      const by = sum.faderDb === null ? null : ridden.controls.find(({ faderDb }) => faderDb === null);
      return [
        finding("sum-silent", {
          severity: "hint",
          message: `${nameOf(sum)} stands at −∞${by ? ` by ${by.name}` : ""}, and ${counted(fed.length, "channel")} ${fed.length === 1 ? "goes" : "go"} into it: nothing of that is heard.`,
          places: [{ kind: "channel", id: sum.id, field: "fader" }],
          fixes: [
            by
              ? {
                  label: `Put ${by.name} at 0 dB`,
                  edits: [{ kind: "entries.set", table: "controls", ids: [by.id], set: { faderDb: dB(0) } }],
                }
              : {
                  label: `Put ${nameOf(sum)} at 0 dB`,
                  edits: [{ kind: "entries.set", table: "channels", ids: [sum.id], set: { faderDb: dB(0) } }],
                },
          ],
        }),
      ];
    });
  },
};

/** Where a name chooses: buses, returns and the main bus of one name. */
export const nameChooses: Check = {
  id: "name-chooses",
  why: "Where a bus is chosen by its name, two of one name are one too many.",
  withoutRig: true,
  reads: ["channels.kind", "channels.name"],
  check: ({ doc }) => {
    const byName = new Map<string, Channel[]>();
    for (const channel of listOf<Channel>(doc.channels))
      if ((isSum(channel) || channel.kind === "main") && plain(channel.name))
        putInto(byName, plain(channel.name), channel);
    return [...byName.values()].flatMap((same): readonly Finding[] =>
      same.slice(1).map((second) => {
        let number = 2;
        while (byName.has(plain(`${second.name} ${number}`))) number++;
        const other = second.kind === "main" ? (same[0] as Channel) : second;
        return finding("name-chooses", {
          severity: "hint",
          about: other.id,
          message: `${same.length === 2 ? "Two" : same.length} channels that others are routed or sent to are called ${second.name}: by its name only the first is found.`,
          places: [{ kind: "channel", id: other.id, field: "name" }],
          fixes: [
            {
              label: `Call it ${second.name} ${number}`,
              edits: [
                {
                  kind: "entries.set",
                  table: "channels",
                  ids: [other.id as ChannelId],
                  set: { name: `${second.name} ${number}` },
                },
              ],
            },
          ],
        });
      }),
    );
  },
};

export const PRINTED_CHECKS: readonly Check[] = [effectPrinted, busBesideRecording, sumSilent, nameChooses];
