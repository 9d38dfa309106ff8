import type { Colour } from "../model/colours";
import { colourOf } from "../model/read-template";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { sumColour } from "./flow/flow";

/** The dye that the thread of a channel has; null for the main bus, which has none. */
export const channelColour = (doc: Template, channel: Channel): Colour | null => {
  if (channel.kind === "track") return colourOf(doc, channel);
  return channel.kind === "main" ? null : sumColour(doc, channel);
};
