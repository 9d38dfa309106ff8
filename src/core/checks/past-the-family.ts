import type { Family } from "../model/families";
import { guessFamily } from "../model/guess-family";
import type { ChannelId, FolderId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { saidName } from "../model/said-name";
import { putInto } from "../model/table";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { sumOf } from "../planning/edits/sums";
import { familyOfTrack } from "../queries/performing";
import { standsFor } from "../queries/stands-for";
import { counted } from "../units/counted";
import { type Check, type Finding, finding } from "./finding";
import { TRACKS } from "./reads";
import { inUse, nameOf } from "./remarkable";

const goesTo = ({ output }: Track): ChannelId | null => (output.kind === "channel" ? output.channelId : null);

/** What stands in front of the others of its family and goes its own way on purpose. */
const standsInFront = (doc: Template, track: Track, busId: ChannelId): boolean => {
  const [own, bus] = [standsFor(saidName(track)), doc.channels[busId]];
  return own.inFront || (bus !== undefined && standsFor(saidName(bus)).others && !own.others);
};

interface Past {
  readonly busId: ChannelId;
  readonly ids: readonly ChannelId[];
  readonly why: "folder" | "siblings";
}

/** Members of a folder that sums which go straight to the main bus. */
const pastFolderBus = (doc: Template): readonly Past[] => {
  const past = new Map<ChannelId, ChannelId[]>();
  for (const track of tracksOf(doc)) {
    const sum = sumOf(doc, track.folderId);
    if (sum !== MAIN_ID && !track.parked && goesTo(track) === MAIN_ID) putInto(past, sum, track.id);
  }
  return [...past].map(([busId, ids]) => ({ busId, ids, why: "folder" }));
};

/** So many at least use a bus before one that does not is told, and no more than a third may go past it. */
const FEWEST = 3;

/** Of one group (a family, a folder) those that go straight to the main bus while nearly all others go to one bus. */
const straight = (doc: Template, group: readonly Track[]): Past | null => {
  const byBus = new Map<ChannelId, Track[]>();
  for (const track of group) {
    const to = goesTo(track);
    if (to) putInto(byBus, to, track);
  }
  const past = byBus.get(MAIN_ID) ?? [];
  byBus.delete(MAIN_ID);
  const [[busId, siblings] = [MAIN_ID, []] as const, ...others] = [...byBus].sort((a, b) => b[1].length - a[1].length);
  // Where a family is parted among several buses nobody can tell which of them one should go to.
  if (
    siblings.length < FEWEST ||
    others.length ||
    past.length * 3 > siblings.length ||
    doc.channels[busId]?.kind !== "bus"
  )
    return null;
  const ids = past.filter((track) => !standsInFront(doc, track, busId)).map(({ id }) => id);
  return ids.length ? { busId, ids, why: "siblings" } : null;
};

const bySiblings = (doc: Template): readonly Past[] => {
  const [families, folders] = [new Map<Family, Track[]>(), new Map<FolderId, Track[]>()];
  for (const track of tracksOf(doc)) {
    if (track.parked || track.input.kind === "none") continue;
    const family = familyOfTrack(doc, track);
    if (family && family !== "rooms") putInto(families, family, track);
    if (track.folderId) putInto(folders, track.folderId, track);
  }
  const told = [...families].flatMap(([family, tracks]) => {
    const past = straight(doc, tracks);
    if (!past) return [];
    // A bus that is called by another family is not that of this one.
    const bus = doc.channels[past.busId];
    const named = bus ? guessFamily(saidName(bus)) : null;
    return named === null || named === family ? [past] : [];
  });
  return [...told, ...[...folders.values()].flatMap((tracks) => straight(doc, tracks) ?? [])];
};

/** One of a family that goes past the bus which its siblings use, in whatever folder it lies. */
export const passesBus: Check = {
  id: "passes-bus",
  why: "One that goes past the bus of its family stays as loud as it is when the family is turned down.",
  withoutRig: true,
  reads: [
    ...TRACKS,
    "channels.folderId",
    "channels.icon",
    "channels.output",
    "channels.parked",
    "channels.said",
    "folders.busId",
    "folders.parentId",
    "lines.source",
  ],
  check: ({ doc }) => {
    const seen = new Set<ChannelId>();
    return [...pastFolderBus(doc), ...bySiblings(doc)].flatMap(({ busId, ids: all, why }): readonly Finding[] => {
      const ids = all.filter((id) => !seen.has(id));
      for (const id of ids) seen.add(id);
      const bus = doc.channels[busId];
      if (!ids.length || !inUse(bus)) return [];
      const who = ids.length === 1 ? nameOf(doc.channels[ids[0] as ChannelId]) : counted(ids.length, "track");
      return [
        finding("passes-bus", {
          severity: "hint",
          about: `${busId}${why === "folder" ? "" : ":siblings"}`,
          message: `${who} ${ids.length === 1 ? "goes" : "go"} to ${nameOf(doc.channels[MAIN_ID])} past the bus ${nameOf(bus)}, which the others of the ${why === "folder" ? "folder" : "family"} use.`,
          places: ids.slice(0, 12).map((id) => ({ kind: "channel", id, field: "output" })),
          fixes: [
            {
              label: `Route ${who} to ${nameOf(bus)}`,
              edits: [
                { kind: "entries.set", table: "channels", ids, set: { output: { kind: "channel", channelId: busId } } },
              ],
            },
          ],
        }),
      ];
    });
  },
};
