import equal from "fast-deep-equal";
import { differingIds } from "../model/table";
import { TEMPLATE, type Template } from "../model/template";
import { meansTheSame, NAMED } from "./nameless";
import type { Read } from "./reads";

type Loose = Readonly<Record<string, unknown>>;
type Entries = Readonly<Record<string, Loose>>;

const TABLES = Object.keys(TEMPLATE.tables);
const IS_NAMED = new Set<string>(NAMED);

/**
 * What changed of an entry that stayed. A name that means something else counts as `said`, one that came or went as
 * everything: things are spoken of by it.
 */
const inEntry = (table: string, was: Loose, is: Loose, found: Set<string>): void => {
  for (const key of new Set([...Object.keys(was), ...Object.keys(is)])) {
    if (was[key] === is[key] || equal(was[key], is[key])) continue;
    found.add(`${table}.${key}`);
    if (key !== "name" || !IS_NAMED.has(table)) continue;
    const [before, after] = [String(was.name), String(is.name)];
    if ((before === "") !== (after === "")) found.add(`${table}.*`);
    else if (!meansTheSame(before, after)) found.add(`${table}.said`);
  }
};

/**
 * What of a template changed, as rules name what they read; `table.*` where entries came or went. Linear in what
 * differs.
 */
export const changedReads = (before: Template, after: Template): ReadonlySet<string> => {
  const found = new Set<string>();
  for (const key of Object.keys(after) as (keyof Template)[]) {
    if (before[key] === after[key]) continue;
    if (!TABLES.includes(key)) {
      if (!equal(before[key], after[key])) found.add(key);
      continue;
    }
    const [was, is] = [before[key] as unknown as Entries, after[key] as unknown as Entries];
    for (const id of differingIds(was, is)) {
      const [old, now] = [was[id], is[id]];
      if (!old || !now) found.add(`${key}.*`);
      else inEntry(key, old, now, found);
    }
  }
  return found;
};

/** Whether a rule that reads these has something else to go by. */
export const readsAnyOf = (reads: readonly Read[], changed: ReadonlySet<string>): boolean => {
  if (!changed.size) return false;
  return reads.some((read) => {
    const [table = ""] = read.split(".");
    if (changed.has(read) || changed.has(`${table}.*`)) return true;
    return read.endsWith(".*") && [...changed].some((one) => one.startsWith(`${table}.`));
  });
};
