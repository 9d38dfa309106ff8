import type { PortId } from "../model/ids";
import { linesOfTrack } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import type { InterfaceMixer } from "../model/tables/mixers";
import type { Template } from "../model/template";

/**
 * Whether a mixer takes an input: those it names; where it names none, those of its own device and of what is plugged
 * into its sockets.
 */
const takes = (rig: Rig, mixer: InterfaceMixer, portId: PortId): boolean => {
  if (mixer.inputIds.length) return mixer.inputIds.includes(portId);
  const port = rig.ports[portId];
  const link = port?.carriedBy ? rig.links[port.carriedBy.linkId] : undefined;
  return port?.deviceId === mixer.deviceId || link?.toDeviceId === mixer.deviceId;
};

/**
 * The mixer of an interface that brings an input to an output past the computer; null where none does. Without an
 * output, to any of its own.
 */
export const mixerFor = (rig: Rig, portId: PortId | null, outId: PortId | null): InterfaceMixer | null => {
  if (!portId) return null;
  const out = outId ? rig.ports[outId] : undefined;
  return (
    entriesOf<InterfaceMixer>(rig.mixers).find(
      (one) => takes(rig, one, portId) && (!out || out.deviceId === one.deviceId),
    ) ?? null
  );
};

/**
 * Whether a track that records is heard in a cue past the computer: it is monitored so, or the cue is mixed in the
 * interface and the track is heard at all.
 */
export const isHeardDirect = (track: Track, cue: Pick<Cue, "mixedIn">): boolean =>
  track.monitor === "direct" || (cue.mixedIn === "interface" && track.monitor !== "off");

/** Whether the interface brings a track that is to be heard direct to where a cue goes out. */
export const reachesDirect = (
  doc: Template,
  rig: Rig,
  { track, cue }: { readonly track: Track; readonly cue: Cue },
): boolean =>
  isHeardDirect(track, cue) &&
  linesOfTrack(doc, track).some(({ portId }) => mixerFor(rig, portId, cue.portIds[0] ?? null) !== null);
