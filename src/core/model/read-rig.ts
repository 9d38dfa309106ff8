import type { SampleRateHz } from "../units/hertz";
import type { BankId, DeviceId, PortId } from "./ids";
import type { Level } from "./microphone-kinds";
import { perDocument } from "./per-document";
import type { Rig } from "./rig";
import { entriesOf, inOrder } from "./table";
import type { Device } from "./tables/devices";
import { linkChannels } from "./tables/links";
import type { PhantomSupply, Port } from "./tables/ports";

/** An input that a line can be patched to, as it is when its wiring is followed. */
export interface RigInput {
  readonly port: Port;
  readonly device: Device;
  /** "9", "E5": the short name of the device and the number. */
  readonly label: string;
  /** The output wired into it: a preamp's, or a return from outboard. */
  readonly fedBy: { readonly port: Port; readonly device: Device } | null;
  /** Something else comes in here, so that no microphone can. */
  readonly occupied: boolean;
  /** Brings the sound of other programs or of a far guest: no microphone can be plugged in. */
  readonly loopBack: boolean;
  /** The levels that can be plugged in: at the preamp if one is wired, else at the port. */
  readonly levels: readonly Level[];
  readonly connector: Port["connector"];
  /** The range of the preamp that is reached; null when it has none. */
  readonly gainDb: Port["gainDb"];
  readonly phantom: PhantomSupply;
  /** Null when it exists at every rate; else the channel it rides on. */
  readonly carriedBy: Port["carriedBy"];
}

export const devicesOf = (rig: Rig): Device[] => inOrder(rig.devices);

/** Ports of one device in one direction, by number. */
const portsOf = (rig: Rig, deviceId: DeviceId, direction: Port["direction"]): Port[] =>
  entriesOf(rig.ports)
    .filter((port) => port.deviceId === deviceId && port.direction === direction)
    .sort((a, b) => Number(a.role === "loop-back") - Number(b.role === "loop-back") || a.number - b.number);

export const portLabel = (rig: Rig, port: Port): string =>
  `${rig.devices[port.deviceId]?.shortName ?? ""}${port.role === "loop-back" ? "LB" : ""}${port.number}`;

/** The preamp input that stands behind a preamp output: the one of the same number. */
const preampInput = (rig: Rig, output: Port): Port | null =>
  entriesOf(rig.ports).find(
    (p) => p.deviceId === output.deviceId && p.direction === "in" && p.number === output.number,
  ) ?? null;

const toRigInput = (rig: Rig, device: Device, port: Port): RigInput => {
  const wire = entriesOf(rig.wires).find((w) => w.toPortId === port.id);
  const from = wire && rig.ports[wire.fromPortId];
  const fromDevice = from && rig.devices[from.deviceId];
  const fedBy = from && fromDevice ? { port: from, device: fromDevice } : null;
  const preamp = fedBy?.device.kind === "preamp" ? preampInput(rig, fedBy.port) : null;
  return {
    port,
    device,
    label: portLabel(rig, port),
    fedBy,
    occupied: fedBy !== null && preamp === null,
    loopBack: port.role === "loop-back",
    levels: preamp ? preamp.levels : port.levels,
    connector: preamp ? preamp.connector : port.connector,
    gainDb: preamp ? preamp.gainDb : port.gainDb,
    phantom: preamp ? preamp.phantom : port.phantom,
    carriedBy: port.carriedBy,
  };
};

/** Jacks by port, in the order in which they sit. Kept for as long as the rig document lives. */
const rigInputIndex = perDocument((rig: Rig): ReadonlyMap<PortId, RigInput> => {
  const rigInputs = devicesOf(rig).flatMap((device) =>
    portsOf(rig, device.id, "in").flatMap((port) => (port.running === null ? [] : [toRigInput(rig, device, port)])),
  );
  return new Map(rigInputs.map((rigInput) => [rigInput.port.id, rigInput]));
});

const rigInputList = perDocument((rig: Rig): readonly RigInput[] => [...rigInputIndex(rig).values()]);

/** Every input the computer sees, device by device as they sit. */
export const rigInputsOf = (rig: Rig): readonly RigInput[] => rigInputList(rig);

/** An input and its neighbour, left before right; the second is null where it has none. */
export const pairOf = (rig: Rig, rigInput: RigInput): readonly [RigInput, RigInput | null] => {
  const mate = rigInputOf(rig, rigInput.port.neighbourId);
  return mate && mate.port.number < rigInput.port.number ? [mate, rigInput] : [rigInput, mate];
};

export const rigInputOf = (rig: Rig, portId: PortId | null): RigInput | null =>
  (portId && rigInputIndex(rig).get(portId)) || null;

/** Whether an input exists at a rate: a digital link carries fewer channels at double and quadruple rates. */
export const existsAtRate = (rig: Rig, rigInput: RigInput, rateHz: SampleRateHz): boolean => {
  if (!rigInput.carriedBy) return true;
  const link = rig.links[rigInput.carriedBy.linkId];
  return link !== undefined && rigInput.carriedBy.channel <= linkChannels(link, rateHz);
};

/** Every word by which an input can be meant, the nearer meaning first. Kept for as long as the rig document lives. */
const rigInputsByWord = perDocument((rig: Rig): ReadonlyMap<string, RigInput> => {
  const found = new Map<string, RigInput>();
  const rigInputs = rigInputsOf(rig);
  const mean = (word: string, rigInput: RigInput) => {
    const key = word.toLowerCase().replace(/\s+/g, "");
    if (!found.has(key)) found.set(key, rigInput);
  };
  const byDevice = ({ name, shortName }: Device, number: number, rigInput: RigInput) => {
    if (shortName) mean(`${shortName}${number}`, rigInput);
    mean(`${name} ${number}`, rigInput);
    mean(`${name.split(" ")[0]} ${number}`, rigInput);
  };
  for (const rigInput of rigInputs) mean(rigInput.label, rigInput);
  // What comes from other programs is meant only by its own name: a number that happens to be that of a loop-back is a
  // slip far more often.
  for (const rigInput of rigInputs)
    if (rigInput.port.running !== null && !rigInput.loopBack) mean(String(rigInput.port.running), rigInput);
  for (const rigInput of rigInputs) if (!rigInput.loopBack) byDevice(rigInput.device, rigInput.port.number, rigInput);
  for (const rigInput of rigInputs) {
    // "A5": channel 5 of the socket called Optical A.
    const link = rigInput.carriedBy && rig.links[rigInput.carriedBy.linkId];
    if (!link || !rigInput.carriedBy) continue;
    mean(`${link.name} ${rigInput.carriedBy.channel}`, rigInput);
    mean(`${link.name.split(" ").at(-1)} ${rigInput.carriedBy.channel}`, rigInput);
  }
  for (const rigInput of rigInputs)
    if (rigInput.fedBy && !rigInput.occupied) byDevice(rigInput.fedBy.device, rigInput.fedBy.port.number, rigInput);
  return found;
});

/**
 * The input that a word of a list means: its label ("E5"), or the running number the computer knows it by ("21"). Null
 * when the rig has none. A label goes before a running number, then the name of the device or its first word ("Brindle
 * Eight 5", "Brindle 5" when it is the first so called), and an outside preamp stands for the input that it is wired to
 * ("T2", "Thistle 2").
 */
export const findRigInput = (rig: Rig, word: string): RigInput | null => {
  const text = word.trim().toLowerCase().replace(/\s+/g, "");
  return rigInputsByWord(rig).get(text) ?? null;
};

/**
 * The loop-back that the computer counts under a number; a list must call it by its name to mean it. Null when the word
 * is no such number.
 */
export const loopBackCounted = (rig: Rig, word: string): RigInput | null => {
  const number = Number(word.trim());
  return Number.isInteger(number)
    ? (rigInputsOf(rig).find((rigInput) => rigInput.loopBack && rigInput.port.running === number) ?? null)
    : null;
};

/** What to say of an input that a rig has not: that a number is a loop-back's, and how to name it. */
export const noSuchInput = (rig: Rig, word: string): string => {
  const loopBack = loopBackCounted(rig, word);
  return loopBack
    ? `${word.trim()} is ${rigInputInWords(loopBack)} of ${rig.name}, and is not taken for an input; call it ${loopBack.label} to mean it`
    : `${rig.name} has no input ${word.trim()}`;
};

/** The inputs that share a phantom switch. */
export const rigInputsOfBank = (rig: Rig, bankId: BankId): readonly RigInput[] =>
  rigInputsOf(rig).filter((rigInput) => rigInput.phantom.kind === "bank" && rigInput.phantom.bankId === bankId);

/** "5–8", "Thistle 1–2": which inputs a bank covers, for a sentence. */
export const bankLabel = (rig: Rig, bankId: BankId): string => rig.banks[bankId]?.name ?? "";

/** Hardware outputs of interfaces and expanders, by running order. */
export const hardwareOutputs = (rig: Rig): readonly Port[] =>
  devicesOf(rig)
    .filter((device) => device.kind === "interface" || device.kind === "expander")
    .flatMap((device) => portsOf(rig, device.id, "out"))
    .filter((port) => port.running !== null);

/** The monitor outputs: the first stereo pair of hardware outputs. */
export const monitorOutputs = (rig: Rig): readonly PortId[] =>
  hardwareOutputs(rig)
    .slice(0, 2)
    .map((port) => port.id);

/** What stands beside a jack in the field: what is wired into it, else the levels it takes. */
export const rigInputCaption = (rigInput: RigInput): string => {
  if (rigInput.port.name) return rigInput.port.name;
  if (rigInput.fedBy)
    return `line ← ${rigInput.fedBy.device.name.split(" ")[0]}${rigInput.fedBy.device.kind === "preamp" ? ` ${rigInput.fedBy.port.number}` : ""}`;
  const short: Record<Level, string> = { microphone: "mic", line: "line", instrument: "inst" };
  return rigInput.levels.map((level) => short[level]).join("/");
};

/** An input in a sentence: "input 15", "Brindle Eight input 3". */
export const rigInputInWords = (rigInput: RigInput): string =>
  rigInput.port.role === "loop-back"
    ? `${rigInput.device.name} loop-back ${rigInput.port.number}`
    : rigInput.device.shortName
      ? `${rigInput.device.name} input ${rigInput.port.number}`
      : `input ${rigInput.port.number}`;
