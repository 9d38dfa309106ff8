import { notifications } from "@mantine/notifications";

/**
 * Says that something could not be done, and why; the same once for as long as it stands there, so that nothing else
 * has to wait behind it.
 */
export const tellRefusal = (message: string, title = "Not done"): void => {
  notifications.show({ id: `${title} ${message}`, title, message, color: "red", autoClose: 8000, withBorder: true });
};

/** Says something once, however often it is asked for while it is shown. */
export const tellOnce = (id: string, message: string): void => {
  notifications.show({ id, message, autoClose: 8000, withBorder: true });
};

/** What was typed and is not kept, with why: it can be read and typed again. */
export const tellLost = (text: string, where: string, why: string): void => {
  notifications.show({
    title: "Not kept",
    message: `“${text.slice(0, 300)}”, typed as ${where}: ${why}`,
    color: "red",
    autoClose: 20_000,
    withBorder: true,
  });
};

/** Says what became of edits whose screen was left: longer than others, since it is not what one looks at by then. */
export const tellBehind = (id: string, message: string): void => {
  notifications.show({ id, title: "Not saved", message, color: "red", autoClose: 20_000, withBorder: true });
};

/** Says something worth knowing that needs no answer. */
export const tell = (message: string, title?: string): void => {
  notifications.show({ ...(title ? { title } : {}), message, autoClose: 8000, withBorder: true });
};
