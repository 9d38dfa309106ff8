import { type Command, type Refusal, refuse } from "../../commands/command";
import type { ChannelId, FolderId } from "../../model/ids";
import { MOST } from "../../model/limits";
import { folderColour, tracksOf } from "../../model/read-template";
import { entriesOf, inOrder } from "../../model/table";
import { newChannel } from "../../model/tables/channels";
import type { Template } from "../../model/template";
import { takeAway, unroutable } from "./channel-edits";
import { dropFamily, droppedWith } from "./drop-family";
import { type EditOf, type Planners, toAll } from "./edit";
import { firstOf, missingFolders, tooMany } from "./refusals";
import { follows, membersOf, route, sumOf, toChannel } from "./sums";

const depthOf = (doc: Template, id: FolderId | null): number => {
  let depth = 0;
  for (let at = id; at; at = doc.folders[at]?.parentId ?? null) depth++;
  return depth;
};

const tooDeep = (doc: Template, parentId: FolderId | null): Refusal | null =>
  depthOf(doc, parentId) + 1 > MOST.depth ? refuse("unfit", parentId ?? "", `Folders lie up to ${MOST.depth} deep in one another; this would be deeper.`) : null;

/** The bus of a folder is called and dyed as its folder is, for as long as nobody called or dyed it otherwise. */
const withBus = (doc: Template, folderIds: readonly FolderId[], { name, colour }: EditOf<"folders.set">["set"]): readonly Command[] => {
  const values = folderIds.flatMap((id) => {
    const folder = doc.folders[id];
    const bus = folder?.busId ? doc.channels[folder.busId] : undefined;
    if (!folder || bus?.kind !== "bus") return [];
    const set = {
      ...(name !== undefined && bus.name === folder.name ? { name: name.trim() } : {}),
      ...(colour !== undefined && bus.colour === folder.colour ? { colour } : {}),
    };
    return Object.keys(set).length ? [[bus.id, set] as const] : [];
  });
  return values.length ? [{ kind: "set", table: "channels", values: Object.fromEntries(values) }] : [];
};

/** What lies in a folder and went where it goes follows it into the other bus. */
const followed = (doc: Template, folderId: FolderId, parentId: FolderId | null): readonly Command[] => {
  const folder = doc.folders[folderId];
  const [was, sum] = [sumOf(doc, folder?.parentId ?? null), sumOf(doc, parentId)];
  if (was === sum) return [];
  const ids = folder?.busId ? [folder.busId] : membersOf(doc, folderId);
  return route(
    ids.filter((id) => follows(doc.channels[id], was)),
    toChannel(sum),
  );
};

/** Buses for folders, the outermost first, and what lies in each routed into its bus where it went where the folder goes. */
const summed = (doc: Template, { sums }: EditOf<"folders.sum">): readonly Command[] => {
  const busOf = new Map<FolderId, ChannelId>(sums.map(({ folderId, busId }) => [folderId, busId]));
  const folders: Template["folders"] = Object.fromEntries(
    Object.entries(doc.folders).map(([id, folder]) => [id, busOf.has(id as FolderId) ? { ...folder, busId: busOf.get(id as FolderId) ?? null } : folder]),
  );
  const after = { ...doc, folders };
  const buses = sums.flatMap(({ folderId, busId }) => {
    const folder = doc.folders[folderId];
    return folder ? [newChannel("bus", { id: busId, name: folder.name, colour: folderColour(doc, folder), output: toChannel(sumOf(after, folder.parentId)) })] : [];
  });
  const routed = sums.flatMap(({ folderId, busId }) => {
    const was = sumOf(doc, folderId);
    return membersOf(after, folderId).flatMap((id) => (follows(doc.channels[id], was) ? [[id, { output: toChannel(busId) }] as const] : []));
  });
  return [
    { kind: "add", table: "channels", entries: buses as never },
    { kind: "set", table: "folders", values: Object.fromEntries(sums.map(({ folderId, busId }) => [folderId, { busId }])) },
    ...(routed.length ? [{ kind: "set", table: "channels", values: Object.fromEntries(routed) } as const] : []),
  ];
};

const summable = (doc: Template, { sums }: EditOf<"folders.sum">): Refusal | null =>
  firstOf(
    () => (sums.length ? null : refuse("empty", "", "No folder was named. Select one or more.")),
    () =>
      missingFolders(
        doc,
        sums.map(({ folderId }) => folderId),
      ),
    () => tooMany(doc, { buses: sums }),
    () => {
      const already = sums.find(({ folderId }) => doc.folders[folderId]?.busId);
      return already ? refuse("unfit", already.folderId, `${doc.folders[already.folderId]?.name} sums into its bus already.`) : null;
    },
  );

export const folderEdits: Planners<"folders"> = {
  "folders.add": {
    plan: (doc, { folders, parentId }) =>
      firstOf(
        () => missingFolders(doc, [parentId]),
        () => tooMany(doc, { folders }),
        () => tooDeep(doc, parentId),
        () => (folders.every((folder) => folder.name.trim()) ? null : refuse("empty", "", "A folder needs a name.")),
      ) ?? [{ kind: "add", table: "folders", entries: folders.map((folder) => ({ ...folder, parentId, open: true, busId: null })) }],
    name: (_doc, { folders }) => (folders.length === 1 ? `Add the folder ${folders[0]?.name}` : `Add ${folders.length} folders`),
  },
  "folders.set": {
    plan: (doc, { folderIds, set }) =>
      firstOf(
        () => missingFolders(doc, folderIds),
        () => (set.name === undefined || set.name.trim() ? null : refuse("empty", folderIds[0] ?? "", "A folder needs a name. Type one, or press Esc to keep the old one.")),
      ) ?? [{ kind: "set", table: "folders", values: toAll(folderIds, { ...set, ...(set.name === undefined ? {} : { name: set.name.trim() }) }) }, ...withBus(doc, folderIds, set)],
    name: (doc, { folderIds, set }) => {
      const who = folderIds.length === 1 && folderIds[0] ? (doc.folders[folderIds[0]]?.name ?? "a folder") : `${folderIds.length} folders`;
      if (set.open !== undefined) return `${set.open ? "Unfold" : "Fold"} ${who}`;
      if (set.name !== undefined) return `Rename ${who} to ${set.name.trim()}`;
      return set.colour ? `Dye ${who} ${set.colour}` : `Take the dye off ${who}`;
    },
  },
  "folders.move": {
    plan: (doc, { folderId, parentId, before }) => {
      const missing = missingFolders(doc, [folderId, parentId, before]);
      if (missing) return missing;
      for (let at = parentId; at; at = doc.folders[at]?.parentId ?? null)
        if (at === folderId) return refuse("unfit", folderId, `${doc.folders[folderId]?.name} can't lie in itself, or in a folder that it holds.`);
      return tooDeep(doc, parentId) ?? [{ kind: "move", table: "folders", ids: [folderId], parent: parentId, before }, ...followed(doc, folderId, parentId)];
    },
    name: (doc, { folderId, parentId }) => {
      const folder = doc.folders[folderId];
      if (folder?.parentId === parentId) return `Move the folder ${folder.name}`;
      return `Put the folder ${folder?.name} ${parentId ? `in ${doc.folders[parentId]?.name}` : "outside the others"}`;
    },
  },
  "folders.remove": {
    plan: (doc, { folderId }) => {
      const missing = missingFolders(doc, [folderId]);
      if (missing) return missing;
      const { parentId: parent = null, busId = null } = doc.folders[folderId] ?? {};
      const inner = inOrder(doc.folders).flatMap((folder) => (folder.parentId === folderId ? [folder.id] : []));
      const members = tracksOf(doc).flatMap((track) => (track.folderId === folderId ? [track.id] : []));
      const moves: Command[] = [
        // Folders come out where it stood, tracks behind those that are there.
        ...(inner.length ? [{ kind: "move", table: "folders", ids: inner, parent, before: folderId } as const] : []),
        ...(members.length ? [{ kind: "move", table: "channels", ids: members, parent, before: null } as const] : []),
      ];
      return [...moves, ...(busId ? takeAway(doc, [busId]) : []), { kind: "remove", table: "folders", ids: [folderId] }];
    },
    name: (doc, { folderId }) => `Dissolve the folder ${doc.folders[folderId]?.name}`,
  },
  "folders.drop": {
    plan: (doc, { folderId }) => missingFolders(doc, [folderId]) ?? dropFamily(doc, droppedWith(doc, folderId)),
    name: (doc, { folderId }) => `Drop the family ${doc.folders[folderId]?.name}`,
  },
  "folders.sum": {
    plan: (doc, edit) => summable(doc, edit) ?? summed(doc, edit),
    name: (doc, { sums }) => `Sum ${sums.length === 1 && sums[0] ? doc.folders[sums[0].folderId]?.name : `${sums.length} folders`} into ${sums.length === 1 ? "a bus" : "buses"}`,
  },
  "folders.unsum": {
    plan: (doc, { folderId, output }) => {
      const busId = doc.folders[folderId]?.busId ?? null;
      const refusal = firstOf(
        () => missingFolders(doc, [folderId]),
        () => (busId ? null : refuse("unfit", folderId, `${doc.folders[folderId]?.name} does not sum.`)),
        () => unroutable(doc, output, folderId),
      );
      if (refusal || !busId) return refusal ?? [];
      const members = entriesOf(doc.channels).flatMap((channel) => (follows(channel, busId) ? [channel.id] : []));
      const there = output.kind === "channel" && output.channelId === busId ? (doc.channels[busId]?.output ?? output) : output;
      return [...route(members, there), ...takeAway(doc, [busId]).slice(-1)];
    },
    name: (doc, { folderId }) => `Take the bus off ${doc.folders[folderId]?.name}`,
  },
};
