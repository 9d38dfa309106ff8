import { COLOUR_NAMES } from "../model/colours";
import type { ChainProcessorId, ChannelId, FolderId, LineId, SendId } from "../model/ids";
import { newProcessor } from "../model/tables/chain-processors";
import { MAIN_ID } from "../model/tables/channel-fields";
import { type Channel, newChannel } from "../model/tables/channels";
import type { Folder } from "../model/tables/folders";
import { newLine } from "../model/tables/lines";
import { newSend, type Send } from "../model/tables/sends";
import { emptyTemplate, type Template } from "../model/template";

const FAMILIES = 16;
const folder = (at: number): FolderId => `folder-${at}` as FolderId;
const bus = (at: number): ChannelId => `bus-${at}` as ChannelId;
const room = (at: number): ChannelId => `return-${at}` as ChannelId;

/**
 * A large routing for benchmarks and tests of size: tracks on buses on buses, and so many sends to returns. Out of so
 * many channels every eighth is a bus and every sixteenth a return.
 */
export const aWeave = (channels: number, sends: number): Template => {
  const [buses, returns] = [Math.floor(channels / 8), Math.floor(channels / 16)];
  const tracks = channels - buses - returns - 1;
  const empty = emptyTemplate({
    id: "weave" as never,
    name: "Weave",
    kind: "band",
    rigId: "whole-mill" as never,
    mainOutputs: ["brindle:out:1" as never, "brindle:out:2" as never],
  });
  const lines = Array.from({ length: tracks }, (_, at) =>
    newLine({ id: `line-${at}` as LineId, source: `Source ${at}` }),
  );
  const to = (channelId: ChannelId) => ({ kind: "channel", channelId }) as const;
  const all: Channel[] = [
    ...Array.from({ length: buses }, (_, at) =>
      newChannel("bus", { id: bus(at), name: `Bus ${at}`, output: to(at < 8 ? MAIN_ID : bus(at % 8)) }),
    ),
    ...Array.from({ length: returns }, (_, at) => newChannel("return", { id: room(at), name: `Room ${at}` })),
    ...lines.map((line, at) => ({
      ...newChannel("track", {
        id: `track-${at}` as ChannelId,
        name: `Track ${at}`,
        input: { kind: "line", lineId: line.id },
        sharing: null,
        icon: null,
        output: to(bus(at % buses)),
      }),
      folderId: folder(at % FAMILIES),
      order: `a${at.toString(36).padStart(4, "0")}1`,
    })),
  ];
  const sent = Array.from(
    { length: sends },
    (_, at): Send =>
      newSend({
        id: `send-${at}` as SendId,
        fromId: `track-${at % tracks}` as ChannelId,
        toId: room(Math.floor(at / tracks) % returns),
      }),
  );
  const keyed = <T extends { readonly id: string }>(entries: readonly T[]) =>
    Object.fromEntries(entries.map((entry) => [entry.id, entry]));
  const folders = Array.from(
    { length: FAMILIES },
    (_, at): Folder => ({
      id: folder(at),
      name: `Family ${at}`,
      parentId: null,
      colour: COLOUR_NAMES[at % COLOUR_NAMES.length] ?? null,
      open: true,
      busId: null,
      order: `a${at.toString(36)}1`,
    }),
  );
  // Every track passes a filter and a compressor.
  const processors = lines.flatMap((_line, at) =>
    (["filter", "compressor"] as const).map((kind, index) => ({
      ...newProcessor(kind, { id: `${kind}-${at}` as ChainProcessorId, channelId: `track-${at}` as ChannelId }),
      order: `a${index}`,
    })),
  );
  return {
    ...empty,
    processors: keyed(processors),
    folders: keyed(folders),
    lines: keyed(lines),
    channels: { ...empty.channels, ...keyed(all) },
    sends: keyed(sent),
  };
};
