import { type Command, type Refusal, refuse } from "../../commands/command";
import type { FolderId } from "../../model/ids";
import { MOST } from "../../model/limits";
import { tracksOf } from "../../model/read-template";
import { inOrder } from "../../model/table";
import type { Template } from "../../model/template";
import { type Planners, toAll } from "./edit";
import { firstOf, missingFolders, tooMany } from "./refusals";

const depthOf = (doc: Template, id: FolderId | null): number => {
  let depth = 0;
  for (let at = id; at; at = doc.folders[at]?.parentId ?? null) depth++;
  return depth;
};

const tooDeep = (doc: Template, parentId: FolderId | null): Refusal | null =>
  depthOf(doc, parentId) + 1 > MOST.depth ? refuse("unfit", parentId ?? "", `Folders lie up to ${MOST.depth} deep in one another; this would be deeper.`) : null;

export const folderEdits: Planners<"folders"> = {
  "folders.add": {
    plan: (doc, { folders, parentId }) =>
      firstOf(
        () => missingFolders(doc, [parentId]),
        () => tooMany(doc, { folders }),
        () => tooDeep(doc, parentId),
        () => (folders.every((folder) => folder.name.trim()) ? null : refuse("empty", "", "A folder needs a name.")),
      ) ?? [{ kind: "add", table: "folders", entries: folders.map((folder) => ({ ...folder, parentId, open: true })) }],
    name: (_doc, { folders }) => (folders.length === 1 ? `Add the folder ${folders[0]?.name}` : `Add ${folders.length} folders`),
  },
  "folders.set": {
    plan: (doc, { folderIds, set }) =>
      firstOf(
        () => missingFolders(doc, folderIds),
        () => (set.name === undefined || set.name.trim() ? null : refuse("empty", folderIds[0] ?? "", "A folder needs a name. Type one, or press Esc to keep the old one.")),
      ) ?? [{ kind: "set", table: "folders", values: toAll(folderIds, { ...set, ...(set.name === undefined ? {} : { name: set.name.trim() }) }) }],
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
      return tooDeep(doc, parentId) ?? [{ kind: "move", table: "folders", ids: [folderId], parent: parentId, before }];
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
      const parent = doc.folders[folderId]?.parentId ?? null;
      const inner = inOrder(doc.folders).flatMap((folder) => (folder.parentId === folderId ? [folder.id] : []));
      const members = tracksOf(doc).flatMap((track) => (track.folderId === folderId ? [track.id] : []));
      const moves: Command[] = [
        // Folders come out where it stood, tracks behind those that are there.
        ...(inner.length ? [{ kind: "move", table: "folders", ids: inner, parent, before: folderId } as const] : []),
        ...(members.length ? [{ kind: "move", table: "channels", ids: members, parent, before: null } as const] : []),
      ];
      return [...moves, { kind: "remove", table: "folders", ids: [folderId] }];
    },
    name: (doc, { folderId }) => `Dissolve the folder ${doc.folders[folderId]?.name}`,
  },
};
