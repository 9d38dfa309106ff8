import { FAMILIES, FAMILY_DEFAULTS, type Family } from "../model/families";
import { guessFamily } from "../model/guess-family";
import type { PerformerKind } from "../model/performers";
import { linesOfTrack } from "../model/read-template";
import { saidName } from "../model/said-name";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Person } from "../model/tables/people";
import type { Target } from "../model/tables/targets";
import type { Template } from "../model/template";

const PERFORMS: { readonly [F in Family]: PerformerKind } = {
  percussion: "percussion",
  "low-strings": "strings",
  "plucked-strings": "strings",
  "bowed-strings": "strings",
  keys: "keys",
  brass: "wind",
  woodwind: "wind",
  voices: "voice",
  speech: "voice",
  rooms: "none",
  references: "none",
};

/**
 * The family that what a track records belongs to: by its name and source, else by its icon; null when nothing tells.
 */
export const familyOfTrack = (doc: Pick<Template, "lines" | "channels">, track: Track): Family | null => {
  const names = [saidName(track), ...linesOfTrack(doc as Template, track).map(({ source }) => source)];
  for (const name of names) {
    const family = name ? guessFamily(name) : null;
    if (family) return family;
  }
  if (track.icon === "line") return null;
  return FAMILIES.find((one) => FAMILY_DEFAULTS[one].icon === track.icon) ?? null;
};

/** What somebody performs on a track: by what it records, else by what the studio knows of who plays it. */
const performsOn = (doc: Pick<Template, "lines" | "channels">, studio: Studio, track: Track): PerformerKind => {
  const family = familyOfTrack(doc, track);
  if (family) return PERFORMS[family];
  const players = new Set(linesOfTrack(doc as Template, track).map(({ player }) => player));
  return entriesOf<Person>(studio.people).find(({ name }) => players.has(name))?.performs ?? "none";
};

/** How late somebody may hear what they play on a track, dry, in ms; null where nothing says what is played there. */
export const targetMsOf = (doc: Pick<Template, "lines" | "channels">, studio: Studio, track: Track): number | null => {
  const performs = performsOn(doc, studio, track);
  return performs === "none" ? null : (studio.targets[performs as Target["id"]]?.ms ?? null);
};
