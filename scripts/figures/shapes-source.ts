import type { FolderId, PassId } from "@/core/model/ids";
import { newPass } from "@/core/model/tables/passes";
import type { Template } from "@/core/model/template";
import { aChoir } from "@/core/testing/a-choir";
import { aWeave } from "@/core/testing/a-weave";
import { aLargeEvening, busesInARow, longChains, manyCues, wideSends } from "@/core/testing/shapes";

const keyed = <T extends { readonly id: string }>(entries: readonly T[]) =>
  Object.fromEntries(entries.map((entry) => [entry.id, entry]));

/** Folders inside one another as deep as may be, with a track in the innermost. */
const deepFolders = (depth: number): Template => {
  const doc = aWeave(64, 0);
  const folders = Array.from({ length: depth }, (_, at) => ({
    id: `deep-${at}` as FolderId,
    name: `Deep ${at}`,
    parentId: at ? (`deep-${at - 1}` as FolderId) : null,
    colour: null,
    open: true,
    busId: null,
    order: "a01",
  }));
  const channels = Object.fromEntries(
    Object.entries(doc.channels).map(([id, channel]) => [
      id,
      channel.kind === "track" ? { ...channel, folderId: `deep-${depth - 1}` as FolderId } : channel,
    ]),
  );
  return { ...doc, folders: keyed(folders), channels } as Template;
};

const manyPasses = (count: number): Template => {
  const doc = aWeave(256, 256);
  const trackIds = Object.values(doc.channels).flatMap(({ id, kind }) => (kind === "track" ? [id] : []));
  const passes = Array.from({ length: count }, (_, at) => ({
    ...newPass({
      id: `pass-${at}` as PassId,
      name: `Pass ${at}`,
      trackIds: trackIds.slice(at % 64, (at % 64) + 64),
      running: at === 0,
      takes: 1,
    }),
    order: `a${at.toString(36).padStart(3, "0")}1`,
  }));
  return { ...doc, passes: keyed(passes) } as unknown as Template;
};

/** One template for each limit of what a document may hold; `small` for a trial of the measuring itself. */
export const shapes = (small: boolean): Readonly<Record<string, Template>> => {
  const most = (count: number): number => (small ? Math.max(4, Math.round(count / 64)) : count);
  return {
    "buses in a row": busesInARow({ buses: most(1023), sends: most(32_176), cues: most(64), each: most(64) }),
    "wide sends": wideSends(most(512), most(64)),
    "many cues": manyCues(most(256), most(128)),
    "long chains": longChains(most(512), 32),
    "8,192 lines": aChoir(most(8192)),
    "folders 64 deep": deepFolders(small ? 8 : 64),
    "512 passes": manyPasses(most(512)),
    "a large evening": aLargeEvening(),
  };
};
