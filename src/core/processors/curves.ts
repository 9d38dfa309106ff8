import type { Band } from "../model/tables/bands";
import type { Processor } from "../model/tables/chain-processors";
import { levelCurve, levelOut } from "./dynamics";
import { type Point, responseCurve, sectionsOf } from "./response";

/** Points of a small picture: x from 0 at the left to 1, y from 0 at the bottom to 1. */
const clamped = (y: number): number => Math.min(0.96, Math.max(0.04, y));

/**
 * Where a level of a response is drawn: even near 0 dB, closer together the further it is away, so that the edge of the
 * frame is never come to.
 */
const ofDb = (db: number): number => 0.5 + 0.92 * (Math.atan(db / 14) / Math.PI);

const spread = (count: number, y: (x: number) => number): readonly Point[] =>
  Array.from({ length: count }, (_, at) => ({ x: at / (count - 1), y: clamped(y(at / (count - 1))) }));

/** Echoes after a sound, each quieter by what is fed back. */
const echoes = (feedback: number): readonly Point[] =>
  [0, 1, 2, 3].flatMap((at) => {
    const height = at === 0 ? 0.85 : 0.6 * Math.max(0.25, feedback) ** (at - 1);
    const x = 0.08 + at * 0.27;
    return [
      { x, y: 0.08 },
      { x, y: clamped(height) },
      { x: x + 0.03, y: 0.08 },
    ];
  });

/** The shapes of those whose picture is no response: what comes out for what goes in, or over time. */
const SHAPES: {
  readonly [K in Processor["kind"]]?: (processor: Extract<Processor, { readonly kind: K }>) => readonly Point[];
} = {
  saturation: ({ driveDb }) => spread(40, (x) => 0.5 + Math.tanh((x - 0.5) * 2 * (1 + driveDb / 6)) / 2.2),
  amplifier: ({ driveDb }) => spread(40, (x) => 0.5 + Math.tanh((x - 0.46) * 3 * (1 + driveDb / 6)) / 2.2),
  tuner: () => spread(41, (x) => 0.5 + Math.sin(x * 6 * Math.PI) * 0.3 * (1 - x)),
  delay: ({ feedbackPercent }) => echoes(feedbackPercent / 100),
  reverb: ({ decayS }) =>
    spread(60, (x) => (x < 0.08 ? 0.06 : 0.9 * Math.exp((-(x - 0.08) * 5) / Math.max(0.3, decayS)))),
  insert: () => [
    { x: 0.05, y: 0.75 },
    { x: 0.4, y: 0.75 },
    { x: 0.4, y: 0.2 },
    { x: 0.6, y: 0.2 },
    { x: 0.6, y: 0.75 },
    { x: 0.95, y: 0.75 },
  ],
};

/**
 * The small picture of what a processor does, from its settings: the response of what filters (20 Hz to 20 kHz), the
 * static curve of what depends on the level (from −60 dBFS), and a shape for the rest; each with its wet share. Points
 * within the unit square, never along its edge.
 */
export const miniature = (
  processor: Processor,
  bands: readonly Pick<Band, "shape" | "frequencyHz" | "gainDb" | "q" | "bypassed">[],
  rateHz: number,
): readonly Point[] => {
  const sections = sectionsOf(processor, bands, rateHz);
  const { wetPercent } = processor;
  if (sections)
    return responseCurve(sections, rateHz, { count: 60, wetPercent }).map(({ y }, at) => ({ x: at / 59, y: ofDb(y) }));
  const levels = processor.kind === "gain" ? null : levelCurve(processor, 41);
  if (levels) {
    // As high as what comes out, where that is above full scale.
    const top = Math.max(0, ...levels.map(({ y }) => y));
    return levels.map(({ x, y }) => ({ x: (x + 60) / 60, y: clamped((Math.max(y, -60) + 60) / (60 + top)) }));
  }
  const shape = SHAPES[processor.kind] as ((of: Processor) => readonly Point[]) | undefined;
  if (shape) return wetShape(processor, shape(processor));
  return spread(2, () => (processor.kind === "gain" ? ofDb(levelOut(processor, 0) ?? 0) : 0.5));
};

/** A shape as tall as its wet share: with none it is a line that goes on as it came. */
const wetShape = ({ kind, wetPercent }: Processor, points: readonly Point[]): readonly Point[] => {
  const rest = kind === "delay" || kind === "reverb" ? 0.06 : 0.5;
  return points.map(({ x, y }) => ({ x, y: rest + (y - rest) * (wetPercent / 100) }));
};

/** So much of a swatch at each end the thread needs to come in and to go on where it ran. */
const EASE = 0.16;

/**
 * The thread as it runs through a processor: how far it is pulled up (to 1) or down (to −1) along the swatch, x from 0
 * to 1, by its small picture; at both ends it runs where it ran before, eased in by `3t² − 2t³`.
 */
export const threadThrough = (...of: Parameters<typeof miniature>): readonly Point[] => {
  const points = miniature(...of);
  const eased = (t: number): number => {
    const s = Math.min(1, Math.max(0, t / EASE));
    return s * s * (3 - 2 * s);
  };
  return [
    { x: 0, y: 0 },
    ...points.map(({ x, y }) => ({ x, y: (2 * y - 1) * eased(x) * eased(1 - x) })),
    { x: 1, y: 0 },
  ];
};
