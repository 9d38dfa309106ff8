import { cleanNotifications, notificationsStore } from "@mantine/notifications";
import { beforeEach, expect, it } from "vitest";
import { dropNoticesOfOthers, tell, tellWherever } from "./notices";

const shown = (): readonly unknown[] => notificationsStore.getState().notifications.map(({ message }) => message);

// The screens tried before this one may have said something that still stands.
beforeEach(() => {
  cleanNotifications();
  window.history.pushState(null, "", "/");
});

it("what is true everywhere stays as another screen is gone to; what is of a screen goes with it", () => {
  tell("of the library");
  tellWherever("of the studio");
  dropNoticesOfOthers();
  expect(shown()).toEqual(["of the library", "of the studio"]);
  window.history.pushState(null, "", "/templates/one/inputs");
  dropNoticesOfOthers();
  expect(shown()).toEqual(["of the studio"]);
});
