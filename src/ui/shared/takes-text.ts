/** Inputs in which nothing is typed. */
const SWITCHES = ["checkbox", "radio", "button", "submit", "color", "range", "file"];

/** Whether something can be typed there: the one answer for acts by keys, for undo and for what is typed ahead. */
export const takesText = (target: EventTarget | null): target is HTMLElement =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    (target instanceof HTMLInputElement && !target.readOnly && !SWITCHES.includes(target.type)));
