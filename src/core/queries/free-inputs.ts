import type { BankId, LineId, PortId } from "../model/ids";
import { levelOf } from "../model/microphone-kinds";
import { perDocument, perTwo } from "../model/per-document";
import { existsAtRate, type RigInput, rigInputOf, rigInputsOf, rigInputsOfBank } from "../model/read-rig";
import { linesOf, microphoneFacts } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";

const onPorts = perDocument((lines: Template["lines"]): ReadonlyMap<PortId, readonly Line[]> => {
  const map = new Map<PortId, Line[]>();
  for (const line of linesOf({ lines })) {
    if (!line.portId) continue;
    const there = map.get(line.portId);
    if (there) there.push(line);
    else map.set(line.portId, [line]);
  }
  return map;
});

/** The lines on each port. Linear in lines, and kept for as long as none of them changes. */
export const linesByPort = (doc: Pick<Template, "lines">): ReadonlyMap<PortId, readonly Line[]> => onPorts(doc.lines);

/**
 * Whether the level at which a line arrives can be plugged in at an input. A line whose microphone is unknown fits
 * anywhere that is not occupied.
 */
export const takesLevel = (rig: Rig, rigInput: RigInput, line: Line): boolean => {
  if (rigInput.occupied) return false;
  const facts = microphoneFacts(rig, line.microphone);
  if (rigInput.loopBack) return !facts || facts.kind === "line-source";
  return (
    !facts ||
    rigInput.levels.includes(levelOf(facts.kind)) ||
    (facts.kind === "line-source" && rigInput.levels.includes("instrument"))
  );
};

interface BankUsage {
  /** Lines on the bank whose phantom is on: the bank carries 48 V for all. */
  readonly powering: readonly Line[];
  readonly endangered: readonly Line[];
}

/** What stands on a phantom bank, leaving out some lines. */
export const bankUsage = (
  doc: Template,
  rig: Rig,
  { bankId, except = [] }: { readonly bankId: BankId; readonly except?: readonly LineId[] },
): BankUsage => {
  const onBank = rigInputsOfBank(rig, bankId)
    .flatMap((rigInput) => linesByPort(doc).get(rigInput.port.id) ?? [])
    .filter((line) => !except.includes(line.id));
  return {
    powering: onBank.filter((line) => line.phantom),
    endangered: onBank.filter((line) => microphoneFacts(rig, line.microphone)?.phantom === "endangered"),
  };
};

interface Placing {
  readonly rigInput: RigInput;
  readonly line: Line;
  /** The other side of a pair, which moves along: where it stands now does not count. */
  readonly along?: Line;
}

/** Whether a line would have 48 V on: by its own switch, or because its microphone needs it. */
const wantsPhantom = (rig: Rig, line: Line): boolean =>
  line.phantom || microphoneFacts(rig, line.microphone)?.phantom === "needs";
const isEndangered = (rig: Rig, line: Line): boolean => microphoneFacts(rig, line.microphone)?.phantom === "endangered";

/** Whether phantom at an input suits a line: there when needed, and no passive ribbon on a bank that carries it. */
const phantomSuits = (doc: Template, rig: Rig, { rigInput, line, along }: Placing): boolean => {
  const on = wantsPhantom(rig, line);
  if (rigInput.phantom.kind === "none") return !on;
  if (rigInput.phantom.kind === "own") return !(on && isEndangered(rig, line));
  const use = bankUsage(doc, rig, { bankId: rigInput.phantom.bankId, except: along ? [line.id, along.id] : [line.id] });
  return on
    ? use.endangered.length === 0 && !isEndangered(rig, line)
    : !isEndangered(rig, line) || use.powering.length === 0;
};

/**
 * Whether a line could stand on an input as it is: exists at the rate, level taken, phantom suits. Whether it is free
 * is asked apart.
 */
export const suits = (doc: Template, rig: Rig, placing: Placing): boolean =>
  existsAtRate(rig, placing.rigInput, doc.format.sampleRateHz) &&
  takesLevel(rig, placing.rigInput, placing.line) &&
  phantomSuits(doc, rig, placing);

/** Two sides on one bank: one must not want 48 V while the other is a passive ribbon. */
const sidesAgree = (rig: Rig, [left, right]: readonly [Line, Line], [a, b]: readonly [RigInput, RigInput]): boolean => {
  const oneBank = a.phantom.kind === "bank" && b.phantom.kind === "bank" && a.phantom.bankId === b.phantom.bankId;
  return (
    !oneBank ||
    !((wantsPhantom(rig, left) && isEndangered(rig, right)) || (wantsPhantom(rig, right) && isEndangered(rig, left)))
  );
};

/** Inputs with no line on them and nothing else coming in, that exist at this rate, as they sit. */
export const freeInputs = perTwo((doc: Template, rig: Rig): readonly RigInput[] => {
  const used = linesByPort(doc);
  return rigInputsOf(rig).filter(
    (rigInput) =>
      !rigInput.occupied &&
      !rigInput.loopBack &&
      !used.has(rigInput.port.id) &&
      existsAtRate(rig, rigInput, doc.format.sampleRateHz),
  );
});

/** The first free input that suits a line, searched from after `from` and then from the start; null when none does. */
export const nextFreeInput = (doc: Template, rig: Rig, line: Line): RigInput | null =>
  freeInputs(doc, rig).find((rigInput) => suits(doc, rig, { rigInput, line })) ?? null;

/**
 * The first two free neighbours that suit both lines of a pair; null when there are none. Inputs the pair has for
 * itself count as free.
 */
export const nextFreePair = (
  doc: Template,
  rig: Rig,
  [left, right]: readonly [Line, Line],
): readonly [RigInput, RigInput] | null => {
  const own = [left, right].flatMap((line) => rigInputOf(rig, line.portId) ?? []);
  const usable = [
    ...freeInputs(doc, rig),
    ...own.filter((rigInput) => linesByPort(doc).get(rigInput.port.id)?.length === 1),
  ];
  for (const rigInput of usable) {
    const mate = usable.find((other) => other.port.id === rigInput.port.neighbourId);
    if (!mate || mate.port.number < rigInput.port.number) continue;
    if (
      suits(doc, rig, { rigInput, line: left, along: right }) &&
      suits(doc, rig, { rigInput: mate, line: right, along: left }) &&
      sidesAgree(rig, [left, right], [rigInput, mate])
    )
      return [rigInput, mate];
  }
  return null;
};
