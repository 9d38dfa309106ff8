import { RIG, type Rig } from "../model/rig";
import { countRig } from "./count-rig";
import { engineOf } from "./engine";
import { brokenIn } from "./standing";

/**
 * Every edit of a rig. What its ports ride on and under which numbers the computer knows them is counted anew after
 * each.
 */
export const rigEngine = engineOf<Rig>(RIG, { derive: countRig });

/** What must hold of a rig in every revision and does not. */
export const brokenRig: (rig: Rig) => readonly string[] = brokenIn(RIG);
