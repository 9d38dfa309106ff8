import { type Colour, isColour } from "../model/colours";
import { tracksOf } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Template } from "../model/template";
import { counted } from "../units/counted";
import { type Check, type CheckContext, type Finding, finding, type Place } from "./finding";
import { TRACKS } from "./reads";

const RULE = "colour-not-here";

/** Who has each own dye that the studio does not know. */
const dangling = ({ doc, ownColours = [] }: CheckContext): ReadonlyMap<Colour, readonly Place[]> => {
  const known = new Set<Colour>(ownColours.map((own) => own.id));
  const found = new Map<Colour, Place[]>();
  const look = (colour: Colour | null, place: Place) => {
    if (colour === null || isColour(colour) || known.has(colour)) return;
    const places = found.get(colour) ?? [];
    places.push(place);
    found.set(colour, places);
  };
  for (const folder of entriesOf(doc.folders)) look(folder.colour, { kind: "folder", id: folder.id, field: "colour" });
  for (const track of tracksOf(doc)) look(track.colour, { kind: "track", id: track.id, field: "colour" });
  return found;
};

const told = (doc: Template, colour: Colour, places: readonly Place[]): Finding => {
  const folderIds = places.flatMap((place) => (place.kind === "folder" ? [place.id] : []));
  const trackIds = places.flatMap((place) => (place.kind === "track" ? [place.id] : []));
  const [folder] = folderIds;
  const [track] = trackIds;
  const who = [
    ...(folder
      ? [folderIds.length === 1 ? (doc.folders[folder]?.name ?? "") : counted(folderIds.length, "folder")]
      : []),
    ...(track
      ? [
          trackIds.length === 1
            ? (tracksOf(doc).find(({ id }) => id === track)?.name ?? "")
            : counted(trackIds.length, "track"),
        ]
      : []),
  ].join(" and ");
  const one = places.length === 1;
  return finding(RULE, {
    about: colour,
    severity: "hint",
    message: `${who} ${one ? "has" : "have"} a dye that this studio does not have: removed from it, or of another. ${one ? "It is" : "They are"} shown undyed.`,
    places,
    fixes: [
      {
        label: "Take the dye off",
        edits: [
          ...(folder
            ? [{ kind: "entries.set" as const, table: "folders" as const, ids: folderIds, set: { colour: null } }]
            : []),
          ...(track
            ? [{ kind: "entries.set" as const, table: "channels" as const, ids: trackIds, set: { colour: null } }]
            : []),
        ],
      },
    ],
  });
};

export const colourNotHere: Check = {
  id: RULE,
  why: "Own dyes are kept in the studio. A template that comes from another one, or outlives its dye, names one that nobody here can see.",
  withoutRig: true,
  reads: [...TRACKS, "channels.colour", "folders.colour"],
  check: (context) => [...dangling(context)].map(([colour, places]) => told(context.doc, colour, places)),
};
