import { inputLineIds } from "../model/read-template";
import { entriesOf } from "../model/rig";
import { MAIN_ID, type Template } from "../model/template";

const keyed = (table: Readonly<Record<string, { readonly id: string }>>): string[] =>
  Object.entries(table).flatMap(([key, entry]) => (entry.id === key ? [] : [`${key} holds ${entry.id}`]));

const inLoop = (doc: Template): string[] =>
  entriesOf(doc.folders).flatMap((folder) => {
    const seen = new Set<string>();
    for (let at: typeof folder | undefined = folder; at; at = at.parentId ? doc.folders[at.parentId] : undefined) {
      if (seen.has(at.id)) return [`folder ${folder.name} lies in itself`];
      seen.add(at.id);
    }
    return [];
  });

const trackFaults = (doc: Template): string[] =>
  entriesOf(doc.channels).flatMap((channel) => {
    const faults: string[] = [];
    if (channel.output.kind === "channel" && doc.channels[channel.output.channelId]?.kind !== "main") faults.push(`${channel.name} is routed to something that is not there`);
    if (channel.kind !== "track") return channel.output.kind === "channel" ? [...faults, "the main bus is routed to a channel"] : faults;
    if (channel.folderId && !doc.folders[channel.folderId]) faults.push(`${channel.name} lies in a folder that is not there`);
    for (const id of inputLineIds(channel.input)) if (!doc.lines[id]) faults.push(`${channel.name} takes a line that is not there`);
    if (channel.input.kind === "pair" && channel.input.leftId === channel.input.rightId) faults.push(`${channel.name} takes one line as left and right`);
    return faults;
  });

/**
 * What must hold in every revision ever saved: unique ids, every reference to something of the right kind, one main bus, no folder in itself,
 * no line without a track. Answers what is broken, in words; empty when all holds. Linear in the document.
 */
export const brokenInvariants = (doc: Template): readonly string[] => {
  const taken = new Set(entriesOf(doc.channels).flatMap((channel) => (channel.kind === "track" ? inputLineIds(channel.input) : [])));
  const ids = [...Object.keys(doc.lines), ...Object.keys(doc.channels), ...Object.keys(doc.folders)];
  return [
    ...(new Set(ids).size === ids.length ? [] : ["an id is used twice"]),
    ...keyed(doc.lines),
    ...keyed(doc.channels),
    ...keyed(doc.folders),
    ...(doc.channels[MAIN_ID]?.kind === "main" && entriesOf(doc.channels).filter((c) => c.kind === "main").length === 1 ? [] : ["there is not exactly one main bus"]),
    ...entriesOf(doc.folders).flatMap((folder) => (folder.parentId && !doc.folders[folder.parentId] ? [`folder ${folder.name} lies in one that is not there`] : [])),
    ...inLoop(doc),
    ...trackFaults(doc),
    ...entriesOf(doc.lines).flatMap((line) => [
      ...(taken.has(line.id) ? [] : [`line ${line.source || line.id} has no track`]),
      ...(line.portId && line.wanted ? [`line ${line.source} has a port and asks for another`] : []),
    ]),
  ];
};
