import { type Command, type Refusal, refuse } from "../../commands/command";
import type { ChannelId, FolderId } from "../../model/ids";
import { MOST } from "../../model/limits";
import { folderColour, tracksOf } from "../../model/read-template";
import { entriesOf, inOrder } from "../../model/table";
import { newChannel } from "../../model/tables/channels";
import type { Folder } from "../../model/tables/folders";
import type { Template } from "../../model/template";
import { takeAway, unroutable } from "./channel-edits";
import { dropFamily, droppedWith } from "./drop-family";
import type { EditOf, Planners } from "./edit";
import type { Change, Habits } from "./entry-edits";
import { toAll } from "./planner";
import { firstOf, missingFolders, tooMany } from "./refusals";
import { follows, membersOf, route, sumOf, toChannel } from "./sums";

const depthOf = (doc: Template, id: FolderId | null): number => {
  let depth = 0;
  for (let at = id; at; at = doc.folders[at]?.parentId ?? null) depth++;
  return depth;
};

const tooDeep = (doc: Template, parentId: FolderId | null): Refusal | null =>
  depthOf(doc, parentId) + 1 > MOST.depth
    ? refuse("unfit", parentId ?? "", `Folders lie up to ${MOST.depth} deep in one another; this would be deeper.`)
    : null;

/** The bus of a folder is called and dyed as its folder is, for as long as nobody called or dyed it otherwise. */
const withBus = (
  doc: Template,
  folderIds: readonly FolderId[],
  { name, colour }: Change<Folder>,
): readonly Command[] => {
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

/**
 * Buses for folders, the outermost first, and what lies in each routed into its bus where it went where the folder
 * goes.
 */
const summed = (doc: Template, { sums }: EditOf<"folders.sum">): readonly Command[] => {
  const busOf = new Map<FolderId, ChannelId>(sums.map(({ folderId, busId }) => [folderId, busId]));
  const folders: Template["folders"] = Object.fromEntries(
    Object.entries(doc.folders).map(([id, folder]) => [
      id,
      busOf.has(id as FolderId) ? { ...folder, busId: busOf.get(id as FolderId) ?? null } : folder,
    ]),
  );
  const after = { ...doc, folders };
  const buses = sums.flatMap(({ folderId, busId }) => {
    const folder = doc.folders[folderId];
    return folder
      ? [
          newChannel("bus", {
            id: busId,
            name: folder.name,
            colour: folderColour(doc, folder),
            output: toChannel(sumOf(after, folder.parentId)),
          }),
        ]
      : [];
  });
  const routed = sums.flatMap(({ folderId, busId }) => {
    const was = sumOf(doc, folderId);
    return membersOf(after, folderId).flatMap((id) =>
      follows(doc.channels[id], was) ? [[id, { output: toChannel(busId) }] as const] : [],
    );
  });
  return [
    { kind: "add", table: "channels", entries: buses as never },
    {
      kind: "set",
      table: "folders",
      values: Object.fromEntries(sums.map(({ folderId, busId }) => [folderId, { busId }])),
    },
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
      return already
        ? refuse("unfit", already.folderId, `${doc.folders[already.folderId]?.name} sums into its bus already.`)
        : null;
    },
  );

/** What plain edits of folders take along: the name and dye of the bus, and what lies in one that is moved. */
export const folderHabits: Habits<Template> = {
  add: (doc, folders) => {
    for (const folder of folders) {
      // What it lies in may come with it; how deep that lies is seen by the check after the gesture.
      const refusal = doc.folders[folder.parentId as FolderId] ? tooDeep(doc, folder.parentId as FolderId) : null;
      if (refusal) return refusal;
    }
    return null;
  },
  set: (doc, { ids, set }) => [
    { kind: "set", table: "folders", values: toAll(ids, set) },
    ...withBus(doc, ids as readonly FolderId[], set as Change<Folder>),
  ],
  move: (doc, { ids, parent: to = null, before }) => {
    const parent = to as FolderId | null;
    for (const id of ids as readonly FolderId[])
      for (let at = parent; at; at = doc.folders[at]?.parentId ?? null)
        if (at === id)
          return refuse("unfit", id, `${doc.folders[id]?.name} can't lie in itself, or in a folder that it holds.`);
    return (
      tooDeep(doc, parent) ?? [
        { kind: "move", table: "folders", ids, parent, before },
        ...(ids as readonly FolderId[]).flatMap((id) => followed(doc, id, parent)),
      ]
    );
  },
};

export const folderEdits: Planners<"folders"> = {
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
      return [
        ...moves,
        ...(busId ? takeAway(doc, [busId]) : []),
        { kind: "remove", table: "folders", ids: [folderId] },
      ];
    },
    name: (doc, { folderId }) => `Dissolve the folder ${doc.folders[folderId]?.name}`,
  },
  "folders.drop": {
    plan: (doc, { folderId }) => missingFolders(doc, [folderId]) ?? dropFamily(doc, droppedWith(doc, folderId)),
    name: (doc, { folderId }) => `Drop the family ${doc.folders[folderId]?.name}`,
  },
  "folders.sum": {
    plan: (doc, edit) => summable(doc, edit) ?? summed(doc, edit),
    name: (doc, { sums }) =>
      `Sum ${sums.length === 1 && sums[0] ? doc.folders[sums[0].folderId]?.name : `${sums.length} folders`} into ${sums.length === 1 ? "a bus" : "buses"}`,
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
      const there =
        output.kind === "channel" && output.channelId === busId ? (doc.channels[busId]?.output ?? output) : output;
      return [...route(members, there), ...takeAway(doc, [busId]).slice(-1)];
    },
    name: (doc, { folderId }) => `Take the bus off ${doc.folders[folderId]?.name}`,
  },
};
