import { current } from "immer";
import { entriesOf } from "../model/rig";
import type { Template } from "../model/template";
import type { Patch } from "./engine";
import type { TemplateDraft } from "./handler";

interface Placed {
  readonly id: string;
  readonly order: number;
}

/** What lies in each folder, and outside them: tracks and folders apart, since each are counted by themselves. */
const byHome = (doc: Template): ReadonlyMap<string, Placed[]> => {
  const homes = new Map<string, Placed[]>();
  const put = (home: string, placed: Placed): void => {
    const there = homes.get(home);
    if (there) there.push(placed);
    else homes.set(home, [placed]);
  };
  for (const channel of entriesOf(doc.channels)) if (channel.kind === "track") put(`tracks ${channel.folderId}`, channel);
  for (const folder of entriesOf(doc.folders)) put(`folders ${folder.parentId}`, folder);
  return homes;
};

const isDoubled = (placed: readonly Placed[]): boolean => new Set(placed.map(({ order }) => order)).size < placed.length;

/** Where two tracks or two folders stand at one place, in words; empty when each has its own. Linear in the document. */
export const doubledPlaces = (doc: Template): readonly string[] =>
  [...byHome(doc)].flatMap(([home, placed]) => (isDoubled(placed) ? [`two ${home.split(" ")[0]} stand at one place`] : []));

/**
 * Gives everything a place of its own again where what was taken back came to stand where something else is by now: it goes before that.
 * The same in every window and on the server.
 */
export const settlePlaces = (draft: TemplateDraft, patches: readonly Patch[]): void => {
  if (
    !patches.some(
      ({ path: [table, , field] }) => (table === "channels" || table === "folders") && (field === undefined || ["order", "folderId", "parentId"].includes(String(field))),
    )
  )
    return;
  const restored = new Set(patches.map(({ path }) => String(path[1])));
  for (const [home, placed] of byHome(current(draft) as Template)) {
    if (!isDoubled(placed)) continue;
    const first = ({ id }: Placed) => (restored.has(id) ? 0 : 1);
    const sorted = placed.sort((a, b) => a.order - b.order || first(a) - first(b) || (a.id < b.id ? -1 : 1));
    const table = (home.startsWith("tracks") ? draft.channels : draft.folders) as Record<string, { order: number }>;
    for (const [order, { id, order: was }] of sorted.entries()) if (was !== order && table[id]) table[id].order = order;
  }
};
