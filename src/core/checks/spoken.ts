import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import type { Finding, Fix } from "./finding";
import type { Nameless } from "./nameless";

/** A finding with the names it had, and by which numbers it speaks of them. */
interface Spoken {
  readonly numbers: readonly number[];
  readonly names: readonly (string | null)[];
  readonly finding: Finding;
}

/** Gives findings the names of a template: those that speak of nothing renamed are the very same as before. */
export class Speaking {
  private readonly spoken = new WeakMap<Finding, Spoken>();
  private readonly edits = new WeakMap<object, ReadonlySet<number>>();

  constructor(private readonly nameless: Nameless) {}

  private numbersIn(value: unknown): ReadonlySet<number> {
    if (typeof value === "string") return new Set(this.nameless.numbersIn(value));
    if (value === null || typeof value !== "object") return new Set();
    const known = this.edits.get(value) ?? new Set(Object.values(value).flatMap((part) => [...this.numbersIn(part)]));
    this.edits.set(value, known);
    return known;
  }

  private deep(value: unknown, doc: Template): unknown {
    if (typeof value === "string") return this.nameless.named(value, doc);
    if (value === null || typeof value !== "object" || !this.numbersIn(value).size) return value;
    return Array.isArray(value)
      ? value.map((part) => this.deep(part, doc))
      : Object.fromEntries(Object.entries(value).map(([key, part]) => [key, this.deep(part, doc)]));
  }

  private fix(fix: Fix, doc: Template): Fix {
    if (!this.nameless.numbersIn(fix.label).length && !this.numbersIn(fix.edits).size) return fix;
    return { label: this.nameless.named(fix.label, doc), edits: this.deep(fix.edits, doc) as readonly Edit[] };
  }

  finding(raw: Finding, doc: Template): Finding {
    const known = this.spoken.get(raw);
    if (known?.numbers.every((number, at) => this.nameless.nameOf(number, doc) === known.names[at]))
      return known.finding;
    const numbers = known?.numbers ?? [
      ...new Set([
        ...this.nameless.numbersIn(raw.message),
        ...raw.fixes.flatMap(({ label, edits }) => [...this.nameless.numbersIn(label), ...this.numbersIn(edits)]),
      ]),
    ];
    const finding = numbers.length
      ? { ...raw, message: this.nameless.named(raw.message, doc), fixes: raw.fixes.map((fix) => this.fix(fix, doc)) }
      : raw;
    this.spoken.set(raw, { numbers, names: numbers.map((number) => this.nameless.nameOf(number, doc)), finding });
    return finding;
  }
}
