/** What a sum is on one side: amplitudes of everything added up, powers added up, and amplitudes of peaks added up. Full scale is 1; a sine at full scale has an RMS of 1. */
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
export const SILENCE: Sides = { left: SILENT, right: SILENT, mono: false };

/** One source by itself: RMS in dBFS and where its peaks stand. */
export const sideAt = (rmsDb: number, peakDb: number): Side => ({ alike: 10 ** (rmsDb / 20), unlike: 10 ** (rmsDb / 10), peak: 10 ** (peakDb / 20) });

const scaled = ({ alike, unlike, peak }: Side, gain: number): Side => ({ alike: alike * gain, unlike: unlike * gain * gain, peak: peak * gain });
export const added = (a: Side, b: Side): Side => ({ alike: a.alike + b.alike, unlike: a.unlike + b.unlike, peak: a.peak + b.peak });

/** Both sides by their own gain, as amplitudes. */
export const gained = ({ left, right, mono }: Sides, gains: readonly [left: number, right: number]): Sides => ({
  left: scaled(left, gains[0]),
  right: scaled(right, gains[1]),
  mono: mono && gains[0] === gains[1],
});

export const summed = (a: Sides, b: Sides): Sides => ({ left: added(a.left, b.left), right: added(a.right, b.right), mono: a.mono && b.mono });

const FLOOR = 1e-9;
const amplitudeDb = (amplitude: number): number | null => (amplitude > FLOOR ? 20 * Math.log10(amplitude) : null);

export interface SideDb {
  readonly alikeDb: number | null;
  readonly unlikeDb: number | null;
  readonly peakDb: number | null;
}

export const sideDb = ({ alike, unlike, peak }: Side): SideDb => ({ alikeDb: amplitudeDb(alike), unlikeDb: amplitudeDb(Math.sqrt(unlike)), peakDb: amplitudeDb(peak) });

/** The worst peak of both sides, in dBFS. */
export const worstPeakDb = ({ left, right }: Sides): number | null => amplitudeDb(Math.max(left.peak, right.peak));
