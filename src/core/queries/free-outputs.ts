import type { PortId } from "../model/ids";
import { hardwareOutputs } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";

/** Outputs that nothing is on yet: no listening place, no send, no lead. */
const freeOutputs = (rig: Rig) => {
  const used = new Set<PortId>([
    ...entriesOf(rig.feeds).flatMap((feed) => feed.portIds),
    ...entriesOf(rig.loops).flatMap((loop) => loop.sendPortIds),
    ...entriesOf(rig.wires).map((wire) => wire.fromPortId),
  ]);
  return hardwareOutputs(rig).filter((port) => !used.has(port.id));
};

/** The first two free neighbours, as they sit; one output alone where no pair is left; null when all are taken. */
export const nextFreePair = (rig: Rig): readonly PortId[] | null => {
  const free = freeOutputs(rig);
  const left = free.find(
    (port) =>
      port.number % 2 === 1 &&
      free.some(
        (other) => other.deviceId === port.deviceId && other.role === port.role && other.number === port.number + 1,
      ),
  );
  const right =
    left &&
    free.find(
      (other) => other.deviceId === left.deviceId && other.role === left.role && other.number === left.number + 1,
    );
  if (left && right) return [left.id, right.id];
  return free[0] ? [free[0].id] : null;
};
