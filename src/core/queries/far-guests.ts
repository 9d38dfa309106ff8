import { plain } from "../model/families";
import type { ChannelId } from "../model/ids";
import { rigInputOf } from "../model/read-rig";
import { linesOf, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Cue } from "../model/tables/cues";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { cuesOf } from "./cues";

type Seen = Pick<Template, "lines" | "channels" | "cues">;

/** Lines that come in from the far end: those on a loop-back of the rig. */
const fromAfar = (doc: Seen, rig: Rig): readonly Line[] =>
  linesOf(doc).filter(({ portId }) => rigInputOf(rig, portId)?.loopBack === true);

const byName = (doc: Seen, { people }: Pick<Cue, "people">): readonly Line[] => {
  const names = new Set(people.map(plain));
  return linesOf(doc).filter(({ player }) => player.trim() && names.has(plain(player)));
};

/**
 * The lines on which the guest at the far end of a cue comes in. By who hears the cue, and then by the input: what else
 * comes in there is the same voice. A name that is on no line tells nothing: then all that comes in from afar and is no
 * other guest's.
 */
export const farLinesOf = (doc: Seen, rig: Rig, cue: Cue): readonly Line[] => {
  const afar = fromAfar(doc, rig);
  const named = byName(doc, cue);
  if (named.length) {
    const inputs = new Set(named.flatMap(({ portId }) => portId ?? []));
    return [...new Set([...named, ...afar.filter(({ portId }) => portId !== null && inputs.has(portId))])];
  }
  const others = new Set(
    cuesOf(doc).flatMap((other) => (other.id !== cue.id && other.hearing === "far" ? byName(doc, other) : [])),
  );
  return afar.filter((line) => !others.has(line));
};

/** The tracks on which the guest at the far end of a cue comes in. */
export const farTracksOf = (doc: Seen, rig: Rig, cue: Cue): readonly ChannelId[] => [
  ...new Set(
    farLinesOf(doc, rig, cue).flatMap(({ id }) =>
      (tracksByLine(doc).get(id) ?? []).filter(({ parked }) => !parked).map((track) => track.id),
    ),
  ),
];
