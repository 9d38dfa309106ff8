import { nanoid } from "nanoid";
import type { ImportPreview } from "@/contracts/answers";
import { isFamily } from "@/core/formats/input-list/changes";
import type { ImportChoices } from "@/core/formats/input-list/import-choices";
import type { Meaning } from "@/core/formats/input-list/meanings";
import { plain } from "@/core/model/families";
import type { FamilyWordId, ListHabitId } from "@/core/model/ids";
import { STUDIO_ID } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import { type StudioEdit, studioEditing } from "@/core/planning/edits/studio-editing";
import { counted } from "@/core/units/counted";
import { api } from "../shared/api";
import { tell } from "../shared/notices";
import { editElsewhere } from "../state/edit-elsewhere";

interface Corrected {
  readonly columns: readonly Meaning[] | null;
  readonly choices: ImportChoices;
}

/** Names that were put into a family, each once, without the number at their end. */
const wordsOf = (preview: ImportPreview, { choices }: Corrected) => {
  const words = new Map<string, { readonly word: string; readonly family: string }>();
  for (const { key, track } of preview.rows) {
    const family = choices.changes?.[key]?.family;
    const word = track.replace(/ ?\d{1,3}$/, "").trim() || track;
    if (isFamily(family) && word) words.set(plain(word), { word: word.slice(0, 200), family });
  }
  return [...words.values()];
};

/**
 * Keeps in the studio what was corrected in a list: the meaning of its columns, for lists of the same headings, and the
 * family of names. Says so; what can't be kept leaves the template as it is.
 */
export const remember = async (preview: ImportPreview, corrected: Corrected): Promise<void> => {
  const words = wordsOf(preview, corrected);
  const columns = preview.headings ? corrected.columns : null;
  if (!words.length && !columns) return;
  try {
    const { document } = await api.studio.load(STUDIO_ID);
    const known = entriesOf(document.taughtWords);
    const oldWords = known.filter(({ word }) => words.some((one) => plain(one.word) === plain(word)));
    const oldHabits = columns
      ? entriesOf(document.listHabits).filter(({ headings }) => headings === preview.headings)
      : [];
    const edits: readonly StudioEdit[] = [
      ...(oldWords.length
        ? [{ kind: "entries.remove", table: "taughtWords", ids: oldWords.map(({ id }) => id) } as StudioEdit]
        : []),
      ...(oldHabits.length
        ? [{ kind: "entries.remove", table: "listHabits", ids: oldHabits.map(({ id }) => id) } as StudioEdit]
        : []),
      {
        kind: "entries.add",
        entries: {
          ...(words.length
            ? { taughtWords: words.map((one) => ({ id: `word-${nanoid(10)}` as FamilyWordId, ...one })) }
            : {}),
          ...(columns
            ? {
                listHabits: [
                  { id: `list-${nanoid(10)}` as ListHabitId, headings: preview.headings, meanings: columns },
                ],
              }
            : {}),
        },
      } as StudioEdit,
    ];
    await editElsewhere({ remote: api.studio, editing: studioEditing, id: STUDIO_ID }, edits);
    const parts = [
      ...(columns ? ["the columns of lists headed so"] : []),
      ...(words.length ? [`the family of ${counted(words.length, "name")}`] : []),
    ];
    tell(
      `The studio remembers ${parts.join(" and ")}. Rooms, people and defaults has them, to be changed or forgotten.`,
    );
  } catch {
    tell("The template was made; what was corrected could not be remembered in the studio.");
  }
};
