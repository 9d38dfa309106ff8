import { STUDIO, type Studio } from "../model/studio";
import { engineOf } from "./engine";

/** Every edit of the studio: its rooms, people and defaults. */
export const studioEngine = engineOf<Studio>(STUDIO);
