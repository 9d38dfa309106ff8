import { notifications } from "@mantine/notifications";

/** Says that something could not be done, and why. */
export const tellRefusal = (message: string, title = "Not done"): void => {
  notifications.show({ title, message, color: "red", autoClose: 8000, withBorder: true });
};

/** Says something worth knowing that needs no answer. */
export const tell = (message: string, title?: string): void => {
  notifications.show({ ...(title ? { title } : {}), message, autoClose: 8000, withBorder: true });
};
