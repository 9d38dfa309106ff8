import { perDocument, perTwo } from "../model/per-document";
import { type RigInput, rigInputInWords } from "../model/read-rig";
import { lineName, linesOfTrack, microphoneFacts, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { asFittedTo, fitTo } from "../planning/refit";
import { nextFreeInput, nextFreePair } from "../queries/free-inputs";
import type { CheckContext, Fix } from "./finding";

export const nameOf = (doc: Template, line: Line): string => lineName(line, tracksByLine(doc).get(line.id) ?? []);

/** What is played, by its track: the sides of a pair are one instrument, and a copy has a name of its own. */
export const called = (doc: Template, line: Line): string => tracksByLine(doc).get(line.id)?.[0]?.name || nameOf(doc, line);

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

/** Whether two lines can move together and nothing else is torn: every stereo track that takes one of them takes both, the same way round. */
const onlyWith = (doc: Template, [left, right]: Pair["lines"]): boolean =>
  [left, right].every((line) => pairsOf(doc, line).every((pair) => pair.lines[0].id === left.id && pair.lines[1].id === right.id));

const put = (line: Line, rigInput: RigInput) => ({ lineId: line.id, portId: rigInput.port.id, requestedInput: null });

interface Move {
  /** The line, or the stereo track whose sides move together. */
  readonly who: string;
  readonly where: string;
  readonly commands: readonly Edit[];
}

/** Patches lines to jacks, and switches phantom on for those that need it: a free input was chosen for suiting them with it on. */
const patchTo = (rig: Rig, moves: readonly (readonly [Line, RigInput])[]): readonly Edit[] => {
  const needing = moves.flatMap(([line]) => (!line.phantom && microphoneFacts(rig, line.microphone)?.phantom === "needs" ? [line.id] : []));
  const patch: Edit = { kind: "lines.patch", inputs: moves.map(([line, rigInput]) => put(line, rigInput)) };
  return needing.length ? [patch, { kind: "lines.set", lineIds: needing, set: { phantom: true } }] : [patch];
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
        commands: patchTo(rig, [
          [left, rigInputs[0]],
          [right, rigInputs[1]],
        ]),
      }
    );
  }
  const rigInput = nextFreeInput(doc, rig, line);
  return rigInput && { who: nameOf(doc, line), where: rigInputInWords(rigInput), commands: patchTo(rig, [[line, rigInput]]) };
};

/** A template as it would be on another rig; null when lines would lose an input they have. Done once for all findings. */
const onOtherRig = perTwo((doc: Template, to: Rig) =>
  perDocument((from: Rig) => {
    const fitted = asFittedTo(doc, { from, to });
    const loses = entriesOf(fitted.lines).some((line) => line.portId === null && doc.lines[line.id]?.portId);
    return loses ? null : { fit: fitTo(doc, { from, to }), doc: fitted };
  }),
);

const moveToOtherRig = ({ doc, rig, otherRigs }: CheckContext, line: Line): Fix | null => {
  for (const to of otherRigs) {
    const fitted = onOtherRig(doc, to)(rig);
    const there = fitted?.doc.lines[line.id];
    if (!fitted || !there) continue;
    if (there.portId && there.portId !== line.portId) return { label: `Fit to ${to.name}, which has that input`, commands: [fitted.fit] };
    const move = moveToFree(fitted.doc, to, there);
    if (move) return { label: `Fit to ${to.name}, with ${move.who} on ${move.where}`, commands: [fitted.fit, ...move.commands] };
  }
  return null;
};

/** One state of all that decides where lines can go. */
type Placing = Pick<CheckContext, "rig" | "otherRigs"> & Pick<Template, "lines" | "channels"> & { readonly rate: number };

const sameLine = (a: Line, b: Line | undefined): boolean =>
  a === b || (b !== undefined && a.portId === b.portId && a.requestedInput === b.requestedInput && a.phantom === b.phantom && sameMicrophone(a.microphone, b.microphone));

const sameMicrophone = (a: Line["microphone"], b: Line["microphone"]): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

const sameInput = (a: Channel, b: Channel | undefined): boolean =>
  a === b || (b !== undefined && a.kind === b.kind && (a.kind !== "track" || (b.kind === "track" && (a.input === b.input || JSON.stringify(a.input) === JSON.stringify(b.input)))));

const sameTable = <T>(a: Readonly<Record<string, T>>, b: Readonly<Record<string, T>>, same: (one: T, other: T | undefined) => boolean): boolean =>
  a === b || (Object.keys(a).length === Object.keys(b).length && Object.entries(a).every(([id, one]) => same(one, b[id])));

let placing: Placing | null = null;

/** Stands for all that decides where lines can go: the very same for as long as that stays the same, whatever else is edited. Linear where tables differ, and cheap: most entries are the very same. */
const placingOf = perDocument(({ doc, rig, otherRigs }: CheckContext): Placing => {
  const now = { lines: doc.lines, channels: doc.channels, rate: doc.format.sampleRateHz, rig, otherRigs };
  const same =
    placing?.rate === now.rate &&
    placing.rig === rig &&
    placing.otherRigs.length === otherRigs.length &&
    placing.otherRigs.every((one, at) => one === otherRigs[at]) &&
    sameTable(now.lines, placing.lines, sameLine) &&
    sameTable(now.channels, placing.channels, sameInput);
  if (!same || !placing) placing = now;
  return placing;
});

const namedBy = (doc: Template, line: Line): readonly unknown[] => {
  const tracks = tracksByLine(doc).get(line.id) ?? [];
  return tracks.every(({ input }) => input.kind === "line") ? tracks : tracks.flatMap((track) => [track, ...linesOfTrack(doc, track)]);
};

/**
 * Keeps what is said of a line for as long as the line, what it is called by, and all that decides where lines can go stay the same: an edit of one line does
 * not work out what is said of all others again. `say` looks at nothing else.
 */
export const perLine = <T>(say: (context: CheckContext, line: Line) => T): ((context: CheckContext, line: Line) => T) => {
  let last: Placing | null = null;
  const kept = new Map<string, { readonly line: Line; readonly named: readonly unknown[]; readonly value: T }>();
  return (context, line) => {
    const now = placingOf(context);
    if (now !== last) kept.clear();
    last = now;
    const [named, known] = [namedBy(context.doc, line), kept.get(line.id)];
    if (known?.line === line && known.named.length === named.length && known.named.every((one, at) => one === named[at])) return known.value;
    const value = say(context, line);
    kept.set(line.id, { line, named, value });
    return value;
  };
};

/** What can be done about a line that can't stay where it is: a free input of this rig, else another rig, and always off its input. */
export const placeFixes = (context: CheckContext, line: Line): readonly Fix[] => {
  const { doc, rig } = context;
  const who = nameOf(doc, line);
  const move = moveToFree(doc, rig, line);
  const elsewhere: Fix | null = move ? { label: `Move ${move.who} to ${move.where}`, commands: move.commands } : moveToOtherRig(context, line);
  const off: Fix[] =
    line.portId || line.requestedInput
      ? [{ label: `Take ${who} off its input for now`, commands: [{ kind: "lines.patch", inputs: [{ lineId: line.id, portId: null, requestedInput: null }] }] }]
      : [];
  return [...(elsewhere ? [elsewhere] : []), ...off];
};
