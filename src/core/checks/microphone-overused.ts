import type { MicrophoneId } from "../model/ids";
import { linesOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { byOrder, entriesOf } from "../model/table";
import type { Line } from "../model/tables/lines";
import type { Microphone } from "../model/tables/microphones";
import type { Template } from "../model/template";
import { clashing } from "../queries/recorded-together";
import { type Check, type Fix, finding } from "./finding";
import { called } from "./place-fixes";
import { ARMED, PLACES } from "./reads";

const usesByMicrophone = (doc: Template): ReadonlyMap<MicrophoneId, readonly Line[]> => {
  const uses = new Map<MicrophoneId, Line[]>();
  for (const line of linesOf(doc)) {
    if (line.microphone?.kind !== "shelf") continue;
    const there = uses.get(line.microphone.microphoneId);
    if (there) there.push(line);
    else uses.set(line.microphone.microphoneId, [line]);
  }
  return uses;
};

/** The nearest thing on the shelf that is still there: of the same kind, and not in use as often as there are. */
const substitutes = (
  rig: Rig,
  uses: ReadonlyMap<MicrophoneId, readonly Line[]>,
): ((of: Microphone) => Microphone | null) => {
  const free = entriesOf(rig.microphones)
    .filter((item) => (uses.get(item.id)?.length ?? 0) < item.count)
    .sort(byOrder);
  return (of) => free.find((item) => item.kind === of.kind) ?? null;
};

export const microphoneOverused: Check = {
  id: "microphone-overused",
  why: "A microphone stands in one place: the second line that asks for it finds an empty stand.",
  reads: [...PLACES, ...ARMED, "lines.source"],
  check: ({ doc, rig }) => {
    const uses = usesByMicrophone(doc);
    const substituteFor = substitutes(rig, uses);
    return [...uses].flatMap(([id, users]) => {
      const item = rig.microphones[id];
      // A microphone may stand elsewhere in another pass: the fullest pass counts.
      const lines = clashing(doc, users).reduce<readonly Line[]>(
        (most, group) => (group.length > most.length ? group : most),
        [],
      );
      const beyond = item ? lines.slice(item.count) : [];
      const [first] = beyond;
      if (!item || !first) return [];
      const names = lines.map((line) => called(doc, line));
      const other = substituteFor(item);
      const give = (line: Line): Fix[] =>
        other
          ? [
              {
                label: `Give ${called(doc, line)} ${other.name}`,
                edits: [
                  {
                    kind: "entries.set",
                    table: "lines",
                    ids: [line.id],
                    set: { microphone: { kind: "shelf", microphoneId: other.id, name: other.name } },
                  },
                ],
              },
            ]
          : [];
      const who = beyond.length === 1 ? called(doc, first) : `the last ${beyond.length}`;
      const off: Fix = {
        label: `Take the microphone off ${who}`,
        edits: [
          {
            kind: "entries.set",
            table: "lines",
            ids: beyond.map((line) => line.id),
            set: { microphone: null, phantom: false },
          },
        ],
      };
      return [
        finding("microphone-overused", {
          about: id,
          severity: "problem",
          message: `${item.name} is asked for ${lines.length === 2 ? "twice" : `${lines.length} times`}, by ${names.slice(0, -1).join(", ")} and ${names.at(-1)}, and the shelf has ${item.count === 1 ? "one" : item.count}.`,
          places: beyond.map((line) => ({ kind: "line", id: line.id, field: "microphone" })),
          fixes: beyond.length === 1 ? [...give(first), off] : [off],
        }),
      ];
    });
  },
};
