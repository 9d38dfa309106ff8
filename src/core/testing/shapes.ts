import type { ChainProcessorId, ChannelId, CueId, CueLevelId, LineId, SendId } from "../model/ids";
import { newBand } from "../model/tables/bands";
import { newProcessor } from "../model/tables/chain-processors";
import { MAIN_ID } from "../model/tables/channel-fields";
import { type Channel, newChannel } from "../model/tables/channels";
import { newCueLevel } from "../model/tables/cue-levels";
import { newCue } from "../model/tables/cues";
import { newLine } from "../model/tables/lines";
import { newSend } from "../model/tables/sends";
import { emptyTemplate, type Template } from "../model/template";
import { aWeave } from "./a-weave";

const keyed = <T extends { readonly id: string }>(entries: readonly T[]) =>
  Object.fromEntries(entries.map((entry) => [entry.id, entry]));
const inRow = (at: number): string => `a${at.toString(36).padStart(3, "0")}1`;
const to = (channelId: ChannelId) => ({ kind: "channel", channelId }) as const;

/** Cues that all carry the same, each with its own player, who plays every so many tracks. */
const withCues = (
  doc: Template,
  { count, sources }: { readonly count: number; readonly sources: readonly ChannelId[] },
): Template => {
  const cues = Array.from({ length: count }, (_, at) => ({
    ...newCue({
      id: `cue-${at}` as CueId,
      name: `Cue ${at}`,
      people: [`Player ${at}`],
      portIds: [`brindle:out:${2 * at + 1}`, `brindle:out:${2 * at + 2}`] as never,
    }),
    order: inRow(at),
  }));
  const levels = cues.flatMap(({ id }) =>
    sources.map((sourceId) => newCueLevel({ id: `${id}-${sourceId}` as CueLevelId, cueId: id, sourceId })),
  );
  const lines = Object.fromEntries(
    Object.entries(doc.lines).map(([id, line], at) => [id as LineId, { ...line, player: `Player ${at % count}` }]),
  );
  return { ...doc, lines, cues: keyed(cues), cueLevels: keyed(levels) };
};

/** The template by which edits are measured: 512 channels, 4,096 sends, 16 cues of every track, 830 processors. */
export const aLargeEvening = (): Template => {
  const doc = aWeave(512, 4096);
  const tracks = Object.keys(doc.channels).filter((id) => id.startsWith("track-")) as ChannelId[];
  return withCues(doc, { count: 16, sources: tracks });
};

/**
 * So many buses in a row, each into the next and sent on to those that follow, and cues of tracks and buses: in a row
 * of these there are more ways than can be walked.
 */
export const busesInARow = ({
  buses,
  sends,
  cues,
  each,
}: {
  readonly buses: number;
  readonly sends: number;
  readonly cues: number;
  readonly each: number;
}): Template => {
  const empty = emptyTemplate({
    id: "row" as never,
    name: "Row",
    kind: "band",
    rigId: "whole-mill" as never,
    mainOutputs: ["brindle:out:1" as never, "brindle:out:2" as never],
  });
  const bus = (at: number): ChannelId => (at >= buses ? MAIN_ID : (`bus-${at}` as ChannelId));
  const lines = Array.from({ length: 64 }, (_, at) => newLine({ id: `line-${at}` as LineId, source: `Source ${at}` }));
  const channels: Channel[] = [
    ...Array.from({ length: buses }, (_, at) =>
      newChannel("bus", { id: bus(at), name: `Bus ${at}`, output: to(bus(at + 1)) }),
    ),
    ...lines.map((line, at) => ({
      ...newChannel("track", {
        id: `track-${at}` as ChannelId,
        name: `Track ${at}`,
        input: { kind: "line", lineId: line.id },
        sharing: null,
        icon: null,
        output: to(bus(0)),
      }),
      monitor: "computer" as const,
      order: inRow(at),
    })),
  ];
  const sent = [];
  for (let step = 2; sent.length < sends && step < buses; step++)
    for (let at = 0; at + step < buses && sent.length < sends; at++)
      sent.push(newSend({ id: `send-${sent.length}` as SendId, fromId: bus(at), toId: bus(at + step) }));
  const doc = {
    ...empty,
    lines: keyed(lines),
    channels: { ...empty.channels, ...keyed(channels) },
    sends: keyed(sent),
  };
  const sources = [
    ...lines.map((_, at) => `track-${at}` as ChannelId),
    ...Array.from({ length: buses }, (_, at) => bus(buses - 1 - at)),
  ].slice(0, each);
  const halves = [
    ...sources.slice(0, Math.ceil(each / 2)),
    ...Array.from({ length: Math.floor(each / 2) }, (_, at) => bus(buses - 1 - at)),
  ];
  return withCues(doc, { count: cues, sources: [...new Set(halves)] });
};

/** Every track sent to every return. */
export const wideSends = (tracks: number, returns: number): Template => {
  const doc = aWeave(16, 0);
  const lines = Array.from({ length: tracks }, (_, at) =>
    newLine({ id: `wide-line-${at}` as LineId, source: `Wide ${at}` }),
  );
  const rooms = Array.from({ length: returns }, (_, at) =>
    newChannel("return", { id: `wide-return-${at}` as ChannelId, name: `Wide room ${at}` }),
  );
  const all = lines.map((line, at) => ({
    ...newChannel("track", {
      id: `wide-${at}` as ChannelId,
      name: `Wide ${at}`,
      input: { kind: "line", lineId: line.id },
      sharing: null,
      icon: null,
    }),
    order: `b${at.toString(36).padStart(4, "0")}1`,
  }));
  const sends = all.flatMap(({ id }) =>
    rooms.map((room) => newSend({ id: `${id}-${room.id}` as SendId, fromId: id, toId: room.id })),
  );
  return {
    ...doc,
    lines: { ...doc.lines, ...keyed(lines) },
    channels: { ...doc.channels, ...keyed([...rooms, ...all]) },
    sends: keyed(sends),
  };
};

/** As many cues as may be, each of so many tracks. */
export const manyCues = (cues: number, each: number): Template => {
  const doc = aWeave(Math.max(256, each * 2), 256);
  const tracks = Object.keys(doc.channels).filter((id) => id.startsWith("track-")) as ChannelId[];
  return withCues(doc, { count: cues, sources: tracks.slice(0, each) });
};

/** Tracks with long chains: so many processors, and equalisers of bands among them. */
export const longChains = (tracks: number, each: number): Template => {
  const doc = aWeave(Math.ceil((tracks * 16) / 13), 0);
  const ids = Object.keys(doc.channels)
    .filter((id) => id.startsWith("track-"))
    .slice(0, tracks) as ChannelId[];
  const kinds = ["equaliser", "compressor", "limiter", "delay"] as const;
  const processors = ids.flatMap((channelId) =>
    Array.from({ length: each }, (_, at) => ({
      ...newProcessor(kinds[at % 4] ?? "gain", { id: `${channelId}-${at}` as ChainProcessorId, channelId }),
      order: inRow(at),
    })),
  );
  const bands = processors.flatMap(({ id, kind }) =>
    kind === "equaliser" ? [{ ...newBand({ id: `${id}-band` as never, processorId: id }), order: "a0" }] : [],
  );
  return { ...doc, processors: keyed(processors) as never, bands: keyed(bands) };
};
