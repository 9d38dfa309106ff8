import type { PortId } from "../model/ids";
import { rigInputInWords, rigInputOf } from "../model/read-rig";
import { listOf } from "../model/table";
import type { ProcessorOf } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import { processorName } from "../model/tables/processor-names";
import { isWorking } from "../queries/at-work";
import { freeCueOutput } from "../queries/cue-outputs";
import { cuesOf } from "../queries/cues";
import { linesByPort } from "../queries/free-inputs";
import { outputsInWords } from "../queries/outputs";
import { remarkable } from "../queries/remarkable";
import { type Check, type CheckContext, type Finding, type Fix, finding } from "./finding";
import { nameOf as lineNameOf } from "./place-fixes";
import { REMARKABLE, TRACKS } from "./reads";
import { chainOf, inUse, nameOf, set, used } from "./remarkable";
import { rigFindings } from "./rig-findings";

type Insert = ProcessorOf<"insert">;

const insertsOf = ({ doc }: CheckContext): readonly Insert[] =>
  used(doc, remarkable(doc.processors).inserts).filter((one) => isWorking(doc, one));
const meets = (a: readonly string[], b: readonly string[]): boolean => a.some((id) => b.includes(id));
const insertName = ({ doc }: CheckContext, insert: Insert): string =>
  `${processorName(insert)} on ${nameOf(doc.channels[insert.channelId])}`;

const elsewhere = ({ doc, rig }: CheckContext, cue: Cue): readonly Fix[] => {
  const free = freeCueOutput(doc, rig);
  return free
    ? [
        {
          label: `Let ${cue.name} go out by ${free.label}`,
          edits: [{ kind: "entries.set", table: "cues", ids: [cue.id], set: { portIds: free.portIds } }],
        },
      ]
    : [];
};

/** What else goes out where a cue does: a channel by its own output, or a hardware insert. */
const besideCue = (context: CheckContext, cue: Cue): string | null => {
  const { doc, rig } = context;
  const channel = listOf<Channel>(doc.channels).find(
    (one) => one.output.kind === "hardware" && inUse(one) && meets(one.output.portIds, cue.portIds),
  );
  if (channel?.output.kind === "hardware")
    return `${nameOf(channel)} goes out by ${outputsInWords(rig, channel.output.portIds)} as well`;
  const insert = insertsOf(context).find(({ sendPortIds }) => meets(sendPortIds, cue.portIds));
  return insert ? `${insertName(context, insert)} goes out there as well` : null;
};

/** Cues on outputs that something else has: the monitors, a channel, a hardware insert. */
export const cueOutputTaken: Check = {
  id: "cue-output-taken",
  why: "What goes out where a cue does is heard on top of it: the monitors in the headphones, or the headphones in the box that an insert goes through.",
  reads: [
    "buffers",
    "channels.kind",
    "channels.output",
    "channels.parked",
    "cues.order",
    "cues.portIds",
    "processors.bypassed",
    "processors.channelId",
    "processors.installed",
    "processors.kind",
    "processors.listens",
    "processors.sendPortIds",
    "processors.steering",
    "processors.use",
  ],
  check: (context) =>
    cuesOf(context.doc).flatMap((cue): readonly Finding[] => {
      const other = besideCue(context, cue);
      if (!other) return [];
      return [
        finding("cue-output-taken", {
          severity: "problem",
          message: `${other}, where ${cue.name} does: both are heard on top of each other.`,
          places: [{ kind: "cue", id: cue.id, field: "output" }],
          fixes: elsewhere(context, cue),
        }),
      ];
    }),
};

const shares = (a: Insert, b: Insert): boolean =>
  meets(a.sendPortIds, b.sendPortIds) || meets(a.returnPortIds, b.returnPortIds);

const off = ({ id }: Insert): Fix => ({ label: "Bypass it", edits: [set([id], { bypassed: true })] });

/** Inserts through one box at the same time. */
const onOneLoop = (context: CheckContext): readonly Finding[] => {
  const inserts = insertsOf(context);
  return inserts.flatMap((second, at): readonly Finding[] => {
    const first = inserts.slice(0, at).find((one) => shares(one, second));
    if (!first) return [];
    return [
      finding("insert-shared", {
        severity: "problem",
        about: second.id,
        message: `${insertName(context, second)} goes through the same ports as ${insertName(context, first)}: both come back in both.`,
        places: chainOf(second.channelId),
        fixes: [off(second)],
      }),
    ];
  });
};

/** Inserts that come back where a line is plugged in, or go out where a channel does. */
const ontoOthers = (context: CheckContext): readonly Finding[] => {
  const { doc, rig } = context;
  const lines = linesByPort(doc);
  return insertsOf(context).flatMap((insert): readonly Finding[] => {
    const port = insert.returnPortIds.find((id) => lines.has(id as PortId));
    const line = port ? lines.get(port as PortId)?.[0] : undefined;
    const input = rigInputOf(rig, (port ?? null) as PortId | null);
    const channel = listOf<Channel>(doc.channels).find(
      (one) => one.output.kind === "hardware" && inUse(one) && meets(one.output.portIds, insert.sendPortIds),
    );
    const told = (about: string, message: string): Finding =>
      finding("insert-shared", {
        severity: "problem",
        about: `${insert.id}:${about}`,
        message,
        places: chainOf(insert.channelId),
        fixes: [off(insert)],
      });
    return [
      ...(line && input
        ? [
            told(
              "line",
              `${insertName(context, insert)} comes back on ${rigInputInWords(input)}, where ${lineNameOf(doc, line)} is plugged in.`,
            ),
          ]
        : []),
      ...(channel
        ? [
            told(
              "output",
              `${insertName(context, insert)} goes out where ${nameOf(channel)} does: both go through the box.`,
            ),
          ]
        : []),
    ];
  });
};

export const insertShared: Check = {
  id: "insert-shared",
  why: "A box takes one signal at a time, and an input one plug.",
  check: (context) => [...onOneLoop(context), ...ontoOthers(context)],
  reads: [
    ...REMARKABLE,
    ...TRACKS,
    "channels.said",
    "buffers",
    "channels.output",
    "channels.parked",
    "lines.portId",
    "lines.source",
    "processors.returnPortIds",
    "processors.sendPortIds",
    "processors.use",
  ],
};

/**
 * What is wrong with the rig itself: who leads the clock, what is wired twice or to where it can't go. It is put right
 * in the rig.
 */
export const rigUnsound: Check = {
  id: "rig-unsound",
  why: "A fault of the rig is one of every template on it.",
  reads: [],
  check: ({ doc, rig }) =>
    rigFindings(rig).map(({ id, severity, message }) =>
      finding("rig-unsound", {
        about: id,
        severity,
        message: `${rig.name}: ${message}`,
        places: [{ kind: "template", id: doc.id, field: "rig" }],
        fixes: [],
      }),
    ),
};

export const OUTPUT_CHECKS: readonly Check[] = [cueOutputTaken, insertShared, rigUnsound];
