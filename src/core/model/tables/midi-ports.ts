import { choice, type EntryOf, number, partOf, references, text } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { DeviceId, MidiPortId, PortId } from "../ids";
import { MOST } from "../limits";
import { DIRECTIONS } from "../rig-values";
import { allGo } from "./ports";

export const MIDI_USAGES = ["nothing", "keyboard", "pads", "pedal", "instrument", "surface"] as const;

const FIELDS = {
  deviceId: partOf<DeviceId>({ to: "devices", dangling: "belongs to no device", brings: true }, { word: "the device" }),
  direction: choice<(typeof DIRECTIONS)[number]>(DIRECTIONS, { word: "the direction" }),
  number: number({ min: 1, max: 64, whole: true }, { word: "the number" }),
  usage: choice<(typeof MIDI_USAGES)[number]>(MIDI_USAGES, {
    word: "what is connected",
    cell: {
      heading: "What is connected",
      width: 150,
      names: (usage: (typeof MIDI_USAGES)[number]) => (usage === "instrument" ? "outside instrument" : usage),
    },
  }),
  name: text(200, { word: "the name", cell: { heading: "Name" } }),
  returnPortIds: references<PortId>(
    { to: "ports", dangling: "comes back on an input that is not there", most: 64 },
    { word: "the return", cell: { heading: "Comes back on inputs", width: 160, empty: "none" } },
  ),
};

/** MIDI ports and what hangs on them. The sound of an outside instrument comes back on inputs. */
export const MIDI_PORTS = described({
  one: "MIDI port",
  many: "MIDI ports",
  most: MOST.parts,
  fields: FIELDS,
  rules: [
    (midi: MidiPort, around: Around) =>
      allGo(around, midi.returnPortIds, "in") ? null : "a MIDI port comes back on an input that is not there",
  ],
  called: (midi: MidiPort) => midi.name || null,
});

export interface MidiPort extends EntryOf<typeof FIELDS> {
  readonly id: MidiPortId;
}
