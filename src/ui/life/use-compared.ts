import { useEffect, useMemo, useState } from "react";
import type { Life } from "@/contracts/answers";
import type { Change } from "@/core/difference/change";
import { changesBetween, OF_SESSION } from "@/core/difference/changes-between";
import { matchedByMeaning } from "@/core/difference/matching";
import { type ToldChange, told } from "@/core/difference/words";
import { type TwoSelvedges, twoSelvedges } from "@/core/layout/two-selvedges";
import { TEMPLATE, type Template } from "@/core/model/template";
import { api, ServiceError } from "../shared/api";
import { useDesk } from "../state/desk-context";

/** One side of a comparison: the template as it is, a revision of it, or another document. */
export type Side =
  | { readonly kind: "now" }
  | { readonly kind: "revision"; readonly revision: number }
  | { readonly kind: "other"; readonly id: string };

export const readSide = (text: string | null): Side => {
  if (text === null || text === "" || text === "now") return { kind: "now" };
  return /^\d{1,9}$/.test(text) ? { kind: "revision", revision: Number(text) } : { kind: "other", id: text };
};
export const writeSide = (side: Side): string =>
  side.kind === "now" ? "now" : side.kind === "revision" ? String(side.revision) : side.id;

interface Loaded {
  readonly document: Template;
  readonly revision: number;
}

export interface Compared {
  readonly left: Template;
  readonly right: Template;
  readonly changes: readonly Change[];
  readonly told: readonly ToldChange[];
  readonly selvedges: TwoSelvedges;
  /** Both came from one document, and whose each difference is, is known. */
  readonly descent: boolean;
  /** How many entries were found alike by what they mean; null where ids tell. */
  readonly alike: number | null;
}

/** What both sides came from: what a session or descendant was when it began, without the families it did not need. */
const baseOf = (life: Life | null, right: Side): { readonly id: string; readonly revision: number } | null => {
  if (!life || right.kind !== "other") return null;
  const began = [...life.sessions, ...life.descendants].some(({ id }) => id === right.id);
  if (began) return { id: right.id, revision: 1 };
  return life.ancestor?.id === right.id ? { id: life.id, revision: 1 } : null;
};

const load = async (id: string, side: Side): Promise<Loaded | null> => {
  if (side.kind === "now") return null;
  return side.kind === "revision" ? api.revision(id, side.revision) : api.loadTemplate(side.id);
};

/** Two states side by side, with what differs between them; null while it is being looked up. */
export const useCompared = (life: Life | null, left: Side, right: Side) => {
  const doc = useDesk((desk) => desk.doc);
  const rigs = useDesk((desk) => desk.rigs);
  const [docs, setDocs] = useState<{
    readonly key: string;
    readonly left: Template | null;
    readonly right: Template | null;
    readonly base: Template | null;
  } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const key = `${writeSide(left)} ${writeSide(right)} ${life ? "known" : ""}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the sides are what the key says
  useEffect(() => {
    let gone = false;
    const look = async (): Promise<void> => {
      try {
        const base = baseOf(life, right);
        const [one, other, from] = await Promise.all([
          load(doc.id, left),
          load(doc.id, right),
          base ? api.revision(base.id, base.revision) : null,
        ]);
        if (gone) return;
        setError(null);
        setDocs({ key, left: one?.document ?? null, right: other?.document ?? null, base: from?.document ?? null });
      } catch (failure) {
        if (!(failure instanceof ServiceError)) throw failure;
        if (!gone) setError(failure.message);
      }
    };
    if (life) void look();
    return () => {
      gone = true;
    };
  }, [key, doc.id]);
  const compared = useMemo((): Compared | null => {
    if (!docs || docs.key !== key || !life) return null;
    const here = docs.left ?? doc;
    const given = docs.right ?? doc;
    const related = right.kind !== "other" || docs.base !== null;
    const matched = related ? null : matchedByMeaning(here, given);
    const there = matched?.there ?? given;
    const leaving = right.kind === "other" ? (related ? OF_SESSION : ["session"]) : [];
    const changes = changesBetween(TEMPLATE, { here, there, base: docs.base, leaving });
    return {
      left: here,
      right: there,
      changes,
      told: told(changes, { here, there, rigs }),
      selvedges: twoSelvedges(here, there, changes),
      descent: docs.base !== null,
      alike: matched?.alike ?? null,
    };
  }, [docs, key, doc, right, rigs, life]);
  return { compared, error };
};
