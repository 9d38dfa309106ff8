"use client";

import type { FolderId } from "@/core/model/ids";
import { entriesOf } from "@/core/model/table";
import type { Folder } from "@/core/model/tables/folders";
import { stepFolder } from "@/core/planning/arrange";
import type { Edit } from "@/core/planning/edits/edit";
import { canDo } from "@/core/planning/edits/template-editing";
import { setFolderFamily } from "@/core/planning/family";
import { tellRefusal } from "../shared/notices";
import { type ActTools, actOf, type Chosen, type GridAct, ways } from "./act";
import { askFamily, openDialog } from "./act-dialogs";
import { FolderDialog } from "./folder-dialog";

const into = (folderId: FolderId, parentId: FolderId | null): Edit => ({
  kind: "entries.move",
  table: "folders",
  ids: [folderId],
  parent: parentId,
  before: null,
});

/** Asks for the folder that this one goes into. */
const nest =
  (folder: Folder, others: readonly Folder[], { act }: ActTools) =>
  () =>
    openDialog(
      `Put ${folder.name} in a folder`,
      <FolderDialog
        names={others.map((entry) => entry.name)}
        existing
        onChoose={(name) => {
          const parent = others.find((entry) => entry.name.toLowerCase() === name.trim().toLowerCase());
          if (!parent) tellRefusal(`There is no other folder called ${name}.`);
          return parent !== undefined && act({ edits: [into(folder.id, parent.id)] });
        }}
      />,
    );

const foldAll = ({ doc }: Chosen, { act }: ActTools): GridAct => {
  const folders = entriesOf(doc.folders);
  const anyOpen = folders.some((entry) => entry.open);
  const name = anyOpen ? "Fold all folders" : "Unfold all folders";
  const command: Edit = {
    kind: "entries.set",
    table: "folders",
    ids: folders.map((entry) => entry.id),
    set: { open: !anyOpen },
  };
  return actOf("list")("fold-all", name, {
    whyNot: folders.length ? undefined : "There is no folder yet.",
    run: () => void act({ name, edits: [command] }),
  });
};

/** Acts on the folder where the cursor is. */
export const folderActs = (chosen: Chosen, tools: ActTools): readonly GridAct[] => {
  const { doc, studio, folder } = chosen;
  if (!folder) return [foldAll(chosen, tools)];
  const { command } = ways(doc, tools);
  const made = actOf("folder");
  const others = entriesOf(doc.folders).filter(
    (entry) => entry.id !== folder.id && canDo(doc, into(folder.id, entry.id)) === null,
  );
  const family = () =>
    askFamily(`Family of the folder ${folder.name}`, studio.families, (chosenFamily) =>
      tools.actPlanned(setFolderFamily(folder.id, chosenFamily, studio.families)),
    );
  return [
    foldAll(chosen, tools),
    made(
      "folder-up",
      `Move the folder ${folder.name} up`,
      command(stepFolder(doc, folder.id, -1), { whyNot: "It is the first already." }),
    ),
    made(
      "folder-down",
      `Move the folder ${folder.name} down`,
      command(stepFolder(doc, folder.id, 1), { whyNot: "It is the last already." }),
    ),
    made("nest", `Put the folder ${folder.name} in another…`, {
      whyNot: others.length ? undefined : "There is no other folder that it could lie in.",
      run: nest(folder, others, tools),
    }),
    made(
      "unnest",
      `Take the folder ${folder.name} out`,
      command(folder.parentId ? into(folder.id, doc.folders[folder.parentId]?.parentId ?? null) : null, {
        whyNot: `${folder.name} lies in no other folder.`,
      }),
    ),
    made("folder-family", "Choose the family…", { run: family }),
    made("dissolve", `Dissolve the folder ${folder.name}`, command({ kind: "folders.remove", folderId: folder.id })),
  ];
};
