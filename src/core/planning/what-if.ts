import type { ChainProcessorId, ChannelId } from "../model/ids";
import type { Monitor } from "../model/tables/channel-fields";
import type { Template } from "../model/template";
import type { SampleRateHz } from "../units/hertz";
import type { Edit } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { type Planned, planned, unplanned } from "./gesture";

/** What is tried without changing anything. Null or empty: as it is. */
export interface WhatIf {
  readonly rateHz: SampleRateHz | null;
  readonly bufferSamples: number | null;
  readonly allOff: boolean | null;
  readonly monitors: Readonly<Record<ChannelId, Monitor>>;
  /** Processors by whether they are to be off while recording. */
  readonly off: Readonly<Record<ChainProcessorId, boolean>>;
}

export const NOTHING_TRIED: WhatIf = { rateHz: null, bufferSamples: null, allOff: null, monitors: {}, off: {} };

/** The edits that what is tried comes to: only what differs from the template. */
export const editsOf = (doc: Template, { rateHz, bufferSamples, allOff, monitors, off }: WhatIf): readonly Edit[] => {
  const buffers = {
    ...(bufferSamples !== null && bufferSamples !== doc.buffers.recordingSamples
      ? { recordingSamples: bufferSamples }
      : {}),
    ...(allOff !== null && allOff !== doc.buffers.allOff ? { allOff } : {}),
  };
  const monitored = (["direct", "computer", "off"] as const).flatMap((monitor): readonly Edit[] => {
    const channelIds = (Object.keys(monitors) as ChannelId[]).filter(
      (id) => monitors[id] === monitor && doc.channels[id]?.kind === "track" && doc.channels[id].monitor !== monitor,
    );
    return channelIds.length ? [{ kind: "entries.set", table: "channels", ids: channelIds, set: { monitor } }] : [];
  });
  const switched = ([true, false] as const).flatMap((isOff): readonly Edit[] => {
    const use = isOff ? ("not-while-recording" as const) : ("always" as const);
    const processorIds = (Object.keys(off) as ChainProcessorId[]).filter(
      (id) => off[id] === isOff && doc.processors[id] && doc.processors[id].use !== use,
    );
    return processorIds.length ? [{ kind: "entries.set", table: "processors", ids: processorIds, set: { use } }] : [];
  });
  return [
    ...(rateHz !== null && rateHz !== doc.format.sampleRateHz
      ? [{ kind: "settings.set", set: { format: { sampleRateHz: rateHz } } } as const]
      : []),
    ...(Object.keys(buffers).length ? [{ kind: "settings.set", set: { buffers } } as const] : []),
    ...monitored,
    ...switched,
  ];
};

/** The template as it would be with what is tried; itself where nothing is. */
export const triedOn = (doc: Template, tried: WhatIf): Template => {
  const edits = editsOf(doc, tried);
  if (!edits.length) return doc;
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : doc;
};

/** Takes what was tried over in one act. */
export const takeOver = (doc: Template, tried: WhatIf): Planned => {
  const edits = editsOf(doc, tried);
  return edits.length
    ? planned(edits, "Take over what was tried for the delay")
    : unplanned("Nothing is tried that differs from the template.");
};
