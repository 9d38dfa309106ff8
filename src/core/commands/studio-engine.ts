import { STUDIO, type Studio } from "../model/studio";
import { engineOf } from "./engine";
import { brokenIn } from "./standing";

/** Every edit of the studio: its rooms, people and defaults. */
export const studioEngine = engineOf<Studio>(STUDIO);

/** What must hold of the studio in every revision and does not. */
export const brokenStudio: (doc: Studio) => readonly string[] = brokenIn(STUDIO);
