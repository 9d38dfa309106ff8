import type { ChannelId } from "../model/ids";
import { newProcessor, type Processor, type ProcessorOf } from "../model/tables/chain-processors";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { threeBands } from "../planning/further-ways";
import { type Branch, branchesCurve, extremes, type Point, summedCurve } from "../processors/response";
import { processorsOf, stepsOf } from "../queries/chains";
import { remarkable } from "../queries/remarkable";
import { type SplitBand, splitBandsOf } from "../queries/split-bands";
import { dB, formatDb } from "../units/decibels";
import { formatHz } from "../units/hertz";
import { type Check, type Finding, type Fix, finding } from "./finding";
import { fresh } from "./fresh-ids";
import { ROUTING, SENT } from "./reads";
import { chainOf, nameOf, set, used } from "./remarkable";

/** A bump or hole of less is not told. */
const MEETS_DB = 0.5;

type Filter = ProcessorOf<"filter">;

const rounded = (db: number): string => formatDb(dB(Math.round(db * 10) / 10));
const worstOf = (curve: readonly Point[]): Point => {
  const { highest, lowest } = extremes(curve);
  return highest.y > -lowest.y ? highest : lowest;
};
const inWords = ({ x, y }: Point): string =>
  `a ${y > 0 ? "bump" : "hole"} of ${rounded(y)} at ${formatHz(Math.round(x))}`;

const onlyFilter = ({ filters }: SplitBand, pass: Filter["pass"]): Filter | null => {
  const [one, ...more] = filters.filter((filter) => filter.pass !== "all-pass");
  return one && !more.length && one.pass === pass ? one : null;
};

/** Two bands that should meet at one frequency. */
const meetingFix = (low: Filter, high: Filter): Fix => {
  const hz = Number(Math.sqrt(low.frequencyHz * high.frequencyHz).toPrecision(3));
  return { label: `Let both meet at ${formatHz(hz)}`, edits: [set([low.id, high.id], { frequencyHz: hz })] };
};

/**
 * Three bands as a tree with the all-pass: their filters anew. Only where each holds nothing but such filters of the
 * split.
 */
const flatFix = (doc: Template, bands: readonly SplitBand[]): readonly Fix[] => {
  const sorted = [...bands].sort(
    (a, b) =>
      Math.max(...a.filters.map(({ frequencyHz }) => frequencyHz)) -
      Math.max(...b.filters.map(({ frequencyHz }) => frequencyHz)),
  );
  const low = sorted.find(({ filters }) => filters.every(({ pass }) => pass !== "high-pass"));
  const high = sorted.find(({ filters }) => filters.every(({ pass }) => pass !== "low-pass"));
  const middle = sorted.find((band) => band !== low && band !== high);
  const [lower, upper] = [
    low?.filters.find(({ pass }) => pass === "low-pass")?.frequencyHz,
    middle?.filters.find(({ pass }) => pass === "low-pass")?.frequencyHz,
  ];
  if (!low || !middle || !high || bands.length !== 3 || lower === undefined || upper === undefined || upper <= lower)
    return [];
  const ids = fresh(doc, "band");
  const filters = threeBands(lower, upper);
  const edits: readonly Edit[] = [
    { kind: "entries.remove", table: "processors", ids: bands.flatMap((band) => band.filters.map(({ id }) => id)) },
    ...[low, middle, high].map(({ bus }, at): Edit => {
      // Before what else the band passes.
      const first = processorsOf(doc, bus.id).find(
        (one) => !bands.some((band) => band.filters.some(({ id }) => id === one.id)),
      );
      return {
        kind: "entries.add",
        entries: {
          processors: (filters[at] ?? []).map(
            (filter) =>
              newProcessor("filter", {
                ...filter,
                id: ids("processor"),
                channelId: bus.id,
                slopeDb: 24,
                crossover: true,
              }) as never,
          ),
        },
        before: first?.id ?? null,
      };
    }),
  ];
  return [{ label: `Let the three bands add up flat at ${formatHz(lower)} and ${formatHz(upper)}`, edits }];
};

/**
 * Bands of one source that leave a hole between them, lie over one another, or are out of step. All bands of a source
 * are looked at together.
 */
export const bandsDoNotMeet: Check = {
  id: "bands-do-not-meet",
  why: "Bands that do not meet leave a hole in the sound; where they overlap, a bump; and three side by side do not add up flat by themselves.",
  withoutRig: true,
  reads: [...ROUTING, ...SENT, "processors.*", "format"],
  check: ({ doc }) =>
    splitBandsOf(doc).flatMap(({ sourceId, bands }): readonly Finding[] => {
      const source = nameOf(doc.channels[sourceId]);
      const worst = worstOf(
        summedCurve(
          bands.map(({ filters }) => filters),
          doc.format.sampleRateHz,
          961,
        ),
      );
      if (Math.abs(worst.y) < MEETS_DB) return [];
      const [low, high] = [
        bands.find((band) => onlyFilter(band, "low-pass")),
        bands.find((band) => onlyFilter(band, "high-pass")),
      ];
      const [below, above] = [low && onlyFilter(low, "low-pass"), high && onlyFilter(high, "high-pass")];
      const two = bands.length === 2 && low && high && below && above;
      return [
        finding("bands-do-not-meet", {
          severity: "hint",
          about: sourceId,
          message: two
            ? `The bands of ${source} do not meet: ${nameOf(low.bus)} ends at ${formatHz(below.frequencyHz)} and ${nameOf(high.bus)} begins at ${formatHz(above.frequencyHz)}, which makes ${inWords(worst)}.`
            : `The ${bands.length} bands of ${source} do not add up to what came in: there is ${inWords(worst)}.`,
          places: chainOf((low ?? bands[0] ?? { bus: { id: sourceId } }).bus.id as ChannelId),
          fixes: two ? [meetingFix(below, above)] : flatFix(doc, bands),
        }),
      ];
    }),
};

/** A branch of a split with its filters; null where there are none. */
const branchOf = (of: readonly Processor[], db: number | null): Branch => ({
  filters: of.filter((one): one is Filter => one.kind === "filter" && !one.bypassed),
  gain:
    (db === null ? 0 : 10 ** (db / 20)) *
    of.reduce(
      (gain, one) =>
        one.kind === "gain" && !one.bypassed ? gain * (one.turned ? -1 : 1) * 10 ** (one.gainDb / 20) : gain,
      1,
    ),
});

/** Deeper than this below the louder branch both cancel; a hole between two bands of more than this is told. */
const [CANCELS_DB, HOLE_DB] = [-3, -3];

const partsBands = (first: Branch, second: Branch): boolean => {
  const has = ({ filters }: Branch, pass: Filter["pass"]): boolean => filters.some((filter) => filter.pass === pass);
  return (has(first, "low-pass") && has(second, "high-pass")) || (has(first, "high-pass") && has(second, "low-pass"));
};

/** Where each branch has one filter of a crossing: both as halves of one crossover. */
const crossingFix = (
  { filters: [low, ...moreLow] }: Branch,
  { filters: [high, ...moreHigh] }: Branch,
): readonly Fix[] => {
  const [one, other] = [low as Filter | undefined, high as Filter | undefined];
  if (
    !one ||
    !other ||
    moreLow.length ||
    moreHigh.length ||
    one.pass === other.pass ||
    one.pass === "all-pass" ||
    other.pass === "all-pass"
  )
    return [];
  const hz = Number(Math.sqrt(one.frequencyHz * other.frequencyHz).toPrecision(3));
  return [
    {
      label: `Make both halves of one crossover at ${formatHz(hz)}`,
      edits: [set([one.id, other.id], { frequencyHz: hz, slopeDb: 24, crossover: true })],
    },
  ];
};

/** Splits inside a chain whose branches cancel somewhere, or leave a hole between them. */
export const splitCancels: Check = {
  id: "split-cancels",
  why: "Two branches of a split that are out of step where both are heard take the sound away there; two bands that do not meet leave a hole.",
  withoutRig: true,
  reads: ["channels.kind", "channels.parked", "processors.*", "format"],
  check: ({ doc }) =>
    used(doc, remarkable(doc.processors).splits).flatMap((split): readonly Finding[] => {
      const step = stepsOf(processorsOf(doc, split.channelId)).find(({ processor }) => processor.id === split.id);
      if (!step) return [];
      const [first, second] = [branchOf(step.first, split.firstDb), branchOf(step.second, split.secondDb)];
      if (
        !first.gain ||
        !second.gain ||
        (!first.filters.length && !second.filters.length && first.gain * second.gain > 0)
      )
        return [];
      const curve = branchesCurve([first, second], doc.format.sampleRateHz, 481);
      const cancels = curve.reduce((most, point) => (point.belowDb < most.belowDb ? point : most));
      const top = Math.max(...curve.map(({ y }) => y));
      // Between the bands only: what a branch cuts at the very ends is meant.
      const between = curve.filter(({ x }) => x > 40 && x < 12_000);
      const hole = partsBands(first, second)
        ? between.reduce((most, point) => (point.y < most.y ? point : most))
        : null;
      const gap = hole && hole.y - top < HOLE_DB ? hole : null;
      if (cancels.belowDb > CANCELS_DB && !gap) return [];
      const who = `${processorName(split)} on ${nameOf(doc.channels[split.channelId])}`;
      const at = cancels.belowDb <= CANCELS_DB ? cancels : gap;
      return [
        finding("split-cancels", {
          severity: "hint",
          about: split.id,
          message:
            at === cancels
              ? `The two branches of ${who} cancel at ${formatHz(Math.round(cancels.x))}: together they are ${rounded(-cancels.belowDb)} quieter there than the louder one alone.`
              : `The two branches of ${who} leave a hole of ${rounded((at as Point).y - top)} at ${formatHz(Math.round((at as Point).x))}.`,
          places: chainOf(split.channelId),
          fixes: crossingFix(first, second),
        }),
      ];
    }),
};

export const BAND_CHECKS: readonly Check[] = [bandsDoNotMeet, splitCancels];
