import type { Colour } from "../model/colours";
import { colourOf, folderColour } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Channel, Sum } from "../model/tables/channels";
import type { Template } from "../model/template";

/** The dye of a bus: its own, else that of the folder that sums into it. */
export const sumColour = (doc: Template, sum: Sum): Colour | null => {
  if (sum.colour) return sum.colour;
  const folder = entriesOf(doc.folders).find(({ busId }) => busId === sum.id);
  return folder ? folderColour(doc, folder) : null;
};

/** The dye that the thread of a channel has; null for the main bus, which has none. */
export const channelColour = (doc: Template, channel: Channel): Colour | null => {
  switch (channel.kind) {
    case "track":
      return colourOf(doc, channel);
    case "bus":
    case "return":
      return sumColour(doc, channel);
    case "instrument":
      return channel.colour ?? "indigo";
    case "reference":
      return channel.colour ?? "slate";
    case "click":
    case "talkback":
      return channel.colour ?? "slate";
    case "main":
      return null;
    default:
      return channel satisfies never;
  }
};
