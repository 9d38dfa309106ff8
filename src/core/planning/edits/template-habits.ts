import type { Template } from "../../model/template";
import { processorHabits } from "./chain-edits";
import { channelHabits } from "./channel-edits";
import type { Habits } from "./entry-edits";
import { folderHabits } from "./folder-edits";
import { sendHabits } from "./send-edits";

/** What plain edits of a template take along, by table; those of the other tables do just what they say. */
export const TEMPLATE_HABITS: Readonly<Record<string, Habits<Template>>> = {
  channels: channelHabits,
  folders: folderHabits,
  sends: sendHabits,
  processors: processorHabits,
};
