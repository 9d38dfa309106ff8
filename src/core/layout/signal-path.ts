import { rigInputCaption, rigInputInWords, rigInputOf } from "../model/read-rig";
import { linesOfTrack, microphoneName } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Output, Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { outputsInWords } from "../queries/outputs";

export interface WayStep {
  readonly title: string;
  readonly detail: string;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Where an output leads, step by step, to the last. It comes to an end, as no edit leaves a loop. */
const outputSteps = (doc: Template, rig: Rig, output: Output): readonly WayStep[] => {
  if (output.kind === "nowhere") return [{ title: "Nowhere", detail: "it is recorded, and not heard" }];
  if (output.kind === "hardware") return [{ title: outputsInWords(rig, output.portIds), detail: "out of the interface" }];
  const bus = doc.channels[output.channelId];
  return bus ? [{ title: bus.name, detail: "summed" }, ...outputSteps(doc, rig, bus.output)] : [];
};

/** The way of a signal in words, from what is plugged in to where it is heard. */
export const wayOf = (doc: Template, rig: Rig, track: Track): readonly WayStep[] => {
  const inputs = linesOfTrack(doc, track).map((line): WayStep => {
    const rigInput = rigInputOf(rig, line.portId);
    const microphone = microphoneName(rig, line.microphone) || "No microphone chosen";
    if (!rigInput) return { title: line.requestedInput ? `Input ${line.requestedInput}` : "No input", detail: `${microphone}; not plugged in` };
    return { title: capital(rigInputInWords(rigInput)), detail: `${microphone}${rigInput.fedBy ? `, ${rigInputCaption(rigInput)}` : ""}${line.phantom ? ", 48 V" : ""}` };
  });
  const records: WayStep = { title: track.name || "A track without a name", detail: track.input.kind === "pair" ? "records here, stereo" : "records here" };
  return [...inputs, records, ...outputSteps(doc, rig, track.output)];
};
