import { UNCOLOURED } from "../model/colours";
import { FAMILY_DEFAULTS, type Family } from "../model/families";
import { guessFamily } from "../model/guess-family";
import type { ChannelId, FolderId } from "../model/ids";
import { colourOf, trackOf } from "../model/read-template";
import type { FamilyStyles, Studio } from "../model/studio";
import type { Template } from "../model/template";
import { familyAround } from "../queries/family-around";
import { counted } from "../units/counted";
import type { Edit } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

/**
 * Gives each track the dye and icon of the family its name tells; tracks whose family is not known stay as they are.
 */
export const colourByFamily = (doc: Template, trackIds: readonly ChannelId[], studio?: Studio): Planned => {
  const styles = studio?.families ?? FAMILY_DEFAULTS;
  const around = familyAround(doc, studio);
  const edits = trackIds.flatMap((id): Edit[] => {
    const family = guessFamily(trackOf(doc, id)?.name ?? "", around);
    return family
      ? [
          {
            kind: "entries.set",
            table: "channels",
            ids: [id],
            set: { colour: styles[family].colour, icon: styles[family].icon },
          },
        ]
      : [];
  });
  if (!edits.length) return unplanned("No name tells which family it belongs to. Choose a colour instead.");
  return planned(edits, `Dye ${counted(edits.length, "track")} by family`);
};

/**
 * Gives tracks that are called anew the dye and icon of the family that the name tells. What was chosen by hand stays,
 * and so does the dye of a folder; what the name before gave goes with it.
 */
export const dyedByName = (
  doc: Template,
  {
    trackIds,
    name,
    studio,
  }: { readonly trackIds: readonly ChannelId[]; readonly name: string; readonly studio: Studio },
): readonly Edit[] => {
  const around = familyAround(doc, studio);
  const family = guessFamily(name, around);
  if (!family) return [];
  const styles = studio.families;
  const style = styles[family];
  return trackIds.flatMap((id): Edit[] => {
    const track = trackOf(doc, id);
    if (!track) return [];
    const before = guessFamily(track.name, around);
    const given = before ? styles[before] : null;
    const inFolder = track.folderId !== null && colourOf(doc, { ...track, colour: null }) !== UNCOLOURED;
    const set = {
      ...(track.icon === null || track.icon === "line" || track.icon === given?.icon ? { icon: style.icon } : {}),
      ...((track.colour === null && !inFolder) || (track.colour !== null && track.colour === given?.colour)
        ? { colour: style.colour }
        : {}),
    };
    return Object.keys(set).length ? [{ kind: "entries.set", table: "channels", ids: [id], set }] : [];
  });
};

/** Names that say nothing yet: those that new tracks are given. */
const UNSAID = /^(input [\w–-]+|new track|track)(, \d+)?$/i;

/** Puts tracks into a family: its dye and icon, and its name, numbered, where a track has none that says anything. */
export const setFamily = (
  doc: Template,
  trackIds: readonly ChannelId[],
  family: Family,
  styles: FamilyStyles = FAMILY_DEFAULTS,
): Planned => {
  const { colour, icon } = styles[family];
  const { name } = FAMILY_DEFAULTS[family];
  if (!trackIds.length) return unplanned("Select a track first.");
  const unnamed = trackIds.filter((id) => UNSAID.test(trackOf(doc, id)?.name.trim() || "track"));
  const names: Edit[] = unnamed.map((id, at) => ({
    kind: "entries.set",
    table: "channels",
    ids: [id],
    set: { name: unnamed.length > 1 ? `${name} ${at + 1}` : name },
  }));
  return planned(
    [{ kind: "entries.set", table: "channels", ids: trackIds, set: { colour, icon } }, ...names],
    `Make ${counted(trackIds.length, "track")} ${name.toLowerCase()}`,
  );
};

/** Makes a folder the home of a family: name and dye of it. */
export const setFolderFamily = (
  folderId: FolderId,
  family: Family,
  styles: FamilyStyles = FAMILY_DEFAULTS,
): Planned => {
  const { colour } = styles[family];
  const { name } = FAMILY_DEFAULTS[family];
  return planned(
    [{ kind: "entries.set", table: "folders", ids: [folderId], set: { name, colour } }],
    `Make the folder ${name}`,
  );
};
