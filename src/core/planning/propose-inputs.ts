import type { BankId, PortId } from "../model/ids";
import { existsAtRate, type RigInput, rigInputOf, rigInputsOf } from "../model/read-rig";
import { linesOf, microphoneFacts } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { linesByPort, takesLevel } from "../queries/free-inputs";

/** What looks for inputs: one line, or the two of a pair. */
export type Seeking = readonly [Line] | readonly [Line, Line];

interface Bank {
  powering: number;
  endangered: number;
}

/** What is taken already, while inputs are given out one after another. */
interface Taken {
  readonly doc: Template;
  readonly rig: Rig;
  readonly ports: Set<PortId>;
  readonly banks: Map<BankId, Bank>;
}

const wantsPhantom = (rig: Rig, line: Line): boolean =>
  line.phantom || microphoneFacts(rig, line.microphone)?.phantom === "needs";
const isEndangered = (rig: Rig, line: Line): boolean => microphoneFacts(rig, line.microphone)?.phantom === "endangered";

const bankOf = ({ banks }: Taken, id: BankId): Bank => {
  const there = banks.get(id) ?? { powering: 0, endangered: 0 };
  banks.set(id, there);
  return there;
};

/** A line stands on an input from now on. */
const take = (taken: Taken, rigInput: RigInput, line: Line): void => {
  taken.ports.add(rigInput.port.id);
  if (rigInput.phantom.kind !== "bank") return;
  const bank = bankOf(taken, rigInput.phantom.bankId);
  if (wantsPhantom(taken.rig, line)) bank.powering++;
  if (isEndangered(taken.rig, line)) bank.endangered++;
};

const phantomSuits = (taken: Taken, rigInput: RigInput, line: Line): boolean => {
  const on = wantsPhantom(taken.rig, line);
  const endangered = isEndangered(taken.rig, line);
  if (rigInput.phantom.kind === "none") return !on;
  if (on && endangered) return false;
  if (rigInput.phantom.kind === "own") return true;
  const bank = bankOf(taken, rigInput.phantom.bankId);
  return on ? bank.endangered === 0 : !endangered || bank.powering === 0;
};

const fits = (taken: Taken, rigInput: RigInput, line: Line): boolean =>
  !rigInput.occupied &&
  !rigInput.loopBack &&
  !taken.ports.has(rigInput.port.id) &&
  existsAtRate(taken.rig, rigInput, taken.doc.format.sampleRateHz) &&
  takesLevel(taken.rig, rigInput, line) &&
  phantomSuits(taken, rigInput, line);

const onOneBank = (a: RigInput, b: RigInput): boolean =>
  a.phantom.kind === "bank" && b.phantom.kind === "bank" && a.phantom.bankId === b.phantom.bankId;

/** Two sides on one bank: one must not want 48 V while the other is a passive ribbon. */
const sidesAgree = (
  { rig }: Taken,
  [left, right]: readonly [Line, Line],
  [a, b]: readonly [RigInput, RigInput],
): boolean =>
  !onOneBank(a, b) ||
  !((wantsPhantom(rig, left) && isEndangered(rig, right)) || (wantsPhantom(rig, right) && isEndangered(rig, left)));

const pairFor = (
  taken: Taken,
  inputs: readonly RigInput[],
  lines: readonly [Line, Line],
): readonly [RigInput, RigInput] | null => {
  for (const rigInput of inputs) {
    if (!fits(taken, rigInput, lines[0])) continue;
    const mate = rigInputOf(taken.rig, rigInput.port.neighbourId);
    if (!mate || mate.port.number < rigInput.port.number || !fits(taken, mate, lines[1])) continue;
    if (sidesAgree(taken, lines, [rigInput, mate])) return [rigInput, mate];
  }
  return null;
};

/** Whether a line comes at line level by itself: it needs no preamp, and leaves those to what does. */
const spares = ({ rig }: Taken, rigInput: RigInput, line: Line): boolean =>
  microphoneFacts(rig, line.microphone)?.kind === "line-source" && rigInput.levels.includes("microphone");

const oneFor = (taken: Taken, inputs: readonly RigInput[], line: Line): RigInput | null => {
  let second: RigInput | null = null;
  for (const rigInput of inputs) {
    if (!fits(taken, rigInput, line)) continue;
    if (!spares(taken, rigInput, line)) return rigInput;
    second ??= rigInput;
  }
  return second;
};

interface Proposing {
  /** Where to begin; null for the first input of the rig. */
  readonly from?: RigInput | null;
}

/** What is taken before anything new is given out: by what is there, and by what of the new has its input already. */
const takenAlready = (doc: Template, rig: Rig, seeking: readonly Seeking[]): Taken => {
  const taken: Taken = { doc, rig, ports: new Set(linesByPort(doc).keys()), banks: new Map() };
  for (const line of [...linesOf(doc), ...seeking.flat()]) {
    const rigInput = rigInputOf(rig, line.portId);
    if (rigInput) take(taken, rigInput, line);
  }
  return taken;
};

/** One round: those in `first` before all others and from the last input back, the others in their order. */
const round = (
  taken: Taken,
  seeking: readonly Seeking[],
  { inputs, first }: { readonly inputs: readonly RigInput[]; readonly first: ReadonlySet<number> },
): readonly (readonly RigInput[])[] => {
  const found: (readonly RigInput[])[] = seeking.map(() => []);
  const back = inputs.toReversed();
  const place = (lines: Seeking, at: number, among: readonly RigInput[]): void => {
    const [left, right] = lines;
    if (left.portId || right?.portId) {
      found[at] = lines.flatMap((line) => rigInputOf(taken.rig, line.portId) ?? []);
      return;
    }
    const given = right ? (pairFor(taken, among, [left, right]) ?? []) : [oneFor(taken, among, left) ?? []].flat();
    for (const [side, rigInput] of given.entries()) take(taken, rigInput, lines[side] ?? left);
    found[at] = given;
  };
  for (const at of first) place(seeking[at] as Seeking, at, back);
  for (const [at, lines] of seeking.entries()) if (!first.has(at)) place(lines, at, inputs);
  return found;
};

/** Rounds in which what found no input goes before the others. */
const MOST_ROUNDS = 6;

/**
 * Inputs for whatever is new, in the order in which it comes: for each the next free one that fits, for a pair two free
 * neighbours. Hard rules, none of which is ever broken: the level is taken, phantom is there where it is needed and
 * never where a passive ribbon hangs (a bank is shared), the input exists at the rate, nothing else comes in there, and
 * it is no loop-back. What comes at line level leaves preamps to what needs one, as long as there are other inputs. What
 * finds none goes before the others in another round, from the last input back, as long as more find one so. Empty for
 * what fits nowhere. At most inputs times what is new, for each of six rounds.
 */
export const proposeInputs = (
  doc: Template,
  rig: Rig,
  seeking: readonly Seeking[],
  { from = null }: Proposing = {},
): readonly (readonly RigInput[])[] => {
  const all = rigInputsOf(rig);
  const inputs = from ? all.slice(all.indexOf(from)) : all;
  const misses = (found: readonly (readonly RigInput[])[]): readonly number[] =>
    found.flatMap((given, at) => (given.length ? [] : [at]));
  let best = round(takenAlready(doc, rig, seeking), seeking, { inputs, first: new Set() });
  let first: ReadonlySet<number> = new Set(misses(best));
  for (let rounds = 1; rounds < MOST_ROUNDS && first.size && first.size < seeking.length; rounds++) {
    const next = round(takenAlready(doc, rig, seeking), seeking, { inputs, first });
    if (misses(next).length >= misses(best).length) break;
    best = next;
    first = new Set([...first, ...misses(best)]);
    if (!misses(best).length) break;
  }
  return best;
};
