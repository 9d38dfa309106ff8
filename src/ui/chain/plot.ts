/**
 * Where the plot of a chart lies in it: its axes are as wide as this, so that what is laid over it meets it. Pixels.
 */
export const PLOT = { left: 44, right: 12, top: 12, bottom: 26 } as const;

const RANGE_HZ = { from: 20, to: 20_000 } as const;
export const TICKS_HZ = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000] as const;

/**
 * How far up and down a response is drawn, in dB: as far as it goes up, in steps; what falls far below leaves the
 * frame.
 */
const SPANS_DB = [12, 18, 24, 36, 48, 72, 96] as const;
export const spanFor = (levels: readonly number[]): number => {
  const highest = levels.reduce((most, db) => Math.max(most, db), 0);
  return SPANS_DB.find((span) => span >= highest) ?? 96;
};
/** Six steps from the lowest to the highest. */
export const ticksDb = (spanDb: number): readonly number[] => [-3, -2, -1, 0, 1, 2, 3].map((n) => (n * spanDb) / 3);

export interface Size {
  readonly width: number;
  readonly height: number;
  readonly spanDb: number;
}

const across = ({ width }: Pick<Size, "width">): number => Math.max(1, width - PLOT.left - PLOT.right);
const down = ({ height }: Pick<Size, "height">): number => Math.max(1, height - PLOT.top - PLOT.bottom);

export const xOfHz = (size: Size, hz: number): number =>
  PLOT.left + (Math.log(hz / RANGE_HZ.from) / Math.log(RANGE_HZ.to / RANGE_HZ.from)) * across(size);
export const yOfDb = (size: Size, db: number): number =>
  PLOT.top + ((size.spanDb - Math.max(-size.spanDb, Math.min(size.spanDb, db))) / (2 * size.spanDb)) * down(size);
/** The frequency at a place, to three figures. */
export const hzAtX = (size: Size, x: number): number => {
  const hz = RANGE_HZ.from * (RANGE_HZ.to / RANGE_HZ.from) ** Math.min(1, Math.max(0, (x - PLOT.left) / across(size)));
  return Number(hz.toPrecision(3));
};
/** The level at a place, to half a dB. */
export const dbAtY = (size: Size, y: number): number =>
  Math.round(2 * (size.spanDb - Math.min(1, Math.max(0, (y - PLOT.top) / down(size))) * 2 * size.spanDb)) / 2;
