import type { FamilyAround } from "../model/guess-family";
import { perDocument } from "../model/per-document";
import { tracksOf } from "../model/read-template";
import type { Studio } from "../model/studio";
import type { Template } from "../model/template";
import { taughtWords } from "./taught-words";

/** What the tracks of a template are called, in their order. Kept for as long as none of its channels changes. */
export const trackNames = perDocument((channels: Template["channels"]): readonly string[] =>
  tracksOf({ channels }).map(({ name }) => name),
);

/** What stands around a track, by which a word with two meanings is told; and what the studio was told of names. */
export const familyAround = (doc: Pick<Template, "channels">, studio?: Pick<Studio, "taughtWords">): FamilyAround => ({
  names: trackNames(doc.channels),
  ...(studio ? { words: taughtWords(studio) } : {}),
});
