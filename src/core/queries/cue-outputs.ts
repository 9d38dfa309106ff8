import type { PortId } from "../model/ids";
import { hardwareOutputs } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { entriesOf, inOrder } from "../model/table";
import type { Cue, Hearing } from "../model/tables/cues";
import type { Feed } from "../model/tables/feeds";
import type { Template } from "../model/template";
import { cuesOf } from "./cues";
import { outputsInWords } from "./outputs";

export interface CueOutput {
  readonly portIds: readonly PortId[];
  readonly label: string;
  /** What hangs on it, where the rig says so. */
  readonly hearing: Hearing;
  readonly room: string;
  /** Cues that go out there already. */
  readonly takenBy: readonly string[];
}

const sameOutput = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((id, at) => id === b[at]);

/**
 * Everything that a cue can go out by: what hangs on outputs first, headphones before loudspeakers, then the other
 * pairs. Monitors are left to the engineer.
 */
export const cueOutputs = (doc: Pick<Template, "cues">, rig: Rig): readonly CueOutput[] => {
  const cues = cuesOf(doc);
  const takenBy = (portIds: readonly string[]) =>
    cues.filter((cue) => cue.portIds.some((id) => portIds.includes(id))).map(({ name }) => name);
  const feeds = inOrder<Feed>(rig.feeds).filter(
    ({ kind, portIds }) => kind !== "monitors" && kind !== "amplifier" && portIds.length <= 2,
  );
  const hung = [
    ...feeds.filter(({ kind }) => kind === "headphones"),
    ...feeds.filter(({ kind }) => kind !== "headphones"),
  ].map(
    ({ name, kind, portIds, who }): CueOutput => ({
      portIds,
      label: name,
      hearing: kind === "headphones" ? "headphones" : "loudspeaker",
      room: kind === "headphones" ? "" : who,
      takenBy: takenBy(portIds),
    }),
  );
  const used = new Set<string>(entriesOf<Feed>(rig.feeds).flatMap(({ portIds }) => portIds));
  const ports = hardwareOutputs(rig);
  const pairs = ports.flatMap((port, at): readonly CueOutput[] => {
    const next = ports[at + 1];
    if (port.number % 2 !== 1 || !next || next.deviceId !== port.deviceId || used.has(port.id) || used.has(next.id))
      return [];
    const portIds = [port.id, next.id];
    return [
      { portIds, label: outputsInWords(rig, portIds), hearing: "headphones", room: "", takenBy: takenBy(portIds) },
    ];
  });
  return [...hung, ...pairs];
};

/** Where a cue goes out, by the name of what hangs there. */
export const cueOutputText = (rig: Rig, { portIds }: Pick<Cue, "portIds">): string => {
  if (!portIds.length) return "no output";
  return (
    inOrder<Feed>(rig.feeds).find((feed) => sameOutput(feed.portIds, portIds))?.name ?? outputsInWords(rig, portIds)
  );
};

/** The next output that no cue has. */
export const freeCueOutput = (doc: Pick<Template, "cues">, rig: Rig): CueOutput | null =>
  cueOutputs(doc, rig).find(({ takenBy, hearing }) => !takenBy.length && hearing === "headphones") ?? null;
