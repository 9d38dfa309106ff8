/** Where the plot of a chart lies in it: its axes are as wide as this, so that what is laid over it meets it. Pixels. */
export const PLOT = { left: 44, right: 12, top: 12, bottom: 26 } as const;

const RANGE_HZ = { from: 20, to: 20_000 } as const;
export const TICKS_HZ = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000] as const;
export const TICKS_DB = [-18, -12, -6, 0, 6, 12, 18] as const;
const SPAN_DB = 18;

interface Size {
  readonly width: number;
  readonly height: number;
}

const across = ({ width }: Size): number => Math.max(1, width - PLOT.left - PLOT.right);
const down = ({ height }: Size): number => Math.max(1, height - PLOT.top - PLOT.bottom);

export const xOfHz = (size: Size, hz: number): number => PLOT.left + (Math.log(hz / RANGE_HZ.from) / Math.log(RANGE_HZ.to / RANGE_HZ.from)) * across(size);
export const yOfDb = (size: Size, db: number): number => PLOT.top + ((SPAN_DB - Math.max(-SPAN_DB, Math.min(SPAN_DB, db))) / (2 * SPAN_DB)) * down(size);
/** The frequency at a place, to three figures. */
export const hzAtX = (size: Size, x: number): number => {
  const hz = RANGE_HZ.from * (RANGE_HZ.to / RANGE_HZ.from) ** Math.min(1, Math.max(0, (x - PLOT.left) / across(size)));
  return Number(hz.toPrecision(3));
};
/** The level at a place, to half a dB. */
export const dbAtY = (size: Size, y: number): number => Math.round(2 * (SPAN_DB - Math.min(1, Math.max(0, (y - PLOT.top) / down(size))) * 2 * SPAN_DB)) / 2;
