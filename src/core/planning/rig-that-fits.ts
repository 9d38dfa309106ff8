import { type Blueprint, blueprintOf } from "../blueprints/blueprints";
import { feed } from "../blueprints/kit";
import type { RigId } from "../model/ids";
import { existsAtRate, hardwareOutputs, rigInputsOf } from "../model/read-rig";
import { emptyRig, type Rig } from "../model/rig";
import type { Feed } from "../model/tables/feeds";
import { type RigEdit, rigEditing } from "./edits/rig-editing";
import { addBlueprint } from "./rig-plans";

/** What ships with the application, put together from the smallest up: an interface, then its expanders. */
const RACKS: readonly (readonly string[])[] = [
  ["duo"],
  ["brindle"],
  ["brindle", "eight"],
  ["brindle", "eight", "eight"],
];
/** At this rate inputs are counted; a digital socket carries fewer at higher ones. */
const RATE_HZ = 48_000;
/** The most pairs of headphones that are hung on outputs. */
const MOST_HEADPHONES = 4;

const usable = (rig: Rig): number =>
  rigInputsOf(rig).filter((input) => !input.loopBack && !input.occupied && existsAtRate(rig, input, RATE_HZ)).length;

/** What hangs on the outputs: monitors on the first pair, headphones on those that follow. */
const hung = (rig: Rig): RigEdit => {
  const ports = hardwareOutputs(rig).map(({ id }) => id);
  const pairs = ports
    .flatMap((id, at) => (at % 2 === 0 && ports[at + 1] ? [[id, ports[at + 1] as typeof id]] : []))
    .slice(0, MOST_HEADPHONES + 1);
  const feeds = pairs.map(
    (portIds, n): Omit<Feed, "order"> =>
      n
        ? feed(`headphones-${n}`, "headphones", [`Headphones ${n}`, ""], portIds)
        : feed("monitors", "monitors", ["Monitors", ""], portIds),
  );
  return { kind: "entries.add", entries: { feeds: feeds as never } };
};

const put = (rig: Rig, edits: readonly RigEdit[]): Rig => {
  const made = rigEditing.applyAll(rig, edits);
  if (!made.ok) throw new Error(`expected a rig of shipped devices to build, got: ${made.refusal.message}`);
  return made.doc;
};

/** What a rig is called that is made on the way. */
export const FITTING_NAME = "First rig";

/**
 * The smallest rig of shipped devices with at least so many inputs at 48 kHz, with monitors and headphones on its
 * outputs; the largest there is where none has as many.
 */
export const rigThatFits = ({
  id,
  name,
  inputs,
}: {
  readonly id: RigId;
  readonly name: string;
  readonly inputs: number;
}): Rig => {
  const racked = RACKS.map((ids) =>
    ids
      .map(blueprintOf)
      .reduce((rig: Rig, blueprint: Blueprint) => put(rig, addBlueprint(rig, blueprint).edits), emptyRig(id, name)),
  );
  const fits = racked.find((rig) => usable(rig) >= inputs) ?? (racked.at(-1) as Rig);
  return put(fits, [hung(fits)]);
};
