import type { BankId, LineId, PortId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { existsAtRate, type InputJack, inputJacks, jackOf, jacksOfBank } from "../model/read-rig";
import { microphoneFacts } from "../model/read-template";
import { entriesOf, levelOf, type Rig } from "../model/rig";
import type { Line, Template } from "../model/template";

/** The lines on each port. Linear in lines. */
export const linesByPort = perDocument((doc: Template): ReadonlyMap<PortId, readonly Line[]> => {
  const map = new Map<PortId, Line[]>();
  for (const line of entriesOf(doc.lines)) {
    if (!line.portId) continue;
    const there = map.get(line.portId);
    if (there) there.push(line);
    else map.set(line.portId, [line]);
  }
  return map;
});

/** Whether the level at which a line arrives can be plugged in at an input. A line whose microphone is unknown fits anywhere that is not occupied. */
export const takesLevel = (rig: Rig, jack: InputJack, line: Line): boolean => {
  if (jack.occupied) return false;
  const facts = microphoneFacts(rig, line.microphone);
  if (jack.loopBack) return !facts || facts.kind === "line-source";
  return !facts || jack.levels.includes(levelOf(facts.kind)) || (facts.kind === "line-source" && jack.levels.includes("instrument"));
};

interface BankUse {
  /** Lines on the bank whose phantom is on: the bank carries 48 V for all. */
  readonly powering: readonly Line[];
  readonly endangered: readonly Line[];
}

/** What stands on a phantom bank, leaving out some lines. */
export const bankUse = (doc: Template, rig: Rig, { bankId, except = [] }: { readonly bankId: BankId; readonly except?: readonly LineId[] }): BankUse => {
  const onBank = jacksOfBank(rig, bankId)
    .flatMap((jack) => linesByPort(doc).get(jack.port.id) ?? [])
    .filter((line) => !except.includes(line.id));
  return { powering: onBank.filter((line) => line.phantom), endangered: onBank.filter((line) => microphoneFacts(rig, line.microphone)?.phantom === "endangered") };
};

interface Placing {
  readonly jack: InputJack;
  readonly line: Line;
  /** The other side of a pair, which moves along: where it stands now does not count. */
  readonly along?: Line;
}

/** Whether a line would have 48 V on: by its own switch, or because its microphone needs it. */
const wantsPhantom = (rig: Rig, line: Line): boolean => line.phantom || microphoneFacts(rig, line.microphone)?.phantom === "needs";
const isEndangered = (rig: Rig, line: Line): boolean => microphoneFacts(rig, line.microphone)?.phantom === "endangered";

/** Whether phantom at an input suits a line: there when needed, and no passive ribbon on a bank that carries it. */
const phantomSuits = (doc: Template, rig: Rig, { jack, line, along }: Placing): boolean => {
  const on = wantsPhantom(rig, line);
  if (jack.phantom.kind === "none") return !on;
  if (jack.phantom.kind === "own") return !(on && isEndangered(rig, line));
  const use = bankUse(doc, rig, { bankId: jack.phantom.bankId, except: along ? [line.id, along.id] : [line.id] });
  return on ? use.endangered.length === 0 && !isEndangered(rig, line) : !isEndangered(rig, line) || use.powering.length === 0;
};

/** Whether a line could stand on an input as it is: exists at the rate, level taken, phantom suits. Whether it is free is asked apart. */
export const suits = (doc: Template, rig: Rig, placing: Placing): boolean =>
  existsAtRate(rig, placing.jack, doc.format.sampleRateHz) && takesLevel(rig, placing.jack, placing.line) && phantomSuits(doc, rig, placing);

/** Two sides on one bank: one must not want 48 V while the other is a passive ribbon. */
const sidesAgree = (rig: Rig, [left, right]: readonly [Line, Line], [a, b]: readonly [InputJack, InputJack]): boolean => {
  const oneBank = a.phantom.kind === "bank" && b.phantom.kind === "bank" && a.phantom.bankId === b.phantom.bankId;
  return !oneBank || !((wantsPhantom(rig, left) && isEndangered(rig, right)) || (wantsPhantom(rig, right) && isEndangered(rig, left)));
};

/** Inputs with no line on them and nothing else coming in, that exist at this rate, as they sit. */
export const freeInputs = perTwo((doc: Template, rig: Rig): readonly InputJack[] => {
  const used = linesByPort(doc);
  return inputJacks(rig).filter((jack) => !jack.occupied && !jack.loopBack && !used.has(jack.port.id) && existsAtRate(rig, jack, doc.format.sampleRateHz));
});

/** The first free input that suits a line, searched from after `from` and then from the start; null when none does. */
export const nextFreeInput = (doc: Template, rig: Rig, line: Line): InputJack | null => freeInputs(doc, rig).find((jack) => suits(doc, rig, { jack, line })) ?? null;

/** The first two free neighbours that suit both lines of a pair; null when there are none. Inputs the pair has for itself count as free. */
export const nextFreePair = (doc: Template, rig: Rig, [left, right]: readonly [Line, Line]): readonly [InputJack, InputJack] | null => {
  const own = [left, right].flatMap((line) => jackOf(rig, line.portId) ?? []);
  const usable = [...freeInputs(doc, rig), ...own.filter((jack) => linesByPort(doc).get(jack.port.id)?.length === 1)];
  for (const jack of usable) {
    const mate = usable.find((other) => other.port.id === jack.port.neighbourId);
    if (!mate || mate.port.number < jack.port.number) continue;
    if (suits(doc, rig, { jack, line: left, along: right }) && suits(doc, rig, { jack: mate, line: right, along: left }) && sidesAgree(rig, [left, right], [jack, mate]))
      return [jack, mate];
  }
  return null;
};
