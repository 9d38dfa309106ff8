import type { ChannelId, CueId } from "../../model/ids";
import { trackOf } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import type { Template } from "../../model/template";
import { carriedBy, cuesOf } from "../../queries/cues";
import { graphOf } from "../../routing/graph";
import { downFrom } from "../../routing/reach";
import { timerOf, workingOf } from "../../timing/hearing";
import { waysIntoCues } from "../../timing/own-ways";
import { formatMs } from "../../units/milliseconds";
import { nodeIn } from "./beside";
import { EAR_RADIUS, type Ear, type Flow, middle } from "./picture";
import { curve } from "./threads";

/** One way on which a cue has a channel in it. */
export interface HeardWay {
  /** What the cue carries: the channel itself, or a bus or return that it comes to. */
  readonly viaId: ChannelId;
  readonly direct: boolean;
  readonly wet: boolean;
  /** How late, in ms; null where it is not known, as of a bus. */
  readonly ms: number | null;
}

export interface HeardIn {
  readonly cueId: CueId;
  readonly name: string;
  /** The earliest first, dry ones before wet ones; none: it is not heard there. */
  readonly ways: readonly HeardWay[];
}

const sooner = (a: HeardWay, b: HeardWay): number =>
  Number(a.wet) - Number(b.wet) || (a.ms ?? 0) - (b.ms ?? 0) || (a.viaId < b.viaId ? -1 : 1);

/**
 * Who hears a channel, and by which ways: a track with how late it comes there (converters, buffers and chains, as for
 * performers' own sound); anything else by what the cues carry of it.
 */
export const heardOf = (doc: Template, rig: Rig, id: ChannelId): readonly HeardIn[] => {
  const track = trackOf(doc, id);
  if (track) {
    const timer = timerOf(doc, rig, workingOf(doc));
    const names = new Map(cuesOf(doc).map((cue) => [cue.id, cue.name]));
    return waysIntoCues(doc, rig, track).map(({ cueId, ways }) => ({
      cueId,
      name: names.get(cueId) ?? "",
      ways: ways
        .map((way) => ({
          viaId: way.channelIds.at(-1) ?? id,
          direct: way.direct,
          wet: way.wet,
          ms: timer.parts(way).reduce((sum, { ms }) => sum + ms, 0),
        }))
        .sort(sooner),
    }));
  }
  const reached = downFrom(graphOf(doc), id).channels;
  return cuesOf(doc).map((cue) => ({
    cueId: cue.id,
    name: cue.name,
    ways: [...carriedBy(doc, cue.id).values()]
      .filter(({ sourceId, on, levelDb }) => on && levelDb !== null && reached.has(sourceId))
      .map(({ sourceId }) => ({
        viaId: sourceId,
        direct: false,
        wet: doc.channels[sourceId]?.kind === "return",
        ms: null,
      }))
      .sort(sooner),
  }));
};

/** Of several ways the earliest dry and the latest wet one, as they are told. */
export const toldWays = (ways: readonly HeardWay[]): readonly HeardWay[] => {
  const dry = ways.filter(({ wet }) => !wet);
  const wet = ways.filter((way) => way.wet);
  return [...dry.slice(0, 2), ...wet.slice(0, 1)];
};

/** One way in words: "direct, 0.9 ms", "through Voices, 6.4 ms", "through Plate, wet". */
export const heardInWords = (doc: Template, id: ChannelId, { viaId, direct, wet, ms }: HeardWay): string => {
  const through = viaId === id ? "through the computer" : `through ${doc.channels[viaId]?.name ?? "a bus"}`;
  return [direct ? "direct" : through, wet ? "wet" : "", ms === null ? "" : formatMs(ms)].filter(Boolean).join(", ");
};

/** A thread from what a cue carries to who hears it. */
export interface EarThread {
  readonly id: string;
  readonly path: string;
  readonly direct: boolean;
  readonly wet: boolean;
  readonly viaId: ChannelId;
}

/** The threads of what is heard to the headphones, as they are drawn over the picture. */
export const earThreads = (flow: Flow, heard: readonly HeardIn[]): readonly EarThread[] =>
  flow.ears.flatMap((ear): EarThread[] =>
    toldWays(heard.find(({ cueId }) => cueId === ear.cueId)?.ways ?? []).flatMap((way) => {
      const node = nodeIn(flow, way.viaId);
      if (!node) return [];
      const from = { x: node.x + node.width, y: middle(node) + (way.direct ? -node.height / 4 : node.height / 4) };
      return [
        {
          id: `${ear.cueId} ${way.viaId} ${way.direct}`,
          path: curve(from.x, from.y, ear.x - EAR_RADIUS, ear.y),
          direct: way.direct,
          wet: way.wet,
          viaId: way.viaId,
        },
      ];
    }),
  );

/** What is said below a name: how late the selected comes there, or that it does not. */
export const earSays = (ear: Pick<Ear, "cueId">, heard: readonly HeardIn[]): string | null => {
  const [first] = heard.find(({ cueId }) => cueId === ear.cueId)?.ways ?? [];
  if (!first) return null;
  return first.ms === null ? (first.wet ? "wet" : "heard") : `at ${formatMs(first.ms)}${first.wet ? ", wet" : ""}`;
};
