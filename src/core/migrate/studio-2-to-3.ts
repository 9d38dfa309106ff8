import type { Loose } from "./loose";

/** Version 2 kept no chains. */
export const secondStudioToThird = (doc: Loose): Loose => ({
  ...doc,
  schema: 3,
  chains: {},
  processors: {},
  bands: {},
});
