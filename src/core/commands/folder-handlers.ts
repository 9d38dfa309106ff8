import type { FolderId } from "../model/ids";
import { MOST } from "../model/limits";
import { entriesOf } from "../model/rig";
import type { Template } from "../model/template";
import { firstOf, type Refusal, refuse } from "./engine";
import { type Handlers, isTaken, missingFolders, place, type TemplateDraft, tooMany } from "./handler";

const foldersIn = (draft: TemplateDraft, parentId: FolderId | null) =>
  entriesOf(draft.folders)
    .filter((folder) => folder.parentId === parentId)
    .sort((a, b) => a.order - b.order);

const renumber = (folders: ReturnType<typeof foldersIn>): void => {
  for (const [order, folder] of folders.entries()) if (folder.order !== order) folder.order = order;
};

const depthOf = (doc: Template, id: FolderId | null): number => {
  let depth = 0;
  for (let at = id; at; at = doc.folders[at]?.parentId ?? null) depth++;
  return depth;
};

/** How many folders lie one in another from this one down, itself counted. */
const heightOf = (doc: Template, id: FolderId): number => {
  const from = depthOf(doc, id);
  let deepest = from;
  for (const folder of entriesOf(doc.folders)) {
    const chain: FolderId[] = [];
    for (let at: FolderId | null = folder.id; at && at !== id; at = doc.folders[at]?.parentId ?? null) chain.push(at);
    const top = chain.at(-1);
    if (top && doc.folders[top]?.parentId === id) deepest = Math.max(deepest, from + chain.length);
  }
  return deepest - from + 1;
};

const tooDeep = (doc: Template, parentId: FolderId | null, height: number): Refusal | null =>
  depthOf(doc, parentId) + height > MOST.depth ? refuse("unfit", parentId ?? "", `Folders lie up to ${MOST.depth} deep in one another; this would be deeper.`) : null;

export const folderHandlers: Handlers<"folders"> = {
  "folders.add": {
    check: (doc, { folders, parentId }) =>
      firstOf(
        () => missingFolders(doc, [parentId]),
        () => tooMany(doc, { folders }),
        () => tooDeep(doc, parentId, 1),
        () => {
          const taken = folders.find((folder) => isTaken(doc.folders, folder.id));
          return taken ? refuse("clash", taken.id, `A folder with the id ${taken.id} is already there.`) : null;
        },
        () => (folders.every((folder) => folder.name.trim()) ? null : refuse("empty", "", "A folder needs a name.")),
      ),
    edit: (draft, { folders, parentId }) => {
      const start = foldersIn(draft, parentId).length;
      for (const [at, folder] of folders.entries()) draft.folders[folder.id] = { ...folder, parentId, order: start + at, open: true };
    },
    name: (_doc, { folders }) => (folders.length === 1 ? `Add the folder ${folders[0]?.name}` : `Add ${folders.length} folders`),
  },
  "folders.set": {
    local: true,
    check: (doc, { folderIds, set }) =>
      firstOf(
        () => missingFolders(doc, folderIds),
        () => (set.name === undefined || set.name.trim() ? null : refuse("empty", folderIds[0] ?? "", "A folder needs a name. Type one, or press Esc to keep the old one.")),
      ),
    edit: (draft, { folderIds, set }) => {
      for (const id of folderIds) Object.assign(draft.folders[id] ?? {}, set, set.name === undefined ? {} : { name: set.name.trim() });
    },
    name: (doc, { folderIds, set }) => {
      const who = folderIds.length === 1 && folderIds[0] ? (doc.folders[folderIds[0]]?.name ?? "a folder") : `${folderIds.length} folders`;
      if (set.open !== undefined) return `${set.open ? "Unfold" : "Fold"} ${who}`;
      if (set.name !== undefined) return `Rename ${who} to ${set.name.trim()}`;
      return set.colour ? `Dye ${who} ${set.colour}` : `Take the dye off ${who}`;
    },
  },
  "folders.move": {
    check: (doc, { folderId, parentId, before }) =>
      firstOf(
        () => missingFolders(doc, [folderId, parentId, before]),
        () => {
          for (let at = parentId; at; at = doc.folders[at]?.parentId ?? null)
            if (at === folderId) return refuse("unfit", folderId, `${doc.folders[folderId]?.name} can't lie in itself, or in a folder that it holds.`);
          return tooDeep(doc, parentId, heightOf(doc, folderId));
        },
      ),
    edit: (draft, { folderId, parentId, before }) => {
      const folder = draft.folders[folderId];
      if (!folder) return;
      const from = folder.parentId;
      const others = foldersIn(draft, parentId).filter((other) => other.id !== folderId);
      const at = others.findIndex((other) => other.id === before);
      others.splice(at < 0 ? others.length : at, 0, folder);
      folder.parentId = parentId;
      renumber(others);
      if (from !== parentId) renumber(foldersIn(draft, from));
    },
    name: (doc, { folderId, parentId }) => {
      const folder = doc.folders[folderId];
      if (folder?.parentId === parentId) return `Move the folder ${folder.name}`;
      return `Put the folder ${folder?.name} ${parentId ? `in ${doc.folders[parentId]?.name}` : "outside the others"}`;
    },
  },
  "folders.remove": {
    check: (doc, { folderId }) => missingFolders(doc, [folderId]),
    edit: (draft, { folderId }) => {
      const parentId = draft.folders[folderId]?.parentId ?? null;
      const members = entriesOf(draft.channels)
        .flatMap((channel) => (channel.kind === "track" && channel.folderId === folderId ? [channel] : []))
        .sort((a, b) => a.order - b.order);
      for (const inner of foldersIn(draft, folderId)) inner.parentId = parentId;
      place(draft, { ids: members.map((track) => track.id), folderId: parentId, before: null });
      delete draft.folders[folderId];
      renumber(foldersIn(draft, parentId));
    },
    name: (doc, { folderId }) => `Dissolve the folder ${doc.folders[folderId]?.name}`,
  },
};
