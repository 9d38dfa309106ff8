import { brokenIn } from "../commands/standing";
import { STUDIO, type Studio } from "../model/studio";

/** What must hold of the studio in every revision and does not. */
export const brokenStudio: (doc: Studio) => readonly string[] = brokenIn(STUDIO);
