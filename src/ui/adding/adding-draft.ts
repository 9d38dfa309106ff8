import { useEffect, useState } from "react";
import {
  type Changeable,
  type RowChange,
  type Switches,
  USUAL_SWITCHES,
} from "@/core/formats/session-line/session-row";

/** What was typed and chosen where tracks are added; kept in this window, over a reload as well, until it is done. */
export interface AddingDraft {
  readonly text: string;
  readonly from: string;
  readonly switches: Switches;
  readonly changes: Readonly<Record<string, RowChange>>;
  readonly answers: Readonly<Record<string, string>>;
}

const FRESH: AddingDraft = { text: "", from: "", switches: USUAL_SWITCHES, changes: {}, answers: {} };

const keyOf = (templateId: string): string => `wandel adding ${templateId}`;

const readDraft = (templateId: string): AddingDraft => {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(keyOf(templateId)) ?? "null");
    if (typeof kept !== "object" || kept === null || !("text" in kept)) return FRESH;
    const draft = { ...FRESH, ...(kept as Partial<AddingDraft>) };
    return { ...draft, switches: { ...USUAL_SWITCHES, ...draft.switches } };
  } catch {
    return FRESH;
  }
};

const keep = (templateId: string, draft: AddingDraft): void => {
  try {
    sessionStorage.setItem(keyOf(templateId), JSON.stringify(draft));
  } catch {
    // A browser that keeps nothing: the draft lives as long as the page.
  }
};

/** Puts a text behind what is being written already, for the screen that opens with it. */
export const keepText = (templateId: string, text: string): void => {
  const draft = readDraft(templateId);
  keep(templateId, { ...draft, text: [draft.text.trim(), text.trim()].filter(Boolean).join("\n") });
};

/** The draft of a template, and what changes it. */
export const useAddingDraft = (templateId: string) => {
  const [draft, setDraft] = useState<AddingDraft>(() => readDraft(templateId));
  useEffect(() => keep(templateId, draft), [draft, templateId]);
  const set = (change: Partial<AddingDraft>): void => setDraft((old) => ({ ...old, ...change }));
  return {
    draft,
    set,
    turn: (which: keyof Switches, on: boolean): void =>
      setDraft((old) => ({ ...old, switches: { ...old.switches, [which]: on } })),
    change: (keys: readonly string[], field: Changeable, value: string): void =>
      setDraft((old) => ({
        ...old,
        changes: {
          ...old.changes,
          ...Object.fromEntries(keys.map((key) => [key, { ...old.changes[key], [field]: value }])),
        },
      })),
    answer: (id: string, value: string): void =>
      setDraft((old) => ({ ...old, answers: { ...old.answers, [id]: value } })),
    /** What was done is no draft; the switches stay as they are. */
    done: (): void => {
      const left = { ...FRESH, switches: draft.switches };
      keep(templateId, left);
      setDraft(left);
    },
  };
};

export type Adding = ReturnType<typeof useAddingDraft>;
