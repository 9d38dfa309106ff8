import type { Dye } from "../model/dyes";
import type { ChannelId, PortId } from "../model/ids";
import { existsAtRate, type InputJack, inputJacks, jackCaption } from "../model/read-rig";
import { dyeOf, tracksByLine } from "../model/read-template";
import type { Device, Rig } from "../model/rig";
import type { Template } from "../model/template";
import { linesByPort } from "../planning/free-inputs";
import { formatRate } from "../units/hertz";

export interface JackView {
  readonly jack: InputJack;
  readonly caption: string;
  readonly state: "free" | "used" | "blocked";
  /** The dye of the thread that starts here. */
  readonly dye: Dye | null;
  /** What is on it, or why it can't be used; for a person. */
  readonly says: string;
  readonly trackId: ChannelId | null;
}

export interface JackGroup {
  readonly device: Device;
  readonly jacks: readonly JackView[];
}

const view = (doc: Template, rig: Rig, jack: InputJack): JackView => {
  const tracks = (linesByPort(doc).get(jack.port.id) ?? []).flatMap((line) => tracksByLine(doc).get(line.id) ?? []);
  const first = tracks[0];
  const exists = existsAtRate(rig, jack, doc.format.sampleRateHz);
  const why = !exists ? `not there at ${formatRate(doc.format.sampleRateHz)}` : jack.occupied ? `carries the ${jack.fedBy?.device.name}` : "free";
  const names = [...new Set(tracks.map((track) => track.name || "a track without a name"))].join(", ");
  return {
    jack,
    caption: jackCaption(jack),
    state: first ? "used" : !exists || jack.occupied ? "blocked" : "free",
    dye: first ? dyeOf(doc, first) : null,
    says: first ? names : why,
    trackId: first?.id ?? null,
  };
};

/** Every input of every device as it sits, with what is on it. Linear in jacks and lines. */
export const jackField = (doc: Template, rig: Rig): readonly JackGroup[] => {
  const groups: { device: Device; jacks: JackView[] }[] = [];
  for (const jack of inputJacks(rig)) {
    const last = groups.at(-1);
    const seen = view(doc, rig, jack);
    if (last?.device.id === jack.device.id) last.jacks.push(seen);
    else groups.push({ device: jack.device, jacks: [seen] });
  }
  return groups;
};

/** Height of the middle of each jack from the top of the field, by port, in pixels; sizes are given by whoever draws. */
export const jackHeights = (groups: readonly JackGroup[], size: { readonly top: number; readonly title: number; readonly jack: number }): ReadonlyMap<PortId, number> => {
  const heights = new Map<PortId, number>();
  let y = size.top;
  for (const { jacks } of groups) {
    y += size.title;
    for (const { jack } of jacks) {
      heights.set(jack.port.id, y + size.jack / 2);
      y += size.jack;
    }
  }
  return heights;
};
