import { nanoid } from "nanoid";
import type { ImportPreview } from "@/contracts/answers";
import { isFamily } from "@/core/formats/input-list/changes";
import type { ImportChoices } from "@/core/formats/input-list/import-choices";
import type { Meaning } from "@/core/formats/input-list/meanings";
import { type Family, plain } from "@/core/model/families";
import type { FamilyWordId, ListHabitId } from "@/core/model/ids";
import { STUDIO_ID, type Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import { type StudioEdit, studioEditing } from "@/core/planning/edits/studio-editing";
import { counted } from "@/core/units/counted";
import { api } from "../shared/api";
import { tellWherever } from "../shared/notices";
import { editElsewhere } from "../state/edit-elsewhere";

interface Word {
  readonly word: string;
  readonly family: Family;
}

interface Corrected {
  readonly words: readonly Word[];
  /** What the columns of lists with these headings mean; null where nothing was corrected. */
  readonly habit: { readonly headings: string; readonly meanings: readonly Meaning[] } | null;
}

/** Names that were put into a family, each once, without the number at their end. */
export const wordsOf = (
  chosen: readonly { readonly name: string; readonly family: string | undefined }[],
): readonly Word[] => {
  const words = new Map<string, Word>();
  for (const { name, family } of chosen) {
    const word = (name.replace(/ ?\d{1,3}$/, "").trim() || name).slice(0, 200);
    if (isFamily(family) && word) words.set(plain(word), { word, family });
  }
  return [...words.values()];
};

/** What a studio keeps of it, in the place of what it kept of the same names and headings. */
const editsFor = (studio: Studio, { words, habit }: Corrected): readonly StudioEdit[] => {
  const names = new Set(words.map(({ word }) => plain(word)));
  const oldWords = entriesOf(studio.taughtWords).filter(({ word }) => names.has(plain(word)));
  const oldHabits = entriesOf(studio.listHabits).filter(({ headings }) => headings === habit?.headings);
  const remove = (
    table: "taughtWords" | "listHabits",
    gone: readonly { readonly id: string }[],
  ): readonly StudioEdit[] =>
    gone.length ? [{ kind: "entries.remove", table, ids: gone.map(({ id }) => id) } as unknown as StudioEdit] : [];
  const taughtWords = words.map((one) => ({ id: `word-${nanoid(10)}` as FamilyWordId, ...one }));
  const listHabits = habit ? [{ id: `list-${nanoid(10)}` as ListHabitId, ...habit }] : [];
  return [
    ...remove("taughtWords", oldWords),
    ...remove("listHabits", oldHabits),
    {
      kind: "entries.add",
      entries: { ...(words.length ? { taughtWords } : {}), ...(habit ? { listHabits } : {}) },
    } as StudioEdit,
  ];
};

/**
 * Keeps in the studio what was corrected: the meaning of columns, for lists of the same headings, and the family of
 * names. Says so; what can't be kept changes nothing of what was made.
 */
export const remember = async (corrected: Corrected): Promise<void> => {
  const { words, habit } = corrected;
  if (!words.length && !habit) return;
  try {
    const { document } = await api.studio.load(STUDIO_ID);
    await editElsewhere({ remote: api.studio, editing: studioEditing, id: STUDIO_ID }, editsFor(document, corrected));
    const parts = [
      ...(habit ? ["the columns of lists headed so"] : []),
      ...(words.length ? [`the family of ${counted(words.length, "name")}`] : []),
    ];
    tellWherever(
      `The studio remembers ${parts.join(" and ")}. Rooms, people and defaults has them, to be changed or forgotten.`,
    );
  } catch {
    tellWherever("What was corrected could not be remembered in the studio; what was made is as you set it.");
  }
};

/** What was corrected in the preview of a list. */
export const correctedIn = (
  { rows, headings }: ImportPreview,
  { columns, choices }: { readonly columns: readonly Meaning[] | null; readonly choices: ImportChoices },
): Corrected => ({
  words: wordsOf(rows.map(({ key, track }) => ({ name: track, family: choices.changes?.[key]?.family }))),
  habit: headings && columns ? { headings, meanings: columns } : null,
});
