import { counted } from "../../units/counted";

interface Named {
  readonly name: string;
}

/** "the cue Ilse" for one, "3 cues" for several. */
export const titled =
  (one: string, many = `${one}s`) =>
  (entries: readonly Named[]): string =>
    entries.length === 1 ? `the ${one} ${entries[0]?.name.trim()}` : counted(entries.length, one, many);

/** "Add the cue Ilse". */
export const addTitled =
  (one: string, many = `${one}s`) =>
  (entries: readonly Named[]): string =>
    `Add ${titled(one, many)(entries)}`;

/** "Dye Fiddle weld". */
export const dyed = (who: string, colour: string | null): string =>
  colour ? `Dye ${who} ${colour}` : `Take the dye off ${who}`;
