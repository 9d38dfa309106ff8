import type { Processor, ProcessorOf } from "../model/tables/chain-processors";
import type { Point } from "./response";

type Compressor = Pick<ProcessorOf<"compressor">, "thresholdDb" | "ratio" | "kneeDb">;

/**
 * The static curve of a compressor, level in to level out in dB, without make-up gain. Threshold T, ratio R, knee W:
 * below `x < T − W/2` unchanged; within the knee `x + (1/R − 1)(x − T + W/2)²/(2W)`; above `T + (x − T)/R` (D.
 * Giannoulis, M. Massberg, J. D. Reiss, 2012).
 * @example compressed({ thresholdDb: -20, ratio: 2.5, kneeDb: 6 }, -18) // −19.25
 */
export const compressed = ({ thresholdDb, ratio, kneeDb }: Compressor, x: number): number => {
  const over = x - thresholdDb;
  if (kneeDb > 0 && Math.abs(over) <= kneeDb / 2)
    return x + ((1 / ratio - 1) * (over + kneeDb / 2) ** 2) / (2 * kneeDb);
  return over <= 0 ? x : thresholdDb + over / ratio;
};

type Ducking = Compressor & Pick<ProcessorOf<"compressor">, "rangeDb">;

/**
 * By how much a compressor takes off what it works on while its detector hears a level, in dB: no more than its range.
 * 0 or above.
 */
export const reductionDb = (compressor: Ducking, heardDb: number): number =>
  Math.min(compressor.rangeDb, Math.max(0, heardDb - compressed(compressor, heardDb)));

/**
 * The level at which speech and song are expected when nothing else is known, in dBFS: what the depth of ducking is
 * told for.
 */
export const USUAL_LEVEL_DB = -24;

/** The ratio that ducking is set up with: steep, so that the depth is nearly the same for every level. */
export const DUCKING_RATIO = 4;

/**
 * The threshold at which a compressor takes a wanted depth off while its detector hears a level: `heard − depth·R/(R −
 * 1)`, with no knee. In dB.
 * @example thresholdFor({ depthDb: 9, ratio: 4, heardDb: -24 }) // −36
 */
export const thresholdFor = ({
  depthDb,
  ratio,
  heardDb,
}: {
  readonly depthDb: number;
  readonly ratio: number;
  readonly heardDb: number;
}): number => heardDb - (depthDb * ratio) / (ratio - 1);

/**
 * The threshold at which a compressor takes a wanted reduction off at a level: above the knee `x − g·R/(R − 1)`, within
 * it by the curve turned round. In dB, g and W not below 0. Null where no threshold does: a ratio of 1 takes nothing
 * off.
 * @example thresholdForReduction({ reductionDb: 3, ratio: 2.5, kneeDb: 6, levelDb: -24 }) // −29
 */
export const thresholdForReduction = ({
  reductionDb: wanted,
  ratio,
  kneeDb,
  levelDb,
}: {
  readonly reductionDb: number;
  readonly ratio: number;
  readonly kneeDb: number;
  readonly levelDb: number;
}): number | null => {
  if (ratio <= 1) return null;
  const share = 1 - 1 / ratio;
  if (wanted >= (share * kneeDb) / 2) return levelDb - wanted / share;
  return levelDb - (Math.sqrt((2 * kneeDb * wanted) / share) - kneeDb / 2);
};

type Gate = Pick<ProcessorOf<"gate">, "thresholdDb" | "ratio" | "rangeDb">;

/** The static curve of a gate or expander: below the threshold each dB takes `ratio` off, down to its range. */
export const gated = ({ thresholdDb, ratio, rangeDb }: Gate, x: number): number =>
  x >= thresholdDb ? x : Math.max(x - rangeDb, thresholdDb + (x - thresholdDb) * ratio);

const amplitude = (db: number): number => 10 ** (db / 20);

/** Of a wet share what went past it as well, in dB. */
const withDry = (wetPercent: number, x: number, y: number): number =>
  wetPercent === 100
    ? y
    : 20 * Math.log10(Math.max(1e-12, (1 - wetPercent / 100) * amplitude(x) + (wetPercent / 100) * amplitude(y)));

/**
 * What comes out for what goes in, in dB, for processors whose answer depends on the level, with what its wet share
 * leaves as it came; null for others.
 */
export const levelOut = (processor: Processor, x: number): number | null => {
  const y = wetOut(processor, x);
  return y === null ? null : withDry(processor.wetPercent, x, y);
};

const wetOut = (processor: Processor, x: number): number | null => {
  switch (processor.kind) {
    case "compressor":
      return x - reductionDb(processor, x) + processor.makeUpDb;
    case "gate":
      return gated(processor, x);
    case "limiter":
      return Math.min(x, processor.ceilingDb);
    case "de-esser":
      return Math.max(Math.min(x, processor.thresholdDb), x - processor.rangeDb);
    case "gain":
      return x + processor.gainDb;
    default:
      return null;
  }
};

/** A static curve from −60 to 0 dBFS: x in, y out. Null for processors that have none. */
export const levelCurve = (processor: Processor, count = 121): readonly Point[] | null => {
  const points = Array.from({ length: count }, (_, at) => {
    const x = -60 + (60 * at) / (count - 1);
    return { x, y: levelOut(processor, x) };
  });
  return points.some(({ y }) => y === null) ? null : (points as readonly Point[]);
};
