import { takesText } from "./takes-text";

/** So long keys are kept for a field that has not come yet. */
const LONGEST_MS = 4000;
const MOST = 200;

let waiting: { readonly stop: () => void } | null = null;

const isField = (target: EventTarget | null): target is HTMLInputElement | HTMLTextAreaElement =>
  takesText(target) && !target.isContentEditable && target.closest("[role=dialog]") !== null;

/** Writes into a field as if it were typed: whoever listens to it hears it. */
const write = (field: HTMLInputElement | HTMLTextAreaElement, text: string): void => {
  const own = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(own.prototype, "value")?.set?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.setSelectionRange?.(text.length, text.length);
};

/**
 * Keeps what is typed from now on until a field of the dialog that is opening has the keys, and gives it to that field:
 * whoever types faster than a dialog opens loses no letter, and none of them does anything on the screen below.
 */
export const typeAhead = (): void => {
  waiting?.stop();
  let typed = "";
  const press = (event: KeyboardEvent): void => {
    // Fields, radios and buttons of the dialog take their own keys.
    if (event.target instanceof HTMLElement && event.target.closest("[role=dialog]") !== null) return;
    if (event.ctrlKey || event.metaKey || event.altKey || event.key === "Tab") return;
    if (event.key === "Escape") stop();
    else if (event.key === "Backspace") typed = typed.slice(0, -1);
    else if (event.key.length === 1) typed = (typed + event.key).slice(0, MOST);
    else if (event.key !== "Enter") return;
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  const focused = ({ target }: FocusEvent): void => {
    if (!(target instanceof HTMLElement) || target.closest("[role=dialog]") === null) return;
    stop();
    const text = typed;
    // At once, or what is typed next would stand before it. A dialog that begins with a button has no use for text.
    if (text && isField(target)) write(target, text);
  };
  const late = setTimeout(() => stop(), LONGEST_MS);
  const stop = (): void => {
    clearTimeout(late);
    window.removeEventListener("keydown", press, { capture: true });
    window.removeEventListener("focusin", focused);
    waiting = null;
  };
  waiting = { stop };
  window.addEventListener("keydown", press, { capture: true });
  // Last of all, when the field has selected what stands in it.
  window.addEventListener("focusin", focused);
};
