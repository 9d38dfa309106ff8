import { notifications } from "@mantine/notifications";

/** Says that something could not be done, and why. */
export const tellRefusal = (message: string, title = "Not done"): void => {
  notifications.show({ title, message, color: "red", autoClose: 8000, withBorder: true });
};
