import type { Fields } from "../model/describe/fields";
import { rigInputOf } from "../model/read-rig";
import { entriesOf } from "../model/table";
import type { Folder } from "../model/tables/folders";
import { LINES, type Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { bandsOf, processorsOf, sideChainsOf } from "../queries/chains";
import { levelsOfCue } from "../queries/cues";
import { graphOf, intoOf, sendOf } from "../routing/graph";
import type { CheckContext, Finding, Place } from "./finding";

/** Fields of a line that a finding on it can come from, in the order of their description. */
const BEARING = Object.entries(LINES.fields as Fields)
  .flatMap(([key, { inCause }]) => (inCause === undefined ? [] : [{ key: key as keyof Line, inCause }]))
  .sort((a, b) => a.inCause - b.inCause)
  .map(({ key }) => key);

/** How many folders stand before one in the folder it lies in. */
const placeOf = (doc: Template, { parentId, order }: Folder): number =>
  entriesOf(doc.folders).filter((other) => other.parentId === parentId && other.order < order).length;

/** What of a channel inCause: its chain where that is meant, else how it is routed and mixed and what comes into it. */
const bearingOnChannel = (doc: Template, { id, field }: Extract<Place, { readonly kind: "channel" }>): unknown => {
  const channel = doc.channels[id];
  if (!channel) return null;
  if (field === "chain")
    return [processorsOf(doc, id).map((one) => [one, bandsOf(doc, one.id), sideChainsOf(doc, one.id)]), channel.output];
  const graph = graphOf(doc);
  const into = intoOf(graph, id).map((thread) => {
    const send = sendOf(graph, thread);
    return [thread.id, thread.from, send?.levelDb, send?.tap, send?.on];
  });
  return [
    field,
    channel.output,
    channel.faderDb,
    channel.kind !== "main" && [channel.muted, channel.parked, channel.pan],
    into,
  ];
};

/** What of a cue inCause: who hears it, where, and how loud what is. */
const bearingOnCue = (doc: Template, { id, field }: Extract<Place, { readonly kind: "cue" }>): unknown => {
  const cue = doc.cues[id];
  if (!cue) return null;
  const levels = levelsOfCue(doc, id).map(({ sourceId, levelDb, tap, on }) => [sourceId, levelDb, tap, on]);
  return [field, cue.portIds, cue.people, cue.hearing, cue.mixedIn, cue.room, cue.levelDb, levels, doc.buffers];
};

const bearingOnPass = (doc: Template, { id, field }: Extract<Place, { readonly kind: "pass" }>): unknown => {
  const pass = doc.passes[id];
  return pass ? [field, pass.trackIds, pass.takeMinutes, pass.takes, doc.format, doc.disk.freeGb] : null;
};

const bearingOnTemplate = (
  { doc, rig }: Pick<CheckContext, "doc" | "rig">,
  { field }: Extract<Place, { readonly kind: "template" }>,
): unknown => {
  if (field === "rig") return [rig.devices, rig.links, rig.wires, rig.feeds, rig.loops];
  if (field === "name") return doc.name;
  return field === "format" ? [doc.format, doc.kind] : [field, doc.format, doc.buffers, doc.disk];
};

/**
 * Everything that a finding at a place can come from: the thing itself and the socket it is on. Names count only where
 * the name is what is wrong.
 */
const bearingOn = ({ doc, rig }: CheckContext, place: Place): unknown => {
  switch (place.kind) {
    case "line": {
      const line = doc.lines[place.id];
      const rigInput = rigInputOf(rig, line?.portId ?? null);
      if (!line) return null;
      return [
        ...BEARING.map((field) => line[field]),
        rigInput && [
          rigInput.levels,
          rigInput.connector,
          rigInput.occupied,
          rigInput.phantom,
          rigInput.carriedBy,
          rigInput.port.gainDb,
        ],
      ];
    }
    case "track": {
      const track = doc.channels[place.id];
      return track?.kind === "track"
        ? [place.field === "name" ? track.name : null, track.input, track.sharing, track.colour]
        : null;
    }
    case "channel":
      return bearingOnChannel(doc, place);
    case "folder": {
      const folder = doc.folders[place.id];
      return folder
        ? [place.field === "name" ? folder.name : folder.colour, folder.parentId, placeOf(doc, folder)]
        : null;
    }
    case "cue":
      return bearingOnCue(doc, place);
    case "pass":
      return bearingOnPass(doc, place);
    case "template":
      return bearingOnTemplate({ doc, rig }, place);
    default:
      return place satisfies never;
  }
};

/** FNV-1a over UTF-16 units, 32 bits: enough to tell that a cause is no longer the same. */
const fingerprint = (text: string): string => {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) {
    hash ^= text.charCodeAt(at);
    hash = Math.imul(hash, 0x01000193);
  }
  return (hash >>> 0).toString(16).padStart(8, "0");
};

/**
 * What a finding comes from, as a short stamp: the same for as long as nothing that it hangs on changes. An accepted
 * finding comes back when it does.
 */
export const causeOf = (context: CheckContext, finding: Pick<Finding, "rule" | "severity" | "places">): string =>
  fingerprint(
    JSON.stringify([
      finding.rule,
      finding.severity,
      finding.places.map((place) => [place.id, bearingOn(context, place)]),
      context.doc.format.sampleRateHz,
    ]),
  );

/** The command that accepts a finding with a reason. */
export const acceptCommand = (context: CheckContext, finding: Finding, reason: string): Edit => ({
  kind: "entries.add",
  entries: { accepted: [{ id: finding.id, cause: causeOf(context, finding), reason }] },
});
