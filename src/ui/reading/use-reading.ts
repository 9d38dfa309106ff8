import { useEffect, useMemo, useState } from "react";
import type { ImportPreview } from "@/contracts/answers";
import type { ResultField } from "@/core/formats/input-list/changes";
import type { ImportChoices } from "@/core/formats/input-list/import-choices";
import type { Meaning } from "@/core/formats/input-list/meanings";
import { api, ServiceError } from "../shared/api";

/** All that a person has chosen for a file; a file of the same name and size finds it as it was left. */
interface Chosen {
  readonly rigId: string | null;
  readonly name: string | null;
  readonly kind: string;
  readonly columns: readonly Meaning[] | null;
  readonly choices: ImportChoices;
}

const FRESH: Chosen = { rigId: null, name: null, kind: "band", columns: null, choices: {} };
/** What was chosen for files that were put aside, in this window. */
const left = new Map<string, Chosen>();
const MOST_LEFT = 20;
const keyOf = (file: File): string => `${file.name} ${file.size} ${file.lastModified}`;

const keep = (file: File, chosen: Chosen): void => {
  left.delete(keyOf(file));
  left.set(keyOf(file), chosen);
  const [oldest] = left.keys();
  if (left.size > MOST_LEFT && oldest !== undefined) left.delete(oldest);
};

/** The list as it is read with what was chosen, asked for anew whenever that changes. */
export const useReading = (file: File) => {
  const [chosen, setChosen] = useState<Chosen>(() => left.get(keyOf(file)) ?? FRESH);
  const [preview, setPreview] = useState<ImportPreview | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(true);
  const { rigId, columns, choices } = chosen;
  const asked = useMemo(
    () => ({ ...(rigId ? { rigId } : {}), ...(columns ? { columns } : {}), choices }),
    [rigId, columns, choices],
  );
  useEffect(() => {
    const controller = new AbortController();
    setBusy(true);
    api
      .previewImport({ file, ...asked }, controller.signal)
      .then(
        (answer) => {
          setPreview(answer);
          setError(null);
        },
        (failure: unknown) => {
          if (!controller.signal.aborted)
            setError(failure instanceof ServiceError ? failure.message : "The file can't be read.");
        },
      )
      .finally(() => {
        if (!controller.signal.aborted) setBusy(false);
      });
    return () => controller.abort();
  }, [file, asked]);
  const set = (change: Partial<Chosen>): void =>
    setChosen((old) => {
      const now = { ...old, ...change };
      keep(file, now);
      return now;
    });
  const choose = (change: (old: ImportChoices) => ImportChoices): void =>
    setChosen((old) => {
      const now = { ...old, choices: change(old.choices) };
      keep(file, now);
      return now;
    });
  return {
    chosen,
    preview,
    error,
    busy,
    set,
    answer: (id: string, value: string): void =>
      choose((old) => ({ ...old, answers: { ...old.answers, [id]: value } })),
    change: (keys: readonly string[], field: ResultField, value: string): void =>
      choose((old) => ({
        ...old,
        changes: {
          ...old.changes,
          ...Object.fromEntries(keys.map((key) => [key, { ...old.changes?.[key], [field]: value }])),
        },
      })),
    turn: (rows: readonly number[], on: boolean): void =>
      choose((old) => {
        const off = new Set(old.off ?? []);
        for (const row of rows)
          if (on) off.delete(row);
          else off.add(row);
        return { ...old, off: [...off] };
      }),
    choose,
    /** Another sheet is another list: what was set in the rows of this one is for this one only. */
    toSheet: (sheet: number): void => set({ columns: null, choices: { sheet } }),
    forget: (): void => set({ columns: null, choices: { ...choices, forgetful: true } }),
    done: (): void => void left.delete(keyOf(file)),
  };
};

export type Reading = ReturnType<typeof useReading>;
