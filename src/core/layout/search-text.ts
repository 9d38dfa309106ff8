import { tracksOf } from "../model/read-template";
import { entriesOf } from "../model/rig";
import type { Template } from "../model/template";

/** What a template is found by: its name, note, tracks, folders, sources, players and microphones, in lower case. */
export const searchText = (doc: Template): string =>
  [
    ...new Set(
      [
        doc.name,
        doc.note,
        ...tracksOf(doc).flatMap((track) => [track.name, track.note]),
        ...entriesOf(doc.folders).map((folder) => folder.name),
        ...entriesOf(doc.lines).flatMap((line) => [line.source, line.player, line.microphone?.name ?? ""]),
      ].filter(Boolean),
    ),
  ]
    .join("\n")
    .toLowerCase();
