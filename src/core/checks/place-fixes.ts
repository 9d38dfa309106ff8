import { lineName } from "../model/line-name";
import { type RigInput, rigInputInWords } from "../model/read-rig";
import { microphoneFacts, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { lookingAs, onOtherRig } from "../planning/refit";
import { nextFreeInput, nextFreePair } from "../queries/free-inputs";
import type { CheckContext, Fix } from "./finding";

export const nameOf = (doc: Template, line: Line): string => lineName(line, tracksByLine(doc).get(line.id) ?? []);

/** What is played, by its track: the sides of a pair are one instrument, and a copy has a name of its own. */
export const called = (doc: Template, line: Line): string =>
  tracksByLine(doc).get(line.id)?.[0]?.name || nameOf(doc, line);

interface Pair {
  readonly name: string;
  readonly lines: readonly [Line, Line];
}

/** The stereo tracks a line is a side of. */
const pairsOf = (doc: Template, line: Line): readonly Pair[] =>
  (tracksByLine(doc).get(line.id) ?? []).flatMap(({ name, input }) => {
    const [left, right] = input.kind === "pair" ? [doc.lines[input.leftId], doc.lines[input.rightId]] : [];
    return left && right ? [{ name, lines: [left, right] }] : [];
  });

/**
 * Whether two lines can move together and nothing else is torn: every stereo track that takes one of them takes both,
 * the same way round.
 */
const onlyWith = (doc: Template, [left, right]: Pair["lines"]): boolean =>
  [left, right].every((line) =>
    pairsOf(doc, line).every((pair) => pair.lines[0].id === left.id && pair.lines[1].id === right.id),
  );

const put = (line: Line, rigInput: RigInput) => ({ lineId: line.id, portId: rigInput.port.id, requestedInput: null });

interface Move {
  /** The line, or the stereo track whose sides move together. */
  readonly who: string;
  readonly where: string;
  readonly edits: readonly Edit[];
}

/**
 * Patches lines to jacks, and switches phantom on for those that need it: a free input was chosen for suiting them with
 * it on.
 */
const patchTo = (rig: Rig, moves: readonly (readonly [Line, RigInput])[]): readonly Edit[] => {
  const needing = moves.flatMap(([line]) =>
    !line.phantom && microphoneFacts(rig, line.microphone)?.phantom === "needs" ? [line.id] : [],
  );
  const patch: Edit = { kind: "lines.patch", inputs: moves.map(([line, rigInput]) => put(line, rigInput)) };
  return needing.length
    ? [patch, { kind: "entries.set", table: "lines", ids: needing, set: { phantom: true } }]
    : [patch];
};

/** Where a line (or the pair it is half of) could go on a rig; null when nothing free suits. */
export const moveToFree = (doc: Template, rig: Rig, line: Line): Move | null => {
  const pair = pairsOf(doc, line)[0];
  if (pair) {
    const [left, right] = pair.lines;
    const rigInputs = onlyWith(doc, pair.lines) ? nextFreePair(doc, rig, pair.lines) : null;
    return (
      rigInputs && {
        who: pair.name || "a track without a name",
        where: `inputs ${rigInputs[0].label} and ${rigInputs[1].label}`,
        edits: patchTo(rig, [
          [left, rigInputs[0]],
          [right, rigInputs[1]],
        ]),
      }
    );
  }
  const rigInput = nextFreeInput(doc, rig, line);
  return (
    rigInput && { who: nameOf(doc, line), where: rigInputInWords(rigInput), edits: patchTo(rig, [[line, rigInput]]) }
  );
};

const moveToOtherRig = ({ doc, rig, otherRigs }: CheckContext, line: Line): Fix | null => {
  for (const to of otherRigs) {
    const fitted = onOtherRig(doc.lines, to)(rig);
    const there = fitted?.lines[line.id];
    if (!fitted || !there) continue;
    if (there.portId && there.portId !== line.portId)
      return { label: `Fit to ${to.name}, which has that input`, edits: [fitted.fit(doc.cues)] };
    const move = moveToFree(lookingAs(doc, fitted.lines), to, there);
    if (move)
      return {
        label: `Fit to ${to.name}, with ${move.who} on ${move.where}`,
        edits: [fitted.fit(doc.cues), ...move.edits],
      };
  }
  return null;
};

/**
 * What can be done about a line that can't stay where it is: a free input of this rig, else another rig, and always off
 * its input.
 */
export const placeFixes = (context: CheckContext, line: Line): readonly Fix[] => {
  const { doc, rig } = context;
  const who = nameOf(doc, line);
  const move = moveToFree(doc, rig, line);
  const elsewhere: Fix | null = move
    ? { label: `Move ${move.who} to ${move.where}`, edits: move.edits }
    : moveToOtherRig(context, line);
  const off: Fix[] =
    line.portId || line.requestedInput
      ? [
          {
            label: `Take ${who} off its input for now`,
            edits: [{ kind: "lines.patch", inputs: [{ lineId: line.id, portId: null, requestedInput: null }] }],
          },
        ]
      : [];
  return [...(elsewhere ? [elsewhere] : []), ...off];
};
