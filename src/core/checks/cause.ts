import { rigInputOf } from "../model/read-rig";
import type { CheckContext, Finding, Place } from "./finding";

/** Everything that a finding at a place can come from: the thing itself and the socket it is on. Names count only where the name is what is wrong. */
const bearingOn = ({ doc, rig }: CheckContext, place: Place): unknown => {
  switch (place.kind) {
    case "line": {
      const line = doc.lines[place.id];
      const rigInput = rigInputOf(rig, line?.portId ?? null);
      if (!line) return null;
      const { portId, requestedInput, phantom, microphone, player, room, gainDb, pad } = line;
      return [portId, requestedInput, phantom, microphone, player, room, gainDb, pad, rigInput && [rigInput.levels, rigInput.connector, rigInput.occupied, rigInput.phantom, rigInput.carriedBy, rigInput.port.gainDb]];
    }
    case "track": {
      const track = doc.channels[place.id];
      return track?.kind === "track" ? [place.field === "name" ? track.name : null, track.input, track.sharing, track.colour] : null;
    }
    case "folder": {
      const folder = doc.folders[place.id];
      return folder ? [place.field === "name" ? folder.name : folder.colour, folder.parentId, folder.order] : null;
    }
    case "template":
      return place.field === "name" ? doc.name : [doc.format, doc.kind];
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

/** What a finding comes from, as a short stamp: the same for as long as nothing that bears on it changes. An accepted finding comes back when it does. */
export const causeOf = (context: CheckContext, finding: Pick<Finding, "rule" | "severity" | "places">): string =>
  fingerprint(JSON.stringify([finding.rule, finding.severity, finding.places.map((place) => [place.id, bearingOn(context, place)]), context.doc.format.sampleRateHz]));
