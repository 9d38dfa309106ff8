import { type Loose, mapTable } from "./loose";
import { keyed, renamedField } from "./order-keys";

/**
 * Version 3 numbered what stands in an order, and had other words for a colour and for the input that was asked for.
 */
export const threeToFour = (doc: Loose): Loose => ({
  ...doc,
  schema: 4,
  lines: mapTable(doc.lines, (line) => renamedField(line, "wanted", "requestedInput")),
  channels: mapTable(
    keyed(doc.channels, (channel) => (channel.kind === "track" ? String(channel.folderId) : null)),
    (channel) => renamedField(channel, "dye", "colour"),
  ),
  folders: mapTable(
    keyed(doc.folders, (folder) => String(folder.parentId)),
    (folder) => renamedField(folder, "dye", "colour"),
  ),
});
