import { plain } from "../model/families";
import { perText } from "../model/per-document";

const BOTTOM = ["bottom", "bot", "under", "below", "unten", "unter", "dessous", "btm", "b"];
const TOP = ["top", "over", "oben", "dessus", "t", "batter"];

const wordsOf = perText((name: string): readonly string[] => plain(name).split(" "));

/** Whether a name tells of a microphone below a drum, where the skin goes away while it comes to the one above. */
export const isBelow = perText((name: string): boolean => wordsOf(name).some((word) => BOTTOM.includes(word)));

/** A name without where on the drum its microphone stands. @example drumOf("Snare bottom") // "snare" */
export const drumOf = perText((name: string): string =>
  wordsOf(name)
    .filter((word) => !BOTTOM.includes(word) && !TOP.includes(word))
    .join(" "),
);
