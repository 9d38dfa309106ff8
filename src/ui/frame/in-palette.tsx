import type { SpotlightActionData } from "@mantine/spotlight";
import { type Act, canBeDone } from "../acts/act-model";

/** Acts as the palette offers them, with their keys; what can't be done now is not offered. */
export const inPalette = (acts: readonly Act[]): SpotlightActionData[] =>
  acts.filter(canBeDone).map(({ id, label, key, run }) => ({
    id,
    label,
    ...(key ? { rightSection: <kbd>{key}</kbd> } : {}),
    onClick: run,
  }));

export const undoing = (undo: () => void, redo: () => void): SpotlightActionData[] => [
  { id: "undo", label: "Undo", rightSection: <kbd>Ctrl Z</kbd>, onClick: undo },
  { id: "redo", label: "Redo", rightSection: <kbd>Ctrl Shift Z</kbd>, onClick: redo },
];
