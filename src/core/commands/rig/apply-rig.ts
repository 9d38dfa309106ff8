import { entriesOf, type Port, RIG_TABLES, type Rig, type RigTable } from "../../model/rig";
import { RIG_JSON_SCHEMA, rigFaults } from "../../model/rig-schema";
import { engineOf, firstOf, refuse } from "../engine";
import { type PartsRules, partsHandlers } from "../parts";
import { restoreHandler } from "../restore-handler";
import { standing } from "../standing";
import { repairRig } from "./repair-rig";
import type { RigCommand } from "./rig-command";
import { brokenRig } from "./rig-invariants";

const WORDS: Readonly<Record<RigTable, string>> = {
  devices: "device",
  ports: "port",
  banks: "phantom bank",
  links: "digital socket",
  wires: "wire",
  microphones: "microphone",
  timing: "delay",
  feeds: "listening place",
  loops: "send and return",
  mixers: "mixer",
  midiPorts: "MIDI port",
  processors: "processor",
};

const FIELDS: Readonly<Record<string, string>> = {
  gainDb: "the gain range",
  padDb: "the pad",
  fullScaleDbu: "the level at full scale",
  levels: "the levels",
  phantom: "phantom",
  neighbourId: "the stereo pair",
  connector: "the connector",
  role: "the use",
  clock: "the clock",
  shortName: "the short name",
  kind: "the kind",
  order: "the place",
  channels: "the channels",
  adc: "the input delay",
  dac: "the output delay",
  marginInSamples: "the margin in",
  marginOutSamples: "the margin out",
  buffersIn: "the buffers in",
  buffersOut: "the buffers out",
  bufferSizesSamples: "the buffer sizes",
  portIds: "the outputs",
  who: "the listener",
  sendPortIds: "the send",
  returnPortIds: "the return",
  sensitivityMvPerPa: "the sensitivity",
  count: "the number",
  capsules: "the capsules",
  mixes: "the mixes",
  mixLayout: "the mix layout",
  delayMs: "the delay",
  processing: "the processing",
  recorded: "what is recorded",
  inputIds: "the inputs",
  usage: "what hangs on it",
  version: "the version",
  dimDb: "the dim",
};

const portName = (rig: Rig, port: Port): string => `${rig.devices[port.deviceId]?.name ?? "a device"} ${port.direction === "in" ? "input" : "output"} ${port.number}`;

const rules: PartsRules<Rig, RigTable> = {
  what: "rig",
  tables: RIG_TABLES,
  words: WORDS,
  fields: FIELDS,
  settings: ["dimDb"],
  faults: rigFaults,
  broken: brokenRig,
  repair: repairRig,
  nameOf: (rig, table, part) => {
    if (table === "ports") return portName(rig, part as Port);
    if (table === "timing") return rig.devices[part.id as keyof typeof rig.devices]?.name ?? null;
    if (table === "mixers") return `the mixer of ${rig.devices[(part as Rig["mixers"][never]).deviceId]?.name ?? "a device"}`;
    return "name" in part && typeof part.name === "string" && part.name ? part.name : null;
  },
};

/** Every edit of a rig. */
export const rigEngine = engineOf<Rig, RigCommand>(
  {
    ...partsHandlers(rules),
    "document.restore": restoreHandler<Rig>({ ...rules, schema: RIG_JSON_SCHEMA }),
    "rig.strip": {
      check: () => null,
      edit: (draft) => {
        for (const table of ["wires", "microphones", "feeds", "loops", "processors"] as const) draft[table] = {};
        for (const port of entriesOf(draft.ports)) if (port.name) port.name = "";
        for (const midi of entriesOf(draft.midiPorts)) Object.assign(midi, { usage: "nothing", name: "", returnPortIds: [] });
        for (const link of entriesOf(draft.links)) link.fromDeviceId = null;
        for (const device of entriesOf(draft.devices)) if (device.clock.kind === "follows") device.clock.linkId = null;
        repairRig(draft);
      },
      name: () => "Empty the rig to its bare devices",
    },
    "ports.name": {
      check: (rig, { names }) =>
        firstOf(
          () => (names.length ? null : refuse("empty", "", "No port was named.")),
          () => {
            const gone = names.find(({ portId }) => !rig.ports[portId]);
            return gone ? refuse("missing", gone.portId, "The port this was meant for is no longer there: it was removed in the meantime.") : null;
          },
          () => {
            const long = names.find(({ name }) => name.trim().length > 60);
            return long ? refuse("unfit", long.portId, `“${long.name.slice(0, 20)}…” is too long for a port: 60 characters at most.`) : null;
          },
        ),
      edit: (draft, { names }) => {
        for (const { portId, name } of names) {
          const port = draft.ports[portId];
          if (port) port.name = name.trim();
        }
      },
      name: (rig, { names }) => {
        const [first] = names;
        const port = names.length === 1 && first ? rig.ports[first.portId] : undefined;
        return port && first ? `Name ${portName(rig, port)} ${first.name.trim() || "by its number"}` : `Name ${names.length} ports`;
      },
    },
    "links.plug": {
      check: (rig, { linkId, deviceId }) =>
        firstOf(
          () =>
            rig.links[linkId] && (deviceId === null || rig.devices[deviceId]) ? null : refuse("missing", linkId, "The socket or the device this was meant for is no longer there."),
          () => (rig.links[linkId]?.toDeviceId === deviceId ? refuse("unfit", linkId, "A device can't be plugged into itself.") : null),
        ),
      edit: (draft, { linkId, deviceId }) => {
        const link = draft.links[linkId];
        if (!link) return;
        link.fromDeviceId = deviceId;
        const device = deviceId ? draft.devices[deviceId] : undefined;
        // A device that hangs on nothing yet takes its clock through what it is plugged into.
        if (device?.clock.kind === "follows" && !device.clock.linkId) device.clock.linkId = linkId;
        repairRig(draft);
      },
      name: (rig, { linkId, deviceId }) => {
        const link = rig.links[linkId];
        return deviceId ? `Plug ${rig.devices[deviceId]?.name} into ${link?.name}` : `Unplug ${link?.name}`;
      },
    },
  },
  standing<Rig>(rules),
);
