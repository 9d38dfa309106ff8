/**
 * What a sum is on one side: amplitudes of everything added up, powers added up, and amplitudes of peaks added up. Full
 * scale is 1; a sine at full scale has an RMS of 1.
 */
export interface Side {
  readonly alike: number;
  readonly unlike: number;
  readonly peak: number;
}

/** Left and right; of something mono both are the same one. */
export interface Sides {
  readonly left: Side;
  readonly right: Side;
  readonly mono: boolean;
}

export const SILENT: Side = { alike: 0, unlike: 0, peak: 0 };
const FLOOR = 1e-9;
const amplitudeDb = (amplitude: number): number | null => (amplitude > FLOOR ? 20 * Math.log10(amplitude) : null);

export interface SideDb {
  readonly alikeDb: number | null;
  readonly unlikeDb: number | null;
  readonly peakDb: number | null;
}

export const sideDb = ({ alike, unlike, peak }: Side): SideDb => ({
  alikeDb: amplitudeDb(alike),
  unlikeDb: amplitudeDb(Math.sqrt(unlike)),
  peakDb: amplitudeDb(peak),
});

const louder = (a: number | null, b: number | null): number | null =>
  a === null ? b : b === null ? a : Math.max(a, b);

/** Both sides in one figure: the louder of them. */
export const louderSide = (
  { left, right }: Pick<Sides, "left" | "right">,
  figure: (side: SideDb) => number | null,
): number | null => louder(figure(sideDb(left)), figure(sideDb(right)));

/** Where peaks of one side stand if what comes together is not alike: as far above its level as those of what is. */
const likelyPeakOf = ({ alikeDb, unlikeDb, peakDb }: SideDb): number | null =>
  alikeDb === null || unlikeDb === null || peakDb === null ? null : peakDb - alikeDb + unlikeDb;

/** Where peaks will likely stand, in dBFS: each side by itself, then the louder. */
export const likelyPeakDb = (sides: Pick<Sides, "left" | "right">): number | null => louderSide(sides, likelyPeakOf);

/** The worst peak of both sides, in dBFS: if all of it came at once and alike. */
export const worstPeakDb = ({ left, right }: Pick<Sides, "left" | "right">): number | null =>
  amplitudeDb(Math.max(left.peak, right.peak));
