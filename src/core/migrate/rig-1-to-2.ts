import { type Loose, mapTable, tableOf } from "./loose";

const same = (figure: unknown): Loose => ({ single: figure, double: figure, quadruple: figure });
const delay = (ms: unknown): Loose | null => (typeof ms === "number" ? { unit: "ms", ...same(ms) } : null);

const timing = ({ deviceId, adcMs, dacMs, marginInSamples, marginOutSamples, bufferSizesSamples }: Loose): Loose => ({
  id: deviceId,
  adc: delay(adcMs),
  dac: delay(dacMs),
  marginInSamples: same(marginInSamples),
  marginOutSamples: same(marginOutSamples),
  buffersIn: 1,
  buffersOut: 1,
  bufferSizesSamples,
});

/**
 * Version 1 knew only what an input list needs: no clock, headphones, loops, mixer, MIDI and processors, and delays by
 * one figure for all rates. The first interface leads; an expander follows through the link that carries it.
 */
export const rigOneToTwo = (doc: Loose): Loose => {
  const links = Object.values(tableOf(doc.links));
  const devices = Object.values(tableOf(doc.devices));
  const leader = devices.find((device) => device.kind === "interface")?.id;
  const clock = (device: Loose): Loose => {
    const link = links.find((candidate) => candidate.fromDeviceId === device.id);
    if (device.id === leader) return { kind: "leads" };
    return link || device.kind === "interface" || device.kind === "expander"
      ? { kind: "follows", linkId: link?.id ?? null }
      : { kind: "none" };
  };
  return {
    ...doc,
    schema: 2,
    devices: mapTable(doc.devices, (device) => ({ ...device, clock: clock(device) })),
    ports: mapTable(doc.ports, (port) => ({
      ...port,
      role: /phones/i.test(String(port.name)) ? "headphones" : "plain",
    })),
    links: Object.fromEntries(links.map((link, order) => [link.id, { ...link, order }])),
    microphones: mapTable(doc.microphones, (microphone) => ({ ...microphone, capsules: [] })),
    timing: mapTable(doc.timing, timing),
    feeds: {},
    loops: {},
    mixers: {},
    midiPorts: {},
    processors: {},
    dimDb: -20,
  };
};
