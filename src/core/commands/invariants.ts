import type { FolderId } from "../model/ids";
import { MOST } from "../model/limits";
import { inputLineIds } from "../model/read-template";
import { entriesOf } from "../model/rig";
import { MAIN_ID, type Template } from "../model/template";

const keyed = (table: Readonly<Record<string, { readonly id: string }>>): string[] =>
  Object.entries(table).flatMap(([key, entry]) => (entry.id === key ? [] : [`${key} holds ${entry.id}`]));

/** Every folder is looked at once: its depth is that of the one it lies in and one more. */
const nesting = (doc: Template): string[] => {
  const depths = new Map<FolderId, number>();
  const faults: string[] = [];
  for (const folder of entriesOf(doc.folders)) {
    const above: FolderId[] = [];
    const onWay = new Set<FolderId>();
    let at: FolderId | null = folder.id;
    while (at && !depths.has(at) && !onWay.has(at)) {
      above.push(at);
      onWay.add(at);
      at = doc.folders[at]?.parentId ?? null;
    }
    if (at && onWay.has(at)) faults.push(`folder ${doc.folders[at]?.name} lies in itself`);
    let depth = at && !onWay.has(at) ? (depths.get(at) ?? 0) : 0;
    for (const id of above.reverse()) depths.set(id, ++depth);
  }
  const deepest = Math.max(0, ...depths.values());
  return deepest > MOST.depth ? [...faults, `folders lie ${deepest} deep in one another, and ${MOST.depth} is the most`] : faults;
};

const overfull = (doc: Template): string[] =>
  (
    [
      ["lines", Object.keys(doc.lines).length],
      ["tracks", Object.keys(doc.channels).length - 1],
      ["folders", Object.keys(doc.folders).length],
      ["accepted", Object.keys(doc.accepted).length],
    ] as const
  ).flatMap(([table, count]) => (count > MOST[table] ? [`it holds ${count} ${table === "accepted" ? "accepted findings" : table}, and ${MOST[table]} is the most`] : []));

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
    ...nesting(doc),
    ...overfull(doc),
    ...routingFaults(doc),
    ...trackFaults(doc),
    ...entriesOf(doc.lines).flatMap((line) => [
      ...(taken.has(line.id) ? [] : [`line ${line.source || line.id} has no track`]),
      ...(line.portId && line.requestedInput ? [`line ${line.source} has a port and asks for another`] : []),
    ]),
  ];
};
