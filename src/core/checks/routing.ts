import type { ChannelId, SendId } from "../model/ids";
import { hardwareOutputs, monitorOutputs } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { entriesOf, listOf } from "../model/table";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import { controlledBy } from "../queries/controls";
import { layoutOf } from "../queries/layouts";
import { outputsInWords } from "../queries/outputs";
import { type Graph, graphOf, intoOf, outOf, sendOf } from "../routing/graph";
import { downFrom } from "../routing/reach";
import { counted } from "../units/counted";
import { type Check, type Finding, type Fix, finding } from "./finding";
import { ROUTING } from "./reads";
import { inUse, nameOf, sumsIn } from "./remarkable";

const toMain = (channelIds: readonly ChannelId[]) =>
  ({
    kind: "entries.set",
    table: "channels",
    ids: channelIds,
    set: { output: { kind: "channel", channelId: MAIN_ID } },
  }) as const;

/** To the monitors, where the rig has any. */
const toMonitors = (rig: Rig, id: ChannelId): readonly Fix[] => {
  const portIds = monitorOutputs(rig);
  return portIds.length
    ? [
        {
          label: `Route it to ${outputsInWords(rig, portIds)}`,
          edits: [
            { kind: "entries.set", table: "channels", ids: [id], set: { output: { kind: "hardware", portIds } } },
          ],
        },
      ]
    : [];
};

/** What is on in a cue that somebody hears. */
const heardIn = (doc: Template): ReadonlySet<ChannelId> =>
  new Set(
    listOf<CueLevel>(doc.cueLevels).flatMap(({ cueId, sourceId, on, levelDb }) =>
      on && levelDb !== null && doc.cues[cueId]?.people.length ? [sourceId] : [],
    ),
  );

/** A track that goes nowhere on purpose says so; what goes to a bus that ends nowhere does not. */
export const notHeard: Check = {
  id: "not-heard",
  why: "A channel whose sound reaches no output is missed only when everybody listens.",
  withoutRig: true,
  reads: [...ROUTING, "cueLevels.cueId", "cueLevels.levelDb", "cueLevels.on", "cueLevels.sourceId", "cues.people"],
  check: ({ doc, rig }) => {
    const graph = graphOf(doc);
    // Looked for only where something goes nowhere.
    let inCues: ReadonlySet<ChannelId> | null = null;
    const isInCue = (id: ChannelId): boolean => {
      inCues ??= heardIn(doc);
      return inCues.has(id);
    };
    return listOf<Channel>(doc.channels).flatMap((channel) => {
      if (
        channel.output.kind !== "nowhere" ||
        channel.kind === "track" ||
        channel.kind === "instrument" ||
        !inUse(channel) ||
        !intoOf(graph, channel.id).length
      )
        return [];
      // What goes nowhere itself may be sent on, recorded, or heard in headphones only.
      if (
        [...downFrom(graph, channel.id).channels].some(
          (id) => doc.channels[id]?.output.kind === "hardware" || doc.channels[id]?.kind === "track" || isInCue(id),
        )
      )
        return [];
      const fed = intoOf(graph, channel.id).length;
      return [
        finding("not-heard", {
          severity: "problem",
          message: `${nameOf(channel)} goes nowhere, and ${counted(fed, "channel")} ${fed === 1 ? "feeds" : "feed"} it: nothing of that is heard.`,
          places: [{ kind: "channel", id: channel.id, field: "output" }],
          fixes:
            channel.kind === "main"
              ? toMonitors(rig, channel.id)
              : [
                  {
                    label: `Route ${nameOf(channel)} to ${nameOf(doc.channels[MAIN_ID])}`,
                    edits: [toMain([channel.id])],
                  },
                ],
        }),
      ];
    });
  },
};

/** Outputs that the rig does not have. */
export const outputNotOnRig: Check = {
  id: "output-not-on-rig",
  why: "What goes to an output that is not there is heard nowhere.",
  reads: ["channels.kind", "channels.output"],
  check: ({ doc, rig }) => {
    const there = new Set<string>(hardwareOutputs(rig).map(({ id }) => id));
    return listOf<Channel>(doc.channels).flatMap((channel) => {
      const { output } = channel;
      if (output.kind !== "hardware" || !inUse(channel) || output.portIds.some((id) => there.has(id))) return [];
      const main = {
        label: `Route ${nameOf(channel)} to ${nameOf(doc.channels[MAIN_ID])}`,
        edits: [toMain([channel.id])],
      };
      return [
        finding("output-not-on-rig", {
          severity: "problem",
          message: `${nameOf(channel)} goes to an output that ${rig.name} does not have.`,
          places: [{ kind: "channel", id: channel.id, field: "output" }],
          fixes: channel.kind === "main" ? toMonitors(rig, channel.id) : [main],
        }),
      ];
    });
  },
};

/** Buses and returns that nothing feeds. */
export const nothingFeeds: Check = {
  id: "nothing-feeds",
  why: "A bus or return that nothing feeds is usually left over, or a send was forgotten.",
  withoutRig: true,
  reads: [...ROUTING],
  check: ({ doc }) => {
    const graph = graphOf(doc);
    return sumsIn(doc).flatMap((sum) =>
      !inUse(sum) || intoOf(graph, sum.id).length
        ? []
        : [
            finding("nothing-feeds", {
              severity: "hint",
              message:
                sum.kind === "return"
                  ? `Nothing is sent to the return ${nameOf(sum)}.`
                  : `Nothing is routed to the bus ${nameOf(sum)}.`,
              places: [{ kind: "channel", id: sum.id, field: "name" }],
              fixes: [
                {
                  label: `Remove ${nameOf(sum)}`,
                  edits: [{ kind: "entries.remove", table: "channels", ids: [sum.id] }],
                },
              ],
            }),
          ],
    );
  },
};

/** Sends that are on and lead to something that lets nothing through. */
export const deadSend: Check = {
  id: "dead-send",
  why: "What is sent to a return that is parked or muted is not heard.",
  withoutRig: true,
  reads: [...ROUTING, "channels.muted", "sends.on"],
  check: ({ doc }) =>
    sumsIn(doc).flatMap((sum) => {
      if (!sum.parked && !sum.muted) return [];
      const graph = graphOf(doc);
      const sent = intoOf(graph, sum.id).filter(
        (thread) => sendOf(graph, thread)?.on && inUse(doc.channels[thread.from]),
      );
      if (!sent.length) return [];
      const state = sum.parked ? "parked" : "muted";
      const wakes = sum.parked ? { parked: false } : { muted: false };
      return [
        finding("dead-send", {
          severity: "hint",
          message: `${nameOf(sum)} is ${state}, and ${counted(sent.length, "send")} ${sent.length === 1 ? "leads" : "lead"} there.`,
          places: [{ kind: "channel", id: sum.id, field: "sends" }],
          fixes: [
            {
              label: sum.parked ? `Take ${nameOf(sum)} into use again` : `Unmute ${nameOf(sum)}`,
              edits: [{ kind: "entries.set", table: "channels", ids: [sum.id], set: wakes }],
            },
            {
              label: `Switch the ${counted(sent.length, "send")} off`,
              edits: [
                { kind: "entries.set", table: "sends", ids: sent.map(({ id }) => id as SendId), set: { on: false } },
              ],
            },
          ],
        }),
      ];
    }),
};

/** Whether a channel has more than one side. */
const isWide = (doc: Template, channel: Channel | undefined): boolean =>
  channel !== undefined && layoutOf(doc, channel) !== "mono";

/** Mono returns that stereo sources are sent to. */
export const monoReturn: Check = {
  id: "mono-return",
  why: "What is stereo collapses in a return that is mono.",
  withoutRig: true,
  reads: [...ROUTING, "channels.fold", "channels.layout"],
  check: ({ doc }) =>
    sumsIn(doc).flatMap((sum) => {
      // Which side comes in may have been said: then nothing collapses unseen.
      if (sum.layout !== "mono" || sum.fold !== "sum" || !inUse(sum)) return [];
      const stereo = intoOf(graphOf(doc), sum.id).filter(
        ({ from }) => inUse(doc.channels[from]) && isWide(doc, doc.channels[from]),
      );
      if (!stereo.length) return [];
      return [
        finding("mono-return", {
          severity: "hint",
          message: `${nameOf(sum)} is mono, and ${stereo.length === 1 ? `${nameOf(doc.channels[stereo[0]?.from ?? MAIN_ID])} is` : `${counted(stereo.length, "channel")} are`} stereo: left and right are added up there.`,
          places: [{ kind: "channel", id: sum.id, field: "name" }],
          fixes: [
            {
              label: `Make ${nameOf(sum)} stereo`,
              edits: [{ kind: "entries.set", table: "channels", ids: [sum.id], set: { layout: "stereo" } }],
            },
            {
              label: "Let only the left side come in",
              edits: [{ kind: "entries.set", table: "channels", ids: [sum.id], set: { fold: "left" } }],
            },
          ],
        }),
      ];
    }),
};

/** The last fader away from 0 dB. */
export const mainFader: Check = {
  id: "main-fader",
  why: "What is heard while recording should be what is stored: the last fader is left at 0 dB and levels are set before it.",
  withoutRig: true,
  reads: ["channels.faderDb"],
  check: ({ doc }) => {
    const main = doc.channels[MAIN_ID];
    if (!main || main.faderDb === 0) return [];
    return [
      finding("main-fader", {
        severity: "hint",
        message: `The fader of ${nameOf(main)} stands away from 0 dB. Set levels in the buses before it.`,
        places: [{ kind: "channel", id: main.id, field: "fader" }],
        fixes: [
          {
            label: `Put ${nameOf(main)} at 0 dB`,
            edits: [{ kind: "entries.set", table: "channels", ids: [main.id], set: { faderDb: 0 as never } }],
          },
        ],
      }),
    ];
  },
};

/** Where a channel leads by outputs only; null where that is nowhere. */
const sumsAlong = (doc: Template, id: ChannelId): ReadonlySet<ChannelId> => {
  const found = new Set<ChannelId>();
  for (
    let at = doc.channels[id];
    at?.output.kind === "channel" && !found.has(at.output.channelId);
    at = doc.channels[at.output.channelId]
  )
    found.add(at.output.channelId);
  return found;
};

/** The bus of a family that can be pulled down while what is sent from its members to a return beside it stays. */
export const reverbStays: Check = {
  id: "reverb-stays",
  why: "A family that is pulled down by its bus rings on where its members are sent to a return that goes past that bus.",
  withoutRig: true,
  reads: [
    ...ROUTING,
    "channels.controlIds",
    "channels.faderDb",
    "controls.faderDb",
    "controls.muted",
    "controls.name",
    "controls.parentId",
    "folders.busId",
    "sends.on",
  ],
  check: ({ doc }) => {
    const graph: Graph = graphOf(doc);
    return entriesOf(doc.folders).flatMap((folder): readonly Finding[] => {
      const bus = folder.busId ? doc.channels[folder.busId] : undefined;
      if (bus?.kind !== "bus" || bus.parked) return [];
      const ridden = controlledBy(doc, bus);
      if (bus.faderDb === 0 && ridden.db === 0) return [];
      const sent = intoOf(graph, bus.id).flatMap(({ kind, from }) =>
        kind === "output" ? outOf(graph, from).filter((thread) => sendOf(graph, thread)?.on) : [],
      );
      const past = [...new Set(sent.map(({ to }) => to))].filter((to) => {
        const target = doc.channels[to];
        if (!inUse(target) || sumsAlong(doc, to).has(bus.id)) return false;
        // A control fader that lies over both keeps the balance.
        return bus.faderDb !== 0 || controlledBy(doc, target).db !== ridden.db;
      });
      const [first] = past;
      if (!first) return [];
      const names = past.map((to) => nameOf(doc.channels[to])).join(", ");
      return [
        finding("reverb-stays", {
          severity: "hint",
          message: `${nameOf(bus)} is not at 0 dB${bus.faderDb === 0 ? ` by ${ridden.controls.map(({ name }) => name).join(", ")}` : ""}, and its members are sent to ${names}, which ${past.length === 1 ? "goes" : "go"} past it: the balance of dry and sent changes with that fader.`,
          places: [{ kind: "channel", id: bus.id, field: "fader" }],
          fixes: [],
        }),
      ];
    });
  },
};

export const ROUTING_CHECKS: readonly Check[] = [
  notHeard,
  outputNotOnRig,
  nothingFeeds,
  deadSend,
  monoReturn,
  mainFader,
  reverbStays,
];
