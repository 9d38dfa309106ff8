import { lineName } from "../model/line-name";
import { perText } from "../model/per-document";
import { linesOfTrack, tracksOf } from "../model/read-template";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { fileName, nameFault } from "../reading/file-name";
import { type Check, type Fix, finding } from "./finding";
import { TRACKS } from "./reads";

/** File systems that fold case, and accents written in two ways, hold such names for one. */
const folded = (name: string): string => name.trim().normalize("NFC").toLowerCase();

/** The name with the lowest number behind it that nobody has. */
const numbered = (name: string, taken: ReadonlySet<string>): string => {
  let number = 2;
  while (taken.has(folded(`${name} ${number}`))) number++;
  return `${name} ${number}`;
};

const rename = (track: Track, name: string): Fix => ({
  label: `Name it ${name}`,
  edits: [{ kind: "entries.set", table: "channels", ids: [track.id], set: { name } }],
});

const suggestion = (doc: Template, track: Track): string => {
  const source = linesOfTrack(doc, track)[0];
  const fromSource = source?.source ? fileName(lineName(source, [])) : "";
  return fromSource || "Track";
};

/** A name short enough to be quoted. */
export const shown = (name: string): string => (name.trim().length > 40 ? `${name.trim().slice(0, 38)}…` : name.trim());

/** What a name is by itself. */
const facts = perText((name: string) => ({ key: folded(name), why: nameFault(name) }));

const free = (name: string, taken: ReadonlySet<string>): string =>
  taken.has(folded(name)) ? numbered(name, taken) : name;

export const trackNames: Check = {
  id: "track-names",
  why: "Track names become the names of files: an empty, doubled or unusable one loses a take.",
  withoutRig: true,
  reads: [...TRACKS, "channels.name", "lines.source"],
  check: ({ doc }) => {
    const tracks = tracksOf(doc);
    // Only what is wrong asks which names there are.
    let names: ReadonlySet<string> | null = null;
    const takenNow = () => (names ??= new Set(tracks.map((track) => facts(track.name).key)));
    const first = new Map<string, Track>();
    return tracks.flatMap((track) => {
      const about = { severity: "problem", places: [{ kind: "track", id: track.id, field: "name" }] } as const;
      const { key, why } = facts(track.name);
      if (!key)
        return [
          finding("track-name", {
            ...about,
            message: "A track has no name. Its files would have none either.",
            fixes: [rename(track, free(suggestion(doc, track), takenNow()))],
          }),
        ];
      if (why)
        return [
          finding("track-name", {
            ...about,
            message: `“${shown(track.name)}” ${why}.`,
            fixes: [rename(track, free(fileName(track.name) || "Track", takenNow()))],
          }),
        ];
      const twin = first.get(key);
      if (!twin) first.set(key, track);
      return twin
        ? [
            finding("track-name", {
              ...about,
              message: `Two tracks are called ${track.name}. Their files would overwrite each other.`,
              fixes: [rename(track, numbered(track.name, takenNow()))],
            }),
          ]
        : [];
    });
  },
};
