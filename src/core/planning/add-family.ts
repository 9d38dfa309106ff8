import { FAMILY_DEFAULTS } from "../model/families";
import { guessFamily } from "../model/guess-family";
import type { ChannelId, FolderId, IdSource } from "../model/ids";
import type { FamilyStyles } from "../model/studio";
import { counted } from "../units/counted";
import type { NewTrack } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

/** The most tracks a family begins with. */
const MOST_TRACKS = 64;

interface Family {
  readonly name: string;
  readonly countText: string;
  readonly ids: IdSource;
  /** Dyes and icons as the studio has them. */
  readonly styles?: FamilyStyles;
}

/**
 * Bus, folder and tracks of a family together, routed and dyed: a template can be begun by where things go. The tracks
 * take no line yet.
 */
export const addFamily = ({ name, countText, ids, styles }: Family): Planned => {
  const called = name.trim();
  if (!called) return unplanned("A family needs a name, for example Brass.");
  const count = countText.trim() === "" ? 0 : Number(countText.trim());
  if (!Number.isInteger(count) || count < 0 || count > MOST_TRACKS)
    return unplanned(`“${countText.trim()}” is no number of tracks from 0 to ${MOST_TRACKS}.`);
  const family = guessFamily(called);
  const style = family && (styles?.[family] ?? FAMILY_DEFAULTS[family]);
  const folderId = ids<FolderId>("folder");
  const tracks = Array.from(
    { length: count },
    (_, at): NewTrack => ({
      id: ids<ChannelId>("track"),
      name: `${called} ${at + 1}`,
      note: "",
      colour: null,
      icon: style?.icon ?? null,
      input: { kind: "none" },
      sharing: null,
    }),
  );
  return planned(
    [
      { kind: "entries.add", entries: { folders: [{ id: folderId, name: called, colour: style?.colour ?? null }] } },
      { kind: "folders.sum", sums: [{ folderId, busId: ids<ChannelId>("bus") }] },
      ...(tracks.length ? [{ kind: "tracks.add", tracks, lines: [], folderId, before: null } as const] : []),
    ],
    `Add the family ${called}${count ? ` with ${counted(count, "track")}` : ""}`,
  );
};
