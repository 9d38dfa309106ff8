import type { Colour } from "../model/colours";
import type { ChannelId, PortId } from "../model/ids";
import { existsAtRate, type RigInput, rigInputCaption, rigInputsOf } from "../model/read-rig";
import { colourOf, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Device } from "../model/tables/devices";
import type { Template } from "../model/template";
import { linesByPort } from "../queries/free-inputs";
import { formatRate } from "../units/hertz";

export interface InputView {
  readonly rigInput: RigInput;
  readonly caption: string;
  readonly state: "free" | "used" | "blocked";
  /** The dye of the thread that starts here. */
  readonly colour: Colour | null;
  /** What is on it, or why it can't be used; for a person. */
  readonly says: string;
  readonly trackId: ChannelId | null;
}

export interface InputGroup {
  readonly device: Device;
  readonly rigInputs: readonly InputView[];
}

const view = (doc: Template, rig: Rig, rigInput: RigInput): InputView => {
  const tracks = (linesByPort(doc).get(rigInput.port.id) ?? []).flatMap((line) => tracksByLine(doc).get(line.id) ?? []);
  const first = tracks[0];
  const exists = existsAtRate(rig, rigInput, doc.format.sampleRateHz);
  const why = !exists
    ? `not there at ${formatRate(doc.format.sampleRateHz)}`
    : rigInput.occupied
      ? `carries the ${rigInput.fedBy?.device.name}`
      : "free";
  const names = [...new Set(tracks.map((track) => track.name || "a track without a name"))].join(", ");
  return {
    rigInput,
    caption: rigInputCaption(rigInput),
    state: first ? "used" : !exists || rigInput.occupied ? "blocked" : "free",
    colour: first ? colourOf(doc, first) : null,
    says: first ? names : why,
    trackId: first?.id ?? null,
  };
};

/** Every input of every device as it sits, with what is on it. Linear in jacks and lines. */
export const inputField = (doc: Template, rig: Rig): readonly InputGroup[] => {
  const groups: { device: Device; rigInputs: InputView[] }[] = [];
  for (const rigInput of rigInputsOf(rig)) {
    const last = groups.at(-1);
    const seen = view(doc, rig, rigInput);
    if (last?.device.id === rigInput.device.id) last.rigInputs.push(seen);
    else groups.push({ device: rigInput.device, rigInputs: [seen] });
  }
  return groups;
};

/**
 * Height of the middle of each jack from the top of the field, by port, in pixels; sizes are given by whoever draws.
 */
export const inputHeights = (
  groups: readonly InputGroup[],
  size: { readonly top: number; readonly title: number; readonly rigInput: number },
): ReadonlyMap<PortId, number> => {
  const heights = new Map<PortId, number>();
  let y = size.top;
  for (const { rigInputs } of groups) {
    y += size.title;
    for (const { rigInput } of rigInputs) {
      heights.set(rigInput.port.id, y + size.rigInput / 2);
      y += size.rigInput;
    }
  }
  return heights;
};
