import { type Refusal, refuse } from "../../commands/command";
import type { ChannelId, FolderId, LineId } from "../../model/ids";
import { MOST } from "../../model/limits";
import { isTrack, tracksOf } from "../../model/read-template";
import type { Template } from "../../model/template";

/** The first refusal of several checks; later ones are not evaluated once one refuses. */
export const firstOf = (...checks: readonly (() => Refusal | null)[]): Refusal | null => {
  for (const check of checks) {
    const refusal = check();
    if (refusal) return refusal;
  }
  return null;
};

export const goneFrom = (
  table: Readonly<Record<string, unknown>>,
  ids: readonly string[],
  what: string,
): Refusal | null => {
  const gone = ids.find((id) => !Object.hasOwn(table, id));
  return gone === undefined
    ? null
    : refuse("missing", gone, `The ${what} this was meant for is no longer there: it was removed in the meantime.`);
};

export const missingLines = (doc: Template, ids: readonly LineId[]) => goneFrom(doc.lines, ids, "line");
export const missingFolders = (doc: Template, ids: readonly (FolderId | null)[]) =>
  goneFrom(
    doc.folders,
    ids.filter((id) => id !== null),
    "folder",
  );

/** What is no track of those that should be. */
const firstOther = (doc: Template, ids: readonly ChannelId[]): string => {
  const other = doc.channels[ids.find((id) => !isTrack(doc.channels[id])) ?? ("" as ChannelId)];
  return other?.kind === "main" ? "The main bus" : `The ${other?.kind} ${other?.name}`;
};

export const missingTracks = (doc: Template, ids: readonly ChannelId[]): Refusal | null => {
  if (ids.length === 0) return refuse("empty", "", "No track was named. Select one or more tracks.");
  return (
    goneFrom(doc.channels, ids, "track") ??
    (ids.every((id) => isTrack(doc.channels[id]))
      ? null
      : refuse(
          "unfit",
          ids.find((id) => !isTrack(doc.channels[id])) ?? "",
          `${firstOther(doc, ids)} can't be edited as a track.`,
        ))
  );
};

const COUNTED = [
  "sends",
  "processors",
  "bands",
  "sideChains",
  "gangs",
  "controls",
  "cues",
  "cueLevels",
  "passes",
] as const;
type Counted = (typeof COUNTED)[number];
const COUNTED_WORDS: Partial<Record<string, string>> = {
  sideChains: "side-chains",
  controls: "control faders",
  cueLevels: "levels in cues",
};

/** Whether a template would hold more than it may. */
export const tooMany = (
  doc: Template,
  added: { readonly [What in "tracks" | "lines" | "folders" | "buses" | Counted]?: readonly unknown[] },
): Refusal | null => {
  const buses = () => Object.keys(doc.channels).length - tracksOf(doc).length - 1;
  for (const [table, there] of [
    ["tracks", () => tracksOf(doc).length],
    ["lines", () => Object.keys(doc.lines).length],
    ["folders", () => Object.keys(doc.folders).length],
    ["buses", buses],
    ...COUNTED.map((table) => [table, () => Object.keys(doc[table]).length] as const),
  ] as const) {
    const more = added[table]?.length ?? 0;
    if (more && there() + more > MOST[table])
      return refuse(
        "unfit",
        doc.id,
        `A template holds up to ${MOST[table]} ${COUNTED_WORDS[table] ?? table}; with these it would have more. Make a second template for the rest.`,
      );
  }
  return null;
};

/** "Fiddle" for one, "4 tracks" for several. */
export const countTracks = (doc: Template, ids: readonly ChannelId[]): string =>
  ids.length === 1 && ids[0] ? doc.channels[ids[0]]?.name || "a track without a name" : `${ids.length} tracks`;
