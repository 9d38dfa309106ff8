import { useMemo } from "react";
import { useRowSetting } from "../grid/use-row-height";
import { useDeskStore, useDoing } from "../state/desk-context";
import type { Desk, RowsInView } from "../state/desk-store";
import { type ActId, type ActTools, chosenOf, type GridAct } from "./act";
import { type Acts, doOneOf } from "./act-model";
import { arrangeActs, listActs } from "./arrange-acts";
import { dialogActs } from "./dialog-acts";
import { folderActs } from "./folder-acts";

/** Everything that can be done to a desk as it is. */
export const gatherActs = (desk: Desk, tools: ActTools): readonly GridAct[] => {
  const chosen = chosenOf(desk);
  return [
    ...listActs(chosen, tools),
    ...arrangeActs(chosen, tools),
    ...dialogActs(chosen, tools),
    ...folderActs(chosen, tools),
  ];
};

/**
 * Everything that can be done, as of the moment it is asked: no step of the cursor pays for acts that nobody looks at.
 */
export const useActs = (): Acts<GridAct> => {
  const desk = useDeskStore();
  const doing = useDoing();
  const [rows, setRows] = useRowSetting();
  return useMemo(() => {
    let last: { readonly of: Desk; readonly view: RowsInView; readonly acts: readonly GridAct[] } | null = null;
    return () => {
      const now = desk.getState();
      const view = now.view.getState();
      if (last?.of !== now || last.view !== view)
        last = { of: now, view, acts: gatherActs(now, { ...doing, desk, rows, setRows }) };
      return last.acts;
    };
  }, [desk, doing, rows, setRows]);
};

/** Does an act by its id, or tells why it can't be done. */
export const runAct = (acts: Acts<GridAct>, id: ActId): void => doOneOf(acts().filter((act) => act.id === id));
