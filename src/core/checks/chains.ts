import type { ChainProcessorId, ChannelId } from "../model/ids";
import { hardwareOutputs, rigInputsOf } from "../model/read-rig";
import { isSum } from "../model/read-template";
import type { Processor } from "../model/tables/chain-processors";
import { MAIN_ID } from "../model/tables/channel-fields";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { bandsOf, processorsOf, sideChainsOf } from "../queries/chains";
import { needsOf } from "../queries/installed";
import { remarkable } from "../queries/remarkable";
import { graphOf, intoOf, sendOf } from "../routing/graph";
import { channelSamples, delayContext } from "../timing/arrivals";
import { processorDelay } from "../timing/processor-delay";
import { counted } from "../units/counted";
import { type Check, type Finding, finding } from "./finding";
import { DELAYS, REMARKABLE, ROUTING } from "./reads";
import { chainOf, inUse, nameOf, set, sumsIn, used } from "./remarkable";

/** Effects on returns that let some of what is sent through as it is. */
export const notFullyWet: Check = {
  id: "not-fully-wet",
  why: "A return that lets the dry sound through doubles what goes on beside it, a little late.",
  withoutRig: true,
  reads: [
    ...REMARKABLE,
    "channels.input",
    "channels.kind",
    "channels.output",
    "channels.parked",
    "processors.wetPercent",
    "sends.fromId",
    "sends.toId",
    "sideChains.id",
  ],
  check: ({ doc }) =>
    used(doc, remarkable(doc.processors).effects).flatMap((processor): readonly Finding[] => {
      const channel = doc.channels[processor.channelId];
      if (channel?.kind !== "return" || processor.wetPercent === 100) return [];
      const dry = intoOf(graphOf(doc), channel.id).some(
        ({ kind, from }) => kind === "send" && doc.channels[from]?.output.kind !== "nowhere",
      );
      return dry
        ? [
            finding("not-fully-wet", {
              severity: "hint",
              about: processor.id,
              message: `${processorName(processor)} on the return ${nameOf(channel)} is ${processor.wetPercent} % wet, and what is sent there is heard dry as well: that is heard twice.`,
              places: chainOf(channel.id),
              fixes: [{ label: "Make it 100 % wet", edits: [set([processor.id], { wetPercent: 100 })] }],
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
  reads: [...ROUTING, ...REMARKABLE, "channels.muted"],
  check: ({ doc }) =>
    used(doc, remarkable(doc.processors).listening).flatMap((processor): readonly Finding[] => {
      const sides = sideChainsOf(doc, processor.id);
      const graph = graphOf(doc);
      const silent = (id: ChannelId): boolean => {
        const channel = doc.channels[id];
        return (
          !inUse(channel) || (channel.kind !== "main" && channel.muted) || (isSum(channel) && !intoOf(graph, id).length)
        );
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
            { label: `Take ${who} off`, edits: [{ kind: "entries.remove", table: "processors", ids: [processor.id] }] },
            ...(sides.length
              ? []
              : [
                  {
                    label: "Let it listen to what goes through it",
                    edits: [set([processor.id], { listens: "itself" })],
                  },
                ]),
          ],
        }),
      ];
    }),
};

/** Processors that are asked for by name and are not on this rig, or older than asked for. */
export const processorMissing: Check = {
  id: "processor-missing",
  why: "A template that opens with half of its processors missing sounds like another one.",
  reads: [
    "channels.kind",
    "channels.parked",
    "processors.bypassed",
    "processors.channelId",
    "processors.from",
    "processors.installed",
    "processors.kind",
    "processors.listens",
    "processors.steering",
    "processors.version",
  ],
  check: ({ doc, rig }) =>
    needsOf(used(doc, remarkable(doc.processors).asking), rig).flatMap(
      ({ name, version, state, has, from, processors }): readonly Finding[] => {
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
            places: processors
              .slice(0, 12)
              .map(({ channelId }) => ({ kind: "channel", id: channelId, field: "chain" })),
            fixes: [
              state === "older"
                ? { label: `Ask for ${has || "any version"}`, edits: [set(idsOf(processors), { version: has })] }
                : { label: "Let any of its kind do", edits: [set(idsOf(processors), { installed: "", version: "" })] },
            ],
          }),
        ];
      },
    ),
};

const idsOf = (processors: readonly Processor[]): readonly ChainProcessorId[] => processors.map(({ id }) => id);

/**
 * Whether a processor does anything to the sound. Of what is none of our kinds nobody can tell: as it takes no time it
 * is taken for a meter.
 */
const changesSound = (doc: Template, processor: Processor): boolean => {
  if (processor.kind === "tuner" || processor.kind === "other" || processor.wetPercent === 0) return false;
  if (processor.kind === "gain") return processor.gainDb !== 0 || processor.turned;
  return (
    processor.kind !== "equaliser" ||
    bandsOf(doc, processor.id).some(
      ({ bypassed, gainDb, shape }) => !bypassed && (gainDb !== 0 || shape.endsWith("pass") || shape === "notch"),
    )
  );
};

/** Processors on the main bus that are on while recording. */
export const mainProcessed: Check = {
  id: "main-processed",
  why: "What works on the main bus while recording is in everything that is heard, adds its delay to it, and hides what is recorded.",
  withoutRig: true,
  reads: [
    "bands.bypassed",
    "bands.gainDb",
    "bands.processorId",
    "bands.shape",
    ...DELAYS,
    "channels.id",
    "processors.gainDb",
    "processors.name",
    "processors.pass",
    "processors.turned",
    "processors.wetPercent",
  ],
  check: ({ doc }) => {
    const context = delayContext(doc);
    // What only looks at the sound, or does nothing to it, and takes no time is a meter, or as good as one.
    const on = processorsOf(doc, MAIN_ID).filter(
      (processor) =>
        isWorking(doc, processor) && (processorDelay(processor, context) > 0 || changesSound(doc, processor)),
    );
    if (!on.length) return [];
    const late = channelSamples(doc, MAIN_ID, context);
    return [
      finding("main-processed", {
        severity: "hint",
        message: `${on.map(processorName).join(", ")} on ${nameOf(doc.channels[MAIN_ID])} ${on.length === 1 ? "is" : "are"} on while recording: everybody hears it${late ? `, ${counted(late, "sample")} late` : ""}, and no track has it.`,
        places: chainOf(MAIN_ID),
        fixes: [{ label: "Leave it off while recording", edits: [set(idsOf(on), { use: "not-while-recording" })] }],
      }),
    ];
  },
};

/** Returns with an effect of which nothing is heard, as all that is sent there is off. */
export const effectUnused: Check = {
  id: "effect-unused",
  why: "Effects that nobody uses make a template slow to open and the computer gasp at a small buffer.",
  withoutRig: true,
  reads: [
    ...ROUTING,
    "processors.kind",
    "processors.name",
    "processors.order",
    "processors.pass",
    "sends.levelDb",
    "sends.on",
  ],
  check: ({ doc }) => {
    const graph = graphOf(doc);
    return sumsIn(doc).flatMap((sum): readonly Finding[] => {
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
                {
                  label: `Park ${nameOf(sum)}`,
                  edits: [{ kind: "entries.set", table: "channels", ids: [sum.id], set: { parked: true } }],
                },
                {
                  label: `Remove ${nameOf(sum)}`,
                  edits: [{ kind: "entries.remove", table: "channels", ids: [sum.id] }],
                },
              ],
            }),
          ];
    });
  },
};

/** Hardware inserts that are not plugged in, or on ports that the rig does not have. */
export const insertNotOnRig: Check = {
  id: "insert-not-on-rig",
  why: "A chain that goes out and does not come back is silent from there on.",
  reads: [...REMARKABLE, "channels.kind", "channels.parked", "processors.returnPortIds", "processors.sendPortIds"],
  check: ({ doc, rig }) => {
    const outs = new Set<string>(hardwareOutputs(rig).map(({ id }) => id));
    const ins = new Set<string>(rigInputsOf(rig).map(({ port }) => port.id));
    return used(doc, remarkable(doc.processors).inserts).flatMap((processor): readonly Finding[] => {
      const { sendPortIds, returnPortIds } = processor;
      const there =
        sendPortIds.length > 0 &&
        returnPortIds.length > 0 &&
        sendPortIds.every((id) => outs.has(id)) &&
        returnPortIds.every((id) => ins.has(id));
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
              fixes: [{ label: "Bypass it", edits: [set([processor.id], { bypassed: true })] }],
            }),
          ];
    });
  },
};

/** Settings that are moved by a controller which the rig does not have. */
export const controllerNotOnRig: Check = {
  id: "controller-not-on-rig",
  why: "A setting that nothing moves stays where it is.",
  reads: [...REMARKABLE, "channels.kind", "channels.parked"],
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
          fixes: [{ label: "Let nothing move it", edits: [set([processor.id], { steering: null })] }],
        }),
      ];
    }),
};

export const CHAIN_CHECKS: readonly Check[] = [
  notFullyWet,
  silentSideChain,
  processorMissing,
  mainProcessed,
  effectUnused,
  insertNotOnRig,
  controllerNotOnRig,
];
