import { modals } from "@mantine/modals";
import { typeAhead } from "./typed-ahead";

/** Opens a dialog. What is typed before its first field has the keys is not lost. */
export const openModal = (modal: Parameters<typeof modals.open>[0]): void => {
  typeAhead();
  modals.open(modal);
};
