import { type Loose, mapTable } from "./loose";
import { keyed, renamedField } from "./order-keys";

/** Version 2 numbered what stands in an order, and had another word for what a MIDI port is used for. */
export const rigTwoToThree = (doc: Loose): Loose => ({
  ...doc,
  schema: 3,
  devices: keyed(doc.devices),
  links: keyed(doc.links),
  microphones: keyed(doc.microphones),
  feeds: keyed(doc.feeds),
  midiPorts: mapTable(doc.midiPorts, (midi) => renamedField(midi, "hangs", "usage")),
});
