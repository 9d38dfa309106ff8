import { useHotkeys } from "@mantine/hooks";
import { useUndoing } from "../state/doc-context";

/** Keys that work on every stage. In a text field the browser's own undo of typing is left alone. */
export const useDeskKeys = (): void => {
  const { undo, redo } = useUndoing();
  useHotkeys([
    ["mod+Z", undo],
    ["mod+shift+Z", redo],
    ["mod+Y", redo],
  ]);
};
