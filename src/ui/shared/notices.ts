import { notifications } from "@mantine/notifications";

/** Where a notice was shown: what it speaks of is on that screen, and so it goes when the screen is left. */
const shownOn = new Map<string, string>();
let count = 0;
/** Which screen is open; on a server none is. */
const screenNow = (): string => (typeof window === "undefined" ? "" : window.location.pathname);

const ofThisScreen = (notice: Parameters<typeof notifications.show>[0]): void => {
  const id = notice.id ?? `notice-${count++}`;
  shownOn.set(id, screenNow());
  notifications.show({ ...notice, id, onClose: () => shownOn.delete(id) });
};

/** Puts away what was said on screens that are left. */
export const dropNoticesOfOthers = (): void => {
  for (const [id, path] of shownOn)
    if (path !== screenNow()) {
      shownOn.delete(id);
      notifications.hide(id);
    }
};

/**
 * Says that something could not be done, and why; the same once for as long as it stands there, so that nothing else
 * has to wait behind it.
 */
export const tellRefusal = (message: string, title = "Not done"): void => {
  if (leaving) keepLost(message);
  ofThisScreen({ id: `${title} ${message}`, title, message, color: "red", autoClose: 8000, withBorder: true });
};

/** Says something once, however often it is asked for while it is shown. */
export const tellOnce = (id: string, message: string): void =>
  ofThisScreen({ id, message, autoClose: 8000, withBorder: true });

/** What was typed and could not be taken when a page was left anew is told on the page that comes. */
const LOST = "wandel lost";

const showLost = (message: string): void => {
  notifications.show({ title: "Not kept", message, color: "red", autoClose: 20_000, withBorder: true });
};

/** What was typed and is not kept, with why: it can be read and typed again, also where the page is just being left. */
export const tellLost = (text: string, where: string, why: string): void => {
  const message = `“${text.slice(0, 300)}”, typed as ${where}: ${why}`;
  showLost(message);
  keepLost(message);
};

const keepLost = (message: string): void => {
  try {
    sessionStorage.setItem(LOST, JSON.stringify([...lostBefore(), { message, at: Date.now() }].slice(-20)));
  } catch {
    // Without a place to keep it, it is told here only.
  }
};

let leaving = false;

/** Does something as the page is left: what is refused then is told on the page that comes. */
export const asItIsLeft = (does: () => void): void => {
  leaving = true;
  does();
  leaving = false;
};

const lostBefore = (): readonly { readonly message: string; readonly at: number }[] => {
  try {
    return JSON.parse(sessionStorage.getItem(LOST) ?? "[]");
  } catch {
    return [];
  }
};

/** So long before a page is left what was told on it may not have been read. */
const UNREAD_MS = 3000;

/** Says again what was told in the very moment in which the page before was left. */
export const tellLostBefore = (): void => {
  const leftAt = performance.timeOrigin;
  const unread = lostBefore().filter(({ at }) => leftAt - at < UNREAD_MS);
  try {
    sessionStorage.removeItem(LOST);
  } catch {
    // Nothing is kept there then.
  }
  for (const { message } of unread) showLost(message);
};

/** Says what became of edits whose screen was left: longer than others, since it is not what one looks at by then. */
export const tellBehind = (id: string, message: string): void => {
  notifications.show({ id, title: "Not saved", message, color: "red", autoClose: 20_000, withBorder: true });
};

/** Says something worth knowing that needs no answer. */
export const tell = (message: string, title?: string): void =>
  ofThisScreen({ ...(title ? { title } : {}), message, autoClose: 8000, withBorder: true });

/** Says something worth knowing that is true on every screen: it stays as another is gone to. */
export const tellWherever = (message: string): void => {
  notifications.show({ message, autoClose: 8000, withBorder: true });
};
