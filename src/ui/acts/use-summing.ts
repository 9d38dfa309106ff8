import { useCallback } from "react";
import type { FolderId } from "@/core/model/ids";
import { membersOf } from "@/core/planning/edits/sums";
import { routeChoices } from "@/core/planning/route";
import { outputChoices, readOutput } from "@/core/queries/outputs";
import { counted } from "@/core/units/counted";
import { newIds } from "../grid/grid-focus";
import { tellRefusal } from "../shared/notices";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { askRoute } from "./route-dialogs";

/** Makes a folder sum into a bus of its own; and takes the bus off, asking where what lies in the folder goes then. */
export const useSumming = (): ((folderId: FolderId, sums: boolean) => void) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act } = useDoing();
  return useCallback(
    (folderId, sums) => {
      const { doc } = desk.getState();
      const folder = doc.folders[folderId];
      if (!folder) return;
      if (sums) {
        act({ edits: [{ kind: "folders.sum", sums: [{ folderId, busId: newIds("bus") }] }] });
        return;
      }
      askRoute({
        who: `the ${counted(membersOf(doc, folderId).length, "member")} of ${folder.name}`,
        known: routeChoices(doc, rig, folder.busId ? [folder.busId] : []),
        there: outputChoices(doc, rig).map(({ label }) => label),
        makes: false,
        onDo: (name) => {
          const output = readOutput(desk.getState().doc, rig, name);
          if (!output) tellRefusal(`There is no bus and no output ${name.trim()}. Choose one from the list.`);
          return output !== null && act({ edits: [{ kind: "folders.unsum", folderId, output }] });
        },
      });
    },
    [desk, rig, act],
  );
};
