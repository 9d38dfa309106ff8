import { type Loose, mapTable } from "./loose";
import { withCosts } from "./processor-costs";

/** How loud each family was taken to play when version 4 came. */
const LEVELS: Readonly<Record<string, readonly [loudnessDb: number, distanceM: number, crestDb: number]>> = {
  percussion: [100, 0.3, 20],
  "low-strings": [82, 0.4, 14],
  "plucked-strings": [78, 0.4, 18],
  "bowed-strings": [82, 0.6, 12],
  keys: [84, 0.6, 14],
  brass: [96, 0.6, 12],
  woodwind: [86, 0.5, 12],
  voices: [80, 0.2, 14],
  speech: [66, 0.2, 15],
  rooms: [90, 4, 14],
};

/** Version 3 did not say how loud a family plays, nor what a processor costs. */
export const thirdStudioToFourth = (doc: Loose): Loose => ({
  ...doc,
  schema: 4,
  families: mapTable(doc.families, (family) => {
    const [loudnessDb, distanceM, crestDb] = LEVELS[String(family.id)] ?? [85, 0.5, 14];
    return { ...family, loudnessDb, distanceM, crestDb };
  }),
  processors: withCosts(doc.processors),
});
