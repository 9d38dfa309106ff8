import { createSpotlight } from "@mantine/spotlight";

/** One palette for every screen: whether it is open, and how to open it. */
export const [paletteStore, palette] = createSpotlight();
