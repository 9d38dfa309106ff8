import type { ChannelId, LineId } from "../model/ids";
import { rigInputInWords, rigInputOf } from "../model/read-rig";
import { tracksByLine } from "../model/read-template";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { canDo } from "../planning/edits/template-editing";
import { passesOf } from "../queries/cues";
import { linesByPort } from "../queries/free-inputs";
import { recordedTogether } from "../queries/recorded-together";
import { type Check, type Fix, finding } from "./finding";
import { nameOf, placeFixes } from "./place-fixes";
import { ARMED, PLACES, TRACKS } from "./reads";

/** Whether a pass arms several tracks of these lines: then they can't be recorded by turns. */
const armedTogether = (doc: Template, lineIds: readonly LineId[]): boolean => {
  const tracks = new Set<ChannelId>(
    lineIds.flatMap((id) => (tracksByLine(doc).get(id) ?? []).map((track) => track.id)),
  );
  return passesOf(doc).some(({ trackIds }) => trackIds.filter((id) => tracks.has(id)).length > 1);
};

export const sharedPort: Check = {
  id: "shared-port",
  why: "Two sources can't be plugged into one input: one of them would be recorded as the other.",
  reads: [...PLACES, ...ARMED, "cues.order", "cues.portIds", "lines.source"],
  check: (context) =>
    [...linesByPort(context.doc).entries()].flatMap(([portId, lines]) =>
      lines.flatMap((second, at) => {
        const first = lines.slice(0, at).find((one) => recordedTogether(context.doc, one, second));
        const rigInput = rigInputOf(context.rig, portId);
        if (!first || !rigInput) return [];
        const { doc } = context;
        const join = (sharing: "at-once" | "by-turns"): Edit => ({
          kind: "lines.join",
          keepId: first.id,
          dropId: second.id,
          sharing,
        });
        const joins: Fix[] = [
          ...(armedTogether(doc, [first.id, second.id])
            ? []
            : [{ label: `It is one source: record both tracks by turns`, edits: [join("by-turns")] }]),
          { label: `It is one source: record both tracks at once`, edits: [join("at-once")] },
        ];
        const fixes = [...placeFixes(context, second), ...(canDo(doc, join("at-once")) ? [] : joins)];
        return [
          finding("shared-port", {
            severity: "problem",
            message: `${nameOf(doc, first)} and ${nameOf(doc, second)} are both on ${rigInputInWords(rigInput)}. Only one of them can be plugged in.`,
            places: [
              { kind: "line", id: second.id, field: "input" },
              { kind: "line", id: first.id, field: "input" },
            ],
            fixes,
          }),
        ];
      }),
    ),
};

/** The few that several take. */
function* shared<K, T>(takers: ReadonlyMap<K, readonly T[]>): Generator<readonly [K, readonly T[]]> {
  for (const taken of takers) if (taken[1].length > 1) yield taken;
}

export const sharedLine: Check = {
  id: "shared-line",
  why: "Two tracks on one line by accident record the same twice; on purpose, it must be said how.",
  reads: [...TRACKS, "channels.sharing", "lines.source", "passes.order", "passes.trackIds"],
  check: ({ doc }) =>
    [...shared(tracksByLine(doc))].flatMap(([lineId, tracks]) => {
      const unsaid = tracks.some((track) => track.sharing === null);
      const line = doc.lines[lineId];
      if (!unsaid || !line) return [];
      const named = tracks.map((track) => track.name || "a track without a name");
      const trackIds = tracks.map((track) => track.id);
      if (tracks.every((track) => inputLineIds(track.input)[0] !== lineId)) return [];
      return [
        finding("shared-line", {
          about: lineId,
          severity: "problem",
          message: `${named.slice(0, -1).join(", ")} and ${named.at(-1)} take the same line, and nobody has said whether at once or by turns.`,
          places: tracks.map((track) => ({ kind: "track", id: track.id, field: "input" })),
          fixes: [
            ...(armedTogether(doc, [lineId])
              ? []
              : [
                  {
                    label: "Record them by turns",
                    edits: [
                      { kind: "entries.set", table: "channels", ids: trackIds, set: { sharing: "by-turns" } },
                    ] as const,
                  },
                ]),
            {
              label: "Record them at once",
              edits: [{ kind: "entries.set", table: "channels", ids: trackIds, set: { sharing: "at-once" } }],
            },
          ],
        }),
      ];
    }),
};
