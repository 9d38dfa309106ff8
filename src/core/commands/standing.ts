import { checkerOf } from "../model/checker";
import type { DocumentDescription, Rule, TableDescription } from "../model/describe/table";
import { type Refusal, refuse } from "./command";
import { isOrderKey } from "./order-keys";
import { type Loose, referencesOf, splitKey, targetsOf } from "./references";
import { calledOf } from "./tidy";
import { Work } from "./work";

type AnyWork = Work<{ readonly id: string }>;

/** What is looked at: the document as it is, and what of it was there before. */
interface Looking {
  readonly around: AnyWork["around"];
  entry(table: string, id: string): Loose | undefined;
}

/** Whether an entry lies in itself, or deeper than may be. No more steps are taken than are allowed. */
const lies = (looking: Looking, table: string, of: TableDescription, entry: Loose): readonly string[] => {
  if (!of.nested) return [];
  const { by, depth: most } = of.nested;
  let depth = 1;
  for (let at = looking.entry(table, String(entry[by])); at; at = looking.entry(table, String(at[by]))) {
    if (at.id === entry.id) return [`${of.one} ${calledOf(of, entry, looking as AnyWork)} lies in itself`];
    if (++depth > most) return [`${of.many} lie more than ${most} deep in one another`];
  }
  return [];
};

/** The same for a whole table in one walk: the depth of an entry is that of the one it lies in and one more. */
const nesting = (of: TableDescription, table: Readonly<Record<string, Loose>>, looking: Looking): readonly string[] => {
  if (!of.nested) return [];
  const { by, depth: most } = of.nested;
  const parentOf = (id: string): string | null => (table[id]?.[by] as string | null | undefined) ?? null;
  const depths = new Map<string, number>();
  const faults: string[] = [];
  let deepest = 0;
  for (const id of Object.keys(table)) {
    const above: string[] = [];
    const onWay = new Set<string>();
    let at: string | null = id;
    while (at !== null && !depths.has(at) && !onWay.has(at)) {
      above.push(at);
      onWay.add(at);
      at = parentOf(at);
    }
    const ring = at !== null && onWay.has(at) ? table[at] : undefined;
    if (ring) faults.push(`${of.one} ${calledOf(of, ring, looking as AnyWork)} lies in itself`);
    let depth = at !== null && !ring ? (depths.get(at) ?? 0) : 0;
    for (const inner of above.reverse()) depths.set(inner, ++depth);
    deepest = Math.max(deepest, depth);
  }
  return deepest > most
    ? [...faults, `${of.many} lie ${deepest} deep in one another, and ${most} is the most`]
    : faults;
};

/** What is wrong with an entry where it is, in words. */
const wrongWith = (looking: Looking, of: TableDescription, entry: Loose): readonly string[] => {
  const called = () => calledOf(of, entry, looking as AnyWork);
  const dangling = referencesOf(of, entry).flatMap((reference) => {
    const { to, kinds, dangling: says = "refers to something that is not there" } = reference.reference;
    return targetsOf(reference, entry).flatMap((id) => {
      const target = looking.entry(to, id);
      return target && (!kinds || kinds.includes(String(target.kind))) ? [] : [`${called()} ${says}`];
    });
  });
  const alone =
    of.alongside && !looking.entry(of.alongside, String(entry.id))
      ? [`${of.many} are given for something that is not there`]
      : [];
  const rules = (of.rules ?? []) as readonly ((entry: Loose, around: Parameters<Rule>[1]) => string | null)[];
  const broken = rules.flatMap((rule) => rule(entry, looking.around) ?? []);
  const place =
    typeof entry.order === "string" && !isOrderKey(entry.order) ? [`${called()} has a place that is none`] : [];
  return [...alone, ...dangling, ...broken, ...place];
};

const doubled = (looking: Looking, of: TableDescription, entries: readonly Loose[]): readonly string[] =>
  (of.unique ?? []).flatMap((unique) => {
    const seen = new Set<string | null>();
    return entries.flatMap((entry) => {
      const key = (unique.key as (entry: Loose) => string | null)(entry);
      const twice = key !== null && seen.has(key);
      seen.add(key);
      return twice ? [(unique.says as (entry: Loose, around: Looking["around"]) => string)(entry, looking.around)] : [];
    });
  });

/**
 * Whether an entry could be like another now and was not: it is new, or what must be there once only has changed in it.
 */
const couldDouble = ({ unique = [] }: TableDescription, was: Loose | undefined, is: Loose | undefined): boolean =>
  is !== undefined &&
  unique.some(
    ({ key }) =>
      was === undefined ||
      (key as (entry: Loose) => string | null)(is) !== (key as (entry: Loose) => string | null)(was),
  );

const overfull = ({ most, many }: TableDescription, count: number): readonly string[] =>
  count > most ? [`it holds ${count} ${many}, and ${most} is the most`] : [];

const notSingle = ({ single }: TableDescription, table: Readonly<Record<string, Loose>>): readonly string[] => {
  if (!single) return [];
  const ofKind = Object.values(table).filter((entry) => entry.kind === single.kind);
  return ofKind.length === 1 && ofKind[0]?.id === single.id ? [] : [single.says];
};

const fixed = ({ ids, many }: TableDescription, before: number, after: number): readonly string[] =>
  ids === "fixed" && before !== after ? [`there are always the same ${many}`] : [];

/** What a table as a whole breaks; looked at only where its entries came, went, or could have become like another. */
const wrongWithTable = (work: AnyWork, table: string, of: TableDescription): readonly string[] => {
  const touched = [...(work.touched.get(table) ?? [])];
  const came = touched.some((id) => !work.had(table, id));
  const went = touched.some((id) => !work.entry(table, id));
  const entries = work.table(table);
  const count = came ? Object.keys(entries).length : 0;
  return [
    ...overfull(of, count),
    ...(came || went
      ? fixed(
          of,
          Object.keys((work.before as unknown as Record<string, object>)[table] ?? {}).length,
          Object.keys(entries).length,
        )
      : []),
    ...(of.single && touched.some((id) => (work.entry(table, id) ?? work.had(table, id))?.kind === of.single?.kind)
      ? notSingle(of, entries)
      : []),
    ...(of.unique && touched.some((id) => couldDouble(of, work.had(table, id), work.entry(table, id)))
      ? doubled(work, of, Object.values(entries))
      : []),
  ];
};

const headerFault = (work: AnyWork): Refusal | null => {
  for (const field of work.touchedHeader) {
    const of = work.description.header[field];
    if (!of) continue;
    const [fault] = checkerOf(of.schema).faults(work.header(field));
    if (fault)
      return refuse(
        "unfit",
        `/${field}${fault.pointer}`,
        `That does not fit at ${[field, ...fault.pointer.slice(1).split("/")].filter(Boolean).join(" ")}: ${fault.message}`,
      );
  }
  return null;
};

/** Something that went and is still referred to: only a taking back leaves that. */
const stillReferredTo = (work: AnyWork, table: string, id: string): readonly string[] =>
  [...work.references.referrers(table, id)].slice(0, 1).map((key) => {
    const [from, fromId] = splitKey(key);
    const [of, entry] = [work.description.tables[from], work.entry(from, fromId)];
    return of && entry
      ? (wrongWith(work, of, entry)[0] ?? `${calledOf(of, entry, work)} refers to something that is not there`)
      : "something refers to what is not there";
  });

/**
 * How what was there before is looked at: what was broken already, in a document of an older Wandel, is no reason to
 * refuse an edit.
 */
const looksBefore = (work: AnyWork): Looking => {
  const entry = (table: string, id: string) => work.had(table, id);
  return { entry, around: { entry } };
};

const firstNew = (faults: readonly string[], known: () => readonly string[]): string | undefined => {
  if (!faults.length) return undefined;
  const before = known();
  return faults.find((fault) => !before.includes(fault));
};

/** What is wrong with a touched entry and was not before. */
const newInEntry = (work: AnyWork, before: Looking, table: string, id: string): string | undefined => {
  const of = work.description.tables[table];
  if (!of) return undefined;
  const [was, is] = [work.had(table, id), work.entry(table, id)];
  const faults = is ? [...wrongWith(work, of, is), ...lies(work, table, of, is)] : stillReferredTo(work, table, id);
  return firstNew(faults, () => (was && is ? [...wrongWith(before, of, was), ...lies(before, table, of, was)] : []));
};

/**
 * What a change broke of the rules of those that refer to the changed: a pair of ports of which one went to another
 * device.
 */
const newInReferrers = (work: AnyWork, before: Looking, table: string, id: string): string | undefined => {
  if (!work.had(table, id) || !work.entry(table, id)) return undefined;
  for (const key of work.references.referrers(table, id)) {
    const [from, fromId] = splitKey(key);
    if (work.description.tables[from]?.rules && !work.touched.get(from)?.has(fromId)) {
      const fault = newInEntry(work, before, from, fromId);
      if (fault) return fault;
    }
  }
  return undefined;
};

const newInTable = (work: AnyWork, before: Looking, table: string): string | undefined => {
  const of = work.description.tables[table];
  const old = (work.before as unknown as Readonly<Record<string, Readonly<Record<string, Loose>>>>)[table] ?? {};
  return of && firstNew(wrongWithTable(work, table, of), () => doubled(before, of, Object.values(old)));
};

/** What of all this is new since before the gesture. */
const newFaults = (work: AnyWork): string | undefined => {
  const before = looksBefore(work);
  for (const [table, ids] of work.touched) {
    for (const id of ids) {
      const fault = newInEntry(work, before, table, id) ?? newInReferrers(work, before, table, id);
      if (fault) return fault;
    }
    const fault = newInTable(work, before, table);
    if (fault) return fault;
  }
  return deeper(work) ?? brokenBetween(work, work.touched);
};

/** What reaches over several tables. */
const brokenBetween = (
  work: AnyWork,
  touched: ReadonlyMap<string, ReadonlySet<string>>,
  had: AnyWork["had"] = (table, id) => work.had(table, id),
): string | undefined => {
  for (const rule of work.description.rules ?? []) {
    const fault = rule({
      touched,
      had,
      entry: (table, id) => work.entry(table, id),
      referrers: (table, id) => work.references.referrers(table, id),
    });
    if (fault) return fault;
  }
  return undefined;
};

/** What lies in something that was moved is as much deeper as that is. */
const deeper = (work: AnyWork): string | undefined => {
  for (const [table, ids] of work.touched) {
    const of = work.description.tables[table];
    if (!of?.nested) continue;
    const queue = [...ids].filter(
      (id) =>
        work.had(table, id) &&
        work.had(table, id)?.[of.nested?.by ?? ""] !== work.entry(table, id)?.[of.nested?.by ?? ""],
    );
    for (let at = 0; at < queue.length; at++) {
      const entry = work.entry(table, queue[at] ?? "");
      if (!entry) continue;
      const [fault] = lies(work, table, of, entry);
      if (fault) return fault;
      for (const key of work.references.referrers(table, String(entry.id))) {
        const [from, id] = splitKey(key);
        if (from === table) queue.push(id);
      }
    }
  }
  return undefined;
};

/**
 * Whether what a whole gesture left may stand: what the touched entries refer to is there and of the right kind,
 * nothing refers to what went, and every rule is kept. That each entry fits its schema is seen to by the verbs, one by
 * one. Steps inside a gesture may pass through states that would not stand. Linear in what was touched, but for counts
 * and names that must be there once only.
 */
export const stands = (work: AnyWork): Refusal | null => {
  const header = headerFault(work);
  if (header) return header;
  const fault = newFaults(work);
  return fault ? refuse("unfit", work.before.id, `That can't be: ${fault}.`) : null;
};

const misplaced = (work: AnyWork, table: string, of: TableDescription): readonly string[] => {
  if (!of.order) return [];
  const seen = new Set<string>();
  return Object.values(work.table(table)).flatMap((entry) => {
    if (typeof entry.order !== "string") return [];
    const key = `${of.order?.within ? String(entry[of.order.within]) : ""} ${entry.order}`;
    const twice = seen.has(key);
    seen.add(key);
    return twice ? [`two ${of.many} stand at one place`] : [];
  });
};

const idsTwice = ({ description, before }: AnyWork): readonly string[] => {
  if (!description.oneIdSpace) return [];
  const ids = Object.entries(description.tables).flatMap(([name, { ids: how }]) =>
    how === "made" ? Object.keys((before as unknown as Record<string, object>)[name] ?? {}) : [],
  );
  return new Set(ids).size === ids.length ? [] : ["an id is used twice"];
};

/**
 * What does not hold of a document and must in every revision ever saved, in words; empty when all holds: unique ids,
 * every reference to something of the right kind, one main bus, nothing that lies in itself, no line without a track,
 * no two at one place. Linear in the document.
 */
export const brokenIn =
  (description: DocumentDescription) =>
  (doc: { readonly id: string }): readonly string[] => {
    const work = new Work(description, doc);
    const all = new Map(
      Object.keys(description.tables).map((table) => [table, new Set(Object.keys(work.table(table)))]),
    );
    return [
      ...idsTwice(work),
      ...[brokenBetween(work, all, () => undefined)].filter((fault) => fault !== undefined),
      ...Object.entries(description.tables).flatMap(([table, of]) => {
        const entries = Object.entries(work.table(table));
        return [
          ...entries.flatMap(([key, entry]) => (entry.id === key ? [] : [`${key} holds ${String(entry.id)}`])),
          ...notSingle(of, work.table(table)),
          ...overfull(of, entries.length),
          ...entries.flatMap(([, entry]) => wrongWith(work, of, entry)),
          ...nesting(of, work.table(table), work),
          ...(of.held
            ? entries.flatMap(([id, entry]) =>
                work.references.referrers(table, id).size ? [] : [(of.held as (entry: Loose) => string)(entry)],
              )
            : []),
          ...doubled(work, of, Object.values(work.table(table))),
          ...misplaced(work, table, of),
        ];
      }),
    ];
  };
