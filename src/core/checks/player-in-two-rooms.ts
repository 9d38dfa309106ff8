import { plain } from "../model/families";
import { linesOf, microphoneFacts, tracksByLine } from "../model/read-template";
import { putInto } from "../model/table";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { recordedTogether } from "../queries/recorded-together";
import { type Check, type CheckContext, finding } from "./finding";
import { called } from "./place-fixes";
import { TRACKS } from "./reads";

/** Words of what stands in a room of its own, away from who plays it. */
const AWAY = [
  "amp",
  "amplifier",
  "amplified",
  "cabinet",
  "cab",
  "speaker",
  "loudspeaker",
  "rotary",
  "verstarker",
  "ampli",
];

/** Whether a line is heard where its player is: not one that comes by cable, and not an amplifier. */
const isWithPlayer = ({ doc, rig }: CheckContext, line: Line): boolean => {
  const kind = microphoneFacts(rig, line.microphone)?.kind ?? "";
  if (kind.startsWith("di-") || kind === "line-source") return false;
  const words = plain(
    [line.source, line.position, ...(tracksByLine(doc).get(line.id) ?? []).map(({ name }) => name)].join(" "),
  ).split(" ");
  return !words.some((word) => AWAY.includes(word));
};

/** Lines that are recorded in the same pass as others: not those whose tracks are all recorded by turns. */
const atOnce = (doc: Template, line: Line): boolean =>
  !(tracksByLine(doc).get(line.id) ?? []).every((track) => track.sharing === "by-turns");

export const playerInTwoRooms: Check = {
  id: "player-in-two-rooms",
  why: "Nobody plays in two rooms in the same take.",
  reads: [
    ...TRACKS,
    "channels.name",
    "channels.sharing",
    "lines.microphone",
    "lines.player",
    "lines.position",
    "lines.room",
    "lines.source",
    "passes.trackIds",
  ],
  check: (context) => {
    const { doc } = context;
    const byPlayer = new Map<string, Line[]>();
    for (const line of linesOf(doc)) {
      if (!line.player.trim() || !line.room.trim() || !atOnce(doc, line) || !isWithPlayer(context, line)) continue;
      const key = plain(line.player);
      putInto(byPlayer, key, line);
    }
    return [...byPlayer.values()].flatMap((lines) => {
      const first = lines[0];
      const elsewhere = lines.filter(
        (line) => first && plain(line.room) !== plain(first.room) && recordedTogether(doc, first, line),
      );
      const [other] = elsewhere;
      if (!first || !other) return [];
      const moved = elsewhere.map((line) => line.id);
      const stay = lines.filter((line) => !elsewhere.includes(line)).map((line) => line.id);
      return [
        finding("player-in-two-rooms", {
          about: plain(first.player),
          severity: "problem",
          message: `${first.player} is in two rooms at once: ${called(doc, first)} is played in the ${first.room}, ${called(doc, other)} in the ${other.room}.`,
          places: [...elsewhere, first].map((line) => ({ kind: "line", id: line.id, field: "room" })),
          fixes: [
            {
              label: `Put all of it in the ${first.room}`,
              edits: [{ kind: "entries.set", table: "lines", ids: moved, set: { room: first.room } }],
            },
            ...(new Set(elsewhere.map((line) => plain(line.room))).size === 1
              ? [
                  {
                    label: `Put all of it in the ${other.room}`,
                    edits: [{ kind: "entries.set", table: "lines", ids: stay, set: { room: other.room } } as const],
                  },
                ]
              : []),
          ],
        }),
      ];
    });
  },
};
