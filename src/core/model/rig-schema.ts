import { MOST } from "./limits";
import { CONNECTORS, DEVICE_KINDS, FEED_KINDS, LEVELS, LINK_KINDS, MICROPHONE_KINDS, MIDI_USAGES, PORT_ROLES, RIG_SCHEMA, type RigTable } from "./rig";
import { byKind, faultsOf, id, idOf, list, named, number, object, orNull, table, text, whole } from "./schema-parts";

const order = whole(0, 10_000);
const decibels = number(-120, 120);
const byRate = (figure: unknown) => object({ single: figure, double: figure, quadruple: figure });
const delay = object({ unit: { enum: ["ms", "samples"] }, single: number(0, 100_000), double: number(0, 100_000), quadruple: number(0, 100_000) });
const ports = list(id, 64);

const clock = byKind({ none: {}, leads: {}, follows: { linkId: orNull(id) } });
const phantom = byKind({ none: {}, own: {}, bank: { bankId: id } });

/** JSON Schema of one entry of each table of a rig. */
export const RIG_ENTRIES: Readonly<Record<RigTable, { readonly properties: Readonly<Record<string, unknown>> }>> = {
  devices: object({ id, kind: { enum: DEVICE_KINDS }, name: named(), shortName: text(3), order, clock }),
  ports: object({
    id,
    deviceId: id,
    direction: { enum: ["in", "out"] },
    number: whole(1, 4096),
    name: text(60),
    role: { enum: PORT_ROLES },
    connector: { enum: CONNECTORS },
    levels: { ...list({ enum: LEVELS }, 3), minItems: 1 },
    phantom,
    padDb: orNull(decibels),
    gainDb: orNull(object({ min: decibels, max: decibels })),
    fullScaleDbu: orNull(decibels),
    neighbourId: orNull(id),
    running: orNull(whole(1, 8192)),
    carriedBy: orNull(object({ linkId: id, channel: whole(1, 512) })),
  }),
  banks: object({ id, deviceId: id, name: named(40) }),
  links: object({ id, name: named(60), kind: { enum: LINK_KINDS }, fromDeviceId: orNull(id), toDeviceId: id, channels: byRate(whole(0, 512)), order }),
  wires: object({ id: idOf(140), fromPortId: id, toPortId: id }),
  microphones: object({
    id,
    name: named(),
    kind: { enum: MICROPHONE_KINDS },
    phantom: { enum: ["needs", "tolerates", "endangered"] },
    sensitivityMvPerPa: orNull(number(0.001, 1000)),
    capsules: list(named(60), 12),
    count: whole(1, 999),
    order,
  }),
  timing: object({
    id,
    adc: orNull(delay),
    dac: orNull(delay),
    marginInSamples: byRate(whole(0, 100_000)),
    marginOutSamples: byRate(whole(0, 100_000)),
    buffersIn: whole(0, 8),
    buffersOut: whole(0, 8),
    bufferSizesSamples: list(whole(1, 65_536), 32),
  }),
  feeds: object({ id, name: named(), kind: { enum: FEED_KINDS }, portIds: { ...ports, minItems: 1 }, who: text(200), order }),
  loops: object({ id, name: named(), sendPortIds: { ...ports, minItems: 1 }, returnPortIds: { ...ports, minItems: 1 } }),
  mixers: object({
    id,
    deviceId: id,
    inputIds: list(id, 512),
    mixes: whole(1, 64),
    mixLayout: { enum: ["mono", "stereo"] },
    delayMs: number(0, 100),
    processing: list(named(60), 32),
    recorded: { type: "boolean" },
  }),
  midiPorts: object({ id, deviceId: id, direction: { enum: ["in", "out"] }, number: whole(1, 64), usage: { enum: MIDI_USAGES }, name: text(200), returnPortIds: ports }),
  processors: object({ id, name: named(), version: text(40), kind: text(60) }),
};

/** JSON Schema (draft 2020-12) of a rig document of the present version. */
export const RIG_JSON_SCHEMA = {
  $schema: "https://json-schema.org/draft/2020-12/schema",
  $id: "urn:wandel:rig:2",
  title: "Wandel rig",
  ...object({
    schema: { const: RIG_SCHEMA },
    id,
    name: named(),
    ...Object.fromEntries(Object.entries(RIG_ENTRIES).map(([name, entry]) => [name, table(entry, name === "ports" ? MOST.ports : MOST.parts)])),
    dimDb: number(-100, 0),
  }),
};

/** Where a value departs from the rig schema. Empty when it is a rig document. */
export const rigFaults = faultsOf(RIG_JSON_SCHEMA);
