import { type Loose, referencesOf, type Tables } from "../commands/references";
import type { TableDescription } from "../model/describe/table";
import { plain } from "../model/families";
import { tracksOf } from "../model/read-template";
import { byOrder } from "../model/table";
import { inputLineIds } from "../model/tables/channel-fields";
import { TEMPLATE, type Template } from "../model/template";
import { renamedIn } from "../planning/copies";

type Renames = ReadonlyMap<string, ReadonlyMap<string, string>>;

/** Tables in an order in which what an entry is told by is matched before it. */
const ORDER = [
  "folders",
  "channels",
  "lines",
  "gangs",
  "controls",
  "cues",
  "passes",
  "sends",
  "processors",
  "bands",
  "sideChains",
  "cueLevels",
  "accepted",
] as const;

interface Side {
  readonly doc: Template;
  /** What an id of an earlier table is called on the other side. */
  readonly called: (table: string, id: unknown) => string;
}

const entriesIn = (doc: Template, table: string): readonly Loose[] =>
  Object.values((doc as unknown as Tables)[table] ?? {}).sort(byOrder as never);

/** Where each line is taken, and as which side: by the first track that takes it. */
const takenBy = (doc: Template): ReadonlyMap<string, string> => {
  const found = new Map<string, string>();
  for (const track of tracksOf(doc))
    for (const [side, line] of inputLineIds(track.input).entries())
      if (!found.has(line)) found.set(line, `${track.id} ${side}`);
  return found;
};

/** What an entry is known by on both sides: its name, what it belongs to, and which of several alike it is. */
const meaningOf = (table: string, side: Side) => {
  const taken = table === "lines" ? takenBy(side.doc) : null;
  return (entry: Loose): string => {
    const { called } = side;
    switch (table) {
      case "lines": {
        const [track = "", at = ""] = taken?.get(String(entry.id))?.split(" ") ?? [];
        return track ? `${called("channels", track)} ${at}` : plain(String(entry.source));
      }
      case "sends":
        return `${called("channels", entry.fromId)} ${called("channels", entry.toId)}`;
      case "processors":
        return `${called("channels", entry.channelId)} ${entry.kind}`;
      case "bands":
        return called("processors", entry.processorId);
      case "sideChains":
        return `${called("channels", entry.fromId)} ${called("processors", entry.processorId)}`;
      case "cueLevels":
        return `${called("cues", entry.cueId)} ${called("channels", entry.sourceId)}`;
      case "accepted":
        return String(entry.id);
      default:
        return `${entry.kind ?? ""} ${plain(String(entry.name ?? ""))}`;
    }
  };
};

/** Keys with the number of each among those alike, in their order. */
const keyed = (entries: readonly Loose[], meaning: (entry: Loose) => string): ReadonlyMap<string, Loose> => {
  const counts = new Map<string, number>();
  const found = new Map<string, Loose>();
  for (const entry of entries) {
    const key = meaning(entry);
    const count = (counts.get(key) ?? 0) + 1;
    counts.set(key, count);
    found.set(`${key} #${count}`, entry);
  }
  return found;
};

export interface Matched {
  /** The other document, with the ids of what is alike here; what is new in it keeps its own, or has a free one. */
  readonly there: Template;
  /** How many entries were found alike. */
  readonly alike: number;
}

/**
 * Two documents that do not come from one another: what is alike by name, source and place is given the same id, table
 * by table, those of one name in their order. n·log n in the entries.
 * @example matchedByMeaning(here, there).alike // 42
 */
export const matchedByMeaning = (here: Template, there: Template): Matched => {
  const renames = new Map<string, Map<string, string>>();
  const ids = new Set(ORDER.flatMap((table) => Object.keys((here as unknown as Tables)[table] ?? {})));
  let alike = 0;
  let serial = 0;
  for (const table of ORDER) {
    const made = new Map<string, string>();
    renames.set(table, made);
    const known = keyed(entriesIn(here, table), meaningOf(table, { doc: here, called: (_table, id) => String(id) }));
    const theirs = keyed(
      entriesIn(there, table),
      meaningOf(table, { doc: there, called: (of, id) => renames.get(of)?.get(String(id)) ?? `their ${id}` }),
    );
    for (const [key, entry] of theirs) {
      const same = known.get(key);
      if (same && same.kind === entry.kind) {
        made.set(String(entry.id), String(same.id));
        alike += 1;
      }
    }
    for (const { id } of theirs.values()) {
      const own = String(id);
      if (made.has(own)) continue;
      let free = own;
      while (ids.has(free)) free = `${own.slice(0, 50)}-${++serial}`;
      ids.add(free);
      made.set(own, free);
    }
  }
  return { there: renamedThrough(there, renames), alike };
};

const renamedThrough = (doc: Template, renames: Renames): Template => {
  // All ids of a template are of one space.
  const all = new Map([...renames.values()].flatMap((made) => [...made]));
  const tables = Object.entries(TEMPLATE.tables as Readonly<Record<string, TableDescription>>).map(([table, of]) => {
    const entries = Object.values((doc as unknown as Tables)[table] ?? {}).map((entry) => {
      const id = renames.get(table)?.get(String(entry.id)) ?? String(entry.id);
      const fields = referencesOf(of, entry).map(({ field }) => [field, renamedIn(entry[field], all)] as const);
      return [id, { ...entry, ...Object.fromEntries(fields), id }] as const;
    });
    return [table, Object.fromEntries(entries)] as const;
  });
  return { ...doc, ...Object.fromEntries(tables) } as Template;
};
