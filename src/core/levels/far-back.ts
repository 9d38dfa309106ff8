import type { Rig } from "../model/rig";
import type { Channel } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { heardInCue } from "../queries/cues";
import { farTracksOf } from "../queries/far-guests";
import { soundsIn } from "./sounding";

/**
 * What of a cue for somebody far away carries their own voice back to them: by their line and input, along what lets
 * sound through.
 */
export const carriesBack = (doc: Template, rig: Rig, cue: Cue): readonly Channel[] => {
  if (cue.hearing !== "far") return [];
  const reached = soundsIn(doc, farTracksOf(doc, rig, cue), "recording");
  return heardInCue(doc, cue).filter(({ id }) => reached.has(id));
};
