import type { Command } from "../../commands/command";
import type { ChannelId, FolderId } from "../../model/ids";
import { isSum, tracksByLine, tracksOf } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import { inputLineIds } from "../../model/tables/channel-fields";
import type { Template } from "../../model/template";
import { graphOf, intoOf } from "../../routing/graph";
import { orderOf } from "../../routing/order";
import { counted } from "../../units/counted";
import { takeAway } from "./channel-edits";

/** What goes with a family. */
export interface Dropped {
  readonly folderIds: readonly FolderId[];
  readonly trackIds: readonly ChannelId[];
  /** Buses and returns: those of its folders, and those that nothing else feeds. */
  readonly sumIds: readonly ChannelId[];
}

const withInner = (doc: Template, id: FolderId): readonly FolderId[] => {
  const found = new Set<FolderId>([id]);
  // A folder is found once the one around it is; as often as folders can lie deep.
  for (let before = 0; before < found.size; ) {
    before = found.size;
    for (const folder of entriesOf(doc.folders))
      if (folder.parentId && found.has(folder.parentId)) found.add(folder.id);
  }
  return [...found];
};

/**
 * What goes when a family is dropped: its folder and those in it, their tracks and buses, and every bus and return that
 * only they fed. Along the order of the sound, so that what is fed only by what goes is found however long the way;
 * linear in the graph.
 */
export const droppedWith = (doc: Template, folderId: FolderId): Dropped => {
  const folderIds = withInner(doc, folderId);
  const inside = new Set(folderIds);
  const trackIds = tracksOf(doc).flatMap((track) => (track.folderId && inside.has(track.folderId) ? [track.id] : []));
  const owned = new Set(folderIds.flatMap((id) => doc.folders[id]?.busId ?? []));
  const others = new Set(entriesOf(doc.folders).flatMap(({ id, busId }) => (busId && !inside.has(id) ? [busId] : [])));
  const gone = new Set<ChannelId>([...trackIds, ...owned]);
  const graph = graphOf(doc);
  const sumIds = orderOf(graph).ids.filter((id) => {
    if (!isSum(doc.channels[id])) return false;
    const into = intoOf(graph, id);
    const onlyIts = into.length > 0 && into.every(({ from }) => gone.has(from)) && !others.has(id);
    if (onlyIts) gone.add(id);
    return onlyIts || owned.has(id);
  });
  return { folderIds, trackIds, sumIds };
};

/**
 * Takes a family away; what went into its buses from outside goes where they went. Lines that no track takes any more
 * go by themselves, and sends with their ends.
 */
export const dropFamily = (doc: Template, { folderIds, trackIds, sumIds }: Dropped): readonly Command[] => {
  const staying = new Set<string>(trackIds);
  const away = takeAway(doc, sumIds).flatMap((command): readonly Command[] => {
    if (command.kind !== "set") return [];
    const values = Object.fromEntries(Object.entries(command.values).filter(([id]) => !staying.has(id)));
    return Object.keys(values).length ? [{ ...command, values }] : [];
  });
  const channels = [...trackIds, ...sumIds];
  return [
    ...away,
    ...(channels.length ? [{ kind: "remove", table: "channels", ids: channels } as const] : []),
    { kind: "remove", table: "folders", ids: folderIds },
  ];
};

/** What goes with a family in words, before it does. */
export const droppedInWords = (doc: Template, { folderIds, trackIds, sumIds }: Dropped): string => {
  const gone = new Set<ChannelId>([...trackIds, ...sumIds]);
  const lines = new Set(
    trackIds.flatMap((id) => (doc.channels[id]?.kind === "track" ? inputLineIds(doc.channels[id].input) : [])),
  );
  const lost = [...lines].filter((line) =>
    (tracksByLine(doc).get(line) ?? []).every((track) => gone.has(track.id)),
  ).length;
  const named = (kind: "bus" | "return", many: string) => {
    const names = sumIds.flatMap((id) => (doc.channels[id]?.kind === kind ? [doc.channels[id].name] : []));
    return names.length ? [`the ${names.length === 1 ? kind : many} ${names.join(", ")}`] : [];
  };
  const sends = entriesOf(doc.sends).filter(({ fromId, toId }) => gone.has(fromId) || gone.has(toId)).length;
  const steered = entriesOf(doc.sideChains).filter(
    ({ fromId, processorId }) => gone.has(fromId) || gone.has(doc.processors[processorId]?.channelId as ChannelId),
  ).length;
  const outside = entriesOf(doc.channels).filter(
    ({ id, output }) => !gone.has(id) && output.kind === "channel" && gone.has(output.channelId),
  ).length;
  const parts = [
    counted(trackIds.length, "track"),
    ...(lost ? [counted(lost, "line")] : []),
    ...named("bus", "buses"),
    ...named("return", "returns"),
    ...(sends ? [counted(sends, "send")] : []),
    ...(steered ? [counted(steered, "side-chain")] : []),
    ...(folderIds.length > 1 ? [`${counted(folderIds.length - 1, "folder")} in it`] : []),
  ];
  const rest = outside
    ? ` ${counted(outside, "channel")} from outside ${outside === 1 ? "goes" : "go"} on past it.`
    : "";
  return `Goes with it: ${parts.join(", ")}.${rest}`;
};
