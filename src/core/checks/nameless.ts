import type { Family } from "../model/families";
import { guessFamily } from "../model/guess-family";
import { endsInSide } from "../model/line-name";
import { saidName, saysAs } from "../model/said-name";
import { kindLevels } from "../model/source-levels";
import { differingIds } from "../model/table";
import type { Template } from "../model/template";
import { standsFor } from "../queries/stands-for";

/** Tables whose entries are spoken of by name. */
export const NAMED = ["channels", "cues", "folders", "passes"] as const;
type NamedTable = (typeof NAMED)[number];
type Named = { readonly id: string; readonly name: string };
type Entries = Readonly<Record<string, Named>>;

/** Begin and end of what stands for a name: of the private use area, so that no name can be taken for one by chance. */
const [OPENS, CLOSES] = ["\uE000", "\uE001"];
const MARK = /\uE000(\d+)\uE001/g;

interface Meaning {
  readonly family: Family | null;
  readonly kind: ReturnType<typeof kindLevels>;
  readonly stands: ReturnType<typeof standsFor>;
  readonly side: boolean;
}

/** What a name gives away of what is played. */
const meaningOf = (name: string): Meaning => ({
  family: guessFamily(name),
  kind: kindLevels(name),
  stands: standsFor(name),
  side: endsInSide(name),
});
export const meansTheSame = (a: string, b: string): boolean =>
  a === b || JSON.stringify(meaningOf(a)) === JSON.stringify(meaningOf(b));

const onlyRenamed = (was: Named, is: Named): boolean => {
  const [a, b] = [was as unknown as Record<string, unknown>, is as unknown as Record<string, unknown>];
  for (const key in b) if (key !== "name" && a[key] !== b[key]) return false;
  return (was.name === "") === (is.name === "");
};

/**
 * Templates as rules look at them: every channel, cue, folder and pass goes by a mark instead of its name, so that a
 * template in which only names were changed is the very same to them. What is said is given its names at the end.
 */
export class Nameless {
  private readonly numbers = new Map<string, number>();
  private readonly things: { readonly table: NamedTable; readonly id: string }[] = [];
  private last: { readonly doc: Template; readonly view: Template } | null = null;

  private mark(table: NamedTable, id: string): string {
    const key = `${table} ${id}`;
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.things.push({ table, id }) - 1;
      this.numbers.set(key, number);
    }
    return `${OPENS}${number}${CLOSES}`;
  }

  private seen(table: NamedTable, entry: Named): Named {
    return saysAs({ ...entry, name: entry.name && this.mark(table, entry.id) }, entry.name);
  }

  private table(table: NamedTable, now: Entries): Entries {
    const [was, view] = [(this.last?.doc[table] ?? {}) as Entries, (this.last?.view[table] ?? {}) as Entries];
    if (was === now) return view;
    const changed = new Map<string, Named>();
    let sameIds = this.last !== null;
    for (const id of differingIds(was, now)) {
      const [before, after] = [was[id], now[id]];
      if (!before || !after) sameIds = false;
      else if (view[id] && onlyRenamed(before, after) && meansTheSame(saidName(view[id]), after.name)) continue;
      if (after) changed.set(id, this.seen(table, after));
    }
    if (sameIds) return changed.size ? { ...view, ...Object.fromEntries(changed) } : view;
    // The order in which entries stand is that of the template itself.
    return Object.fromEntries(
      Object.values(now).map((entry) => [entry.id, changed.get(entry.id) ?? (view[entry.id] as Named)]),
    );
  }

  /** A template without names: the very same one as before where only names that mean the same have changed. */
  view(doc: Template): Template {
    if (this.last?.doc === doc) return this.last.view;
    const before = this.last;
    const tables = Object.fromEntries(NAMED.map((table) => [table, this.table(table, doc[table] as Entries)]));
    const same =
      before !== null &&
      Object.keys(doc).every((key) => {
        const field = key as keyof Template;
        return Object.hasOwn(tables, key) ? tables[key] === before.view[field] : doc[field] === before.doc[field];
      });
    const view = same && before ? before.view : ({ ...doc, ...tables } as Template);
    this.last = { doc, view };
    return view;
  }

  /** A text with the names of a template in it. */
  named(text: string, doc: Template): string {
    return text.includes(OPENS)
      ? text.replace(MARK, (mark, number: string) => this.nameOf(Number(number), doc) ?? mark)
      : text;
  }

  /** What is spoken of in a text, by number. */
  numbersIn(text: string): readonly number[] {
    return text.includes(OPENS) ? [...text.matchAll(MARK)].map(([, number]) => Number(number)) : [];
  }

  nameOf(number: number, doc: Template): string | null {
    const thing = this.things[number];
    return thing ? ((doc[thing.table] as Entries)[thing.id]?.name ?? null) : null;
  }
}
