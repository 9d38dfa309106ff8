import type { LineId } from "../model/ids";
import { perDocument } from "../model/per-document";
import { linesOf, linesOfTrack, tracksOf } from "../model/read-template";
import { differingIds } from "../model/table";
import { type Channel, inputLineIds } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import type { CheckContext, Finding } from "./finding";

/** All that decides where lines can go. */
type Seen = Pick<CheckContext, "rig" | "otherRigs"> & Pick<Template, "lines" | "channels"> & { readonly rate: number };

/** What changed for the lines from what was looked at before to what is looked at now. */
interface Step {
  readonly number: number;
  /** Lines that changed, or what they are called by; null when it has to do with all of them. */
  readonly lines: ReadonlySet<LineId> | null;
}

const sameMicrophone = (a: Line["microphone"], b: Line["microphone"]): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Whether a line takes up and needs the same as before. */
const staysPut = (a: Line | undefined, b: Line | undefined): boolean =>
  a !== undefined && b !== undefined && a.portId === b.portId && a.requestedInput === b.requestedInput && a.phantom === b.phantom && sameMicrophone(a.microphone, b.microphone);

const takesTheSame = (a: Channel | undefined, b: Channel | undefined): boolean =>
  a !== undefined &&
  b !== undefined &&
  a.kind === b.kind &&
  (a.kind !== "track" || b.kind !== "track" || a.input === b.input || JSON.stringify(a.input) === JSON.stringify(b.input));

/** The lines, and those that make up a pair with one of them: a side is called by its pair. */
const withPartners = (doc: Template, lines: Set<LineId>): ReadonlySet<LineId> => {
  const changed = new Set(lines);
  for (const track of tracksOf(doc)) {
    const { input } = track;
    if (input.kind === "pair" && (changed.has(input.leftId) || changed.has(input.rightId))) for (const { id } of linesOfTrack(doc, track)) lines.add(id);
  }
  return lines;
};

const changedLines = (doc: Template, before: Seen, now: Seen): ReadonlySet<LineId> | null => {
  const sameAround = before.rate === now.rate && before.rig === now.rig && before.otherRigs.length === now.otherRigs.length;
  if (!sameAround || now.otherRigs.some((one, at) => one !== before.otherRigs[at])) return null;
  const lines = differingIds(before.lines, now.lines) as readonly LineId[];
  if (!lines.every((id) => staysPut(before.lines[id], now.lines[id]))) return null;
  const channels = differingIds(before.channels, now.channels).map((id) => [before.channels[id as never], now.channels[id as never]] as const);
  if (!channels.every(([was, is]) => takesTheSame(was, is))) return null;
  return withPartners(doc, new Set([...lines, ...channels.flatMap(([, is]: readonly (Channel | undefined)[]) => (is?.kind === "track" ? inputLineIds(is.input) : []))]));
};

let last: { readonly seen: Seen; readonly step: Step } | null = null;

/** The step to a context from the one that was looked at before, whichever that was. */
const stepTo = perDocument(({ doc, rig, otherRigs }: CheckContext): Step => {
  const seen = { lines: doc.lines, channels: doc.channels, rate: doc.format.sampleRateHz, rig, otherRigs };
  const step = { number: (last?.step.number ?? 0) + 1, lines: last && changedLines(doc, last.seen, seen) };
  last = { seen, step };
  return step;
});

/**
 * Keeps what is said of a line for as long as the line, what it is called by, and all that decides where lines can go stay the same: an edit of one line does
 * not work out what is said of all others again. `say` looks at nothing else.
 */
export const perLine = <T>(say: (context: CheckContext, line: Line) => T): ((context: CheckContext, line: Line) => T) => {
  let at = 0;
  const kept = new Map<LineId, T>();
  return (context, line) => {
    const { number, lines } = stepTo(context);
    if (number !== at) {
      // What changed in a step that was not looked at here is not known.
      if (number !== at + 1 || !lines) kept.clear();
      else for (const id of lines) kept.delete(id);
      at = number;
    }
    const known = kept.get(line.id);
    if (known !== undefined) return known;
    const value = say(context, line);
    kept.set(line.id, value);
    return value;
  };
};

/** All that is said of the lines of a template, one after the other; of most of them nothing is. */
export const overLines = (context: CheckContext, said: (context: CheckContext, line: Line) => readonly Finding[]): readonly Finding[] => {
  const all: Finding[] = [];
  for (const line of linesOf(context.doc)) for (const finding of said(context, line)) all.push(finding);
  return all;
};
