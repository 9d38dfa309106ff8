import { type Family, plain } from "../model/families";
import { perDocument } from "../model/per-document";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";

const wordsOf = perDocument(
  (words: Studio["taughtWords"]): ReadonlyMap<string, Family> =>
    new Map(entriesOf(words).map(({ word, family }) => [plain(word), family])),
);

/** Names that the studio was told the family of, without accents and in lower case. */
export const taughtWords = (studio: Pick<Studio, "taughtWords">): ReadonlyMap<string, Family> =>
  wordsOf(studio.taughtWords);
