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

const routingFaults = (doc: Template): string[] =>
  entriesOf(doc.channels).flatMap((channel) => {
    if (channel.output.kind !== "channel") return [];
    if (channel.kind === "main") return ["the main bus is routed to a channel"];
    return doc.channels[channel.output.channelId]?.kind === "main" ? [] : [`${channel.name} is routed to something that is not there`];
  });

const trackFaults = (doc: Template): string[] =>
  entriesOf(doc.channels).flatMap((track) => {
    if (track.kind !== "track") return [];
    const homeless = track.folderId && !doc.folders[track.folderId] ? [`${track.name} lies in a folder that is not there`] : [];
    const astray = inputLineIds(track.input).filter((id) => !doc.lines[id]);
    const twice = track.input.kind === "pair" && track.input.leftId === track.input.rightId ? [`${track.name} takes one line as left and right`] : [];
    return [...homeless, ...astray.map(() => `${track.name} takes a line that is not there`), ...twice];
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
    ...keyed(doc.accepted),
    ...(doc.channels[MAIN_ID]?.kind === "main" && entriesOf(doc.channels).filter((c) => c.kind === "main").length === 1 ? [] : ["there is not exactly one main bus"]),
    ...entriesOf(doc.folders).flatMap((folder) => (folder.parentId && !doc.folders[folder.parentId] ? [`folder ${folder.name} lies in one that is not there`] : [])),
    ...inLoop(doc),
    ...routingFaults(doc),
    ...trackFaults(doc),
    ...entriesOf(doc.lines).flatMap((line) => [
      ...(taken.has(line.id) ? [] : [`line ${line.source || line.id} has no track`]),
      ...(line.portId && line.wanted ? [`line ${line.source} has a port and asks for another`] : []),
    ]),
  ];
};
