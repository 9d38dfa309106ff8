import { createSpotlight } from "@mantine/spotlight";

/** One palette for every screen: whether it is open, and how to open it. */
export const [paletteStore, palette] = createSpotlight();

/**
 * Marks the first thing on offer for Enter. The palette does so by itself when something is typed, but not for what is
 * found a moment later.
 */
export const markFirst = (): void => {
  const { listId, query } = paletteStore.getState();
  const list = listId ? document.getElementById(listId) : null;
  const first = list?.querySelector("[data-action]");
  if (!query || !first || list?.querySelector("[data-selected]")) return;
  first.setAttribute("data-selected", "true");
  paletteStore.updateState((state) => ({ ...state, selected: 0 }));
};
