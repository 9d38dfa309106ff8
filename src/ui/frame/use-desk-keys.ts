import { useEffect } from "react";
import { takesText } from "../shared/takes-text";
import { useUndoing } from "../state/doc-context";

/**
 * Whether the browser's own undo of typing is meant. Fields that show something of the document say so (`data-kept`),
 * and when something is typed in them that is not kept yet (`data-draft`): until then the last edit is meant, also when
 * the field still has the keys. Other fields hold only what is typed.
 */
const isTyping = (target: EventTarget | null): boolean =>
  takesText(target) && (target.closest("[data-kept]") === null || target.closest("[data-draft]") !== null);

const inDialog = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest("[aria-modal=true]") !== null;

/** Which step a key asks for: Ctrl Z, Ctrl Shift Z, Ctrl Y. */
const stepOf = ({ ctrlKey, metaKey, altKey, shiftKey, key }: KeyboardEvent): "undo" | "redo" | null => {
  if (!(ctrlKey || metaKey) || altKey) return null;
  if (key.toLowerCase() === "z") return shiftKey ? "redo" : "undo";
  return key.toLowerCase() === "y" && !shiftKey ? "redo" : null;
};

/** Undo and redo by keys on every stage, wherever the keys are. */
export const useDeskKeys = (): void => {
  const { undo, redo } = useUndoing();
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const does = stepOf(event);
      if (!does || isTyping(event.target) || inDialog(event.target)) return;
      event.preventDefault();
      if (does === "undo") undo();
      else redo();
    };
    window.addEventListener("keydown", press, { capture: true });
    return () => window.removeEventListener("keydown", press, { capture: true });
  }, [undo, redo]);
};
