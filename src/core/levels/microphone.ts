/** What V is in dBu: `20·log10(V/√0.6)`. */
export const voltsToDbu = (volts: number): number => 20 * Math.log10(volts / Math.sqrt(0.6));

/**
 * What a microphone gives: `V = S/1000 · 10^((SPL−94)/20)`, S in mV/Pa, as dBu.
 * @example 2.0 mV/Pa at 114 dB SPL: −31.761 dBu
 */
export const microphoneDbu = (sensitivityMvPerPa: number, splDb: number): number =>
  voltsToDbu((sensitivityMvPerPa / 1000) * 10 ** ((splDb - 94) / 20));

/**
 * How much louder it is at a distance than at one metre, in the direct field: `−20·log10(r/r0)`. @example 0.3 m: +10.46
 * dB
 */
export const distanceDb = (distanceM: number, fromM = 1): number => -20 * Math.log10(distanceM / fromM);

/**
 * How far direct sound carries in a room before what the room gives back is as loud, in metres: `0.057·√(V/T)`, V in
 * m³, T the reverberation time in seconds (a source without direction).
 * @example 198.4 m³ and 0.6 s: 1.0365 m
 */
export const criticalDistanceM = (volumeM3: number, decayS: number): number => 0.057 * Math.sqrt(volumeM3 / decayS);

/**
 * From how far away a source is heard as loud as it is at a distance: not nearer than it is large, and in a room not
 * farther than its direct sound carries, where what the room gives back is as loud everywhere. All in metres.
 */
export const heardFromM = (
  distanceM: number,
  { nearestM, farthestM }: { readonly nearestM: number; readonly farthestM: number | null },
): number => Math.max(nearestM, Math.min(distanceM, farthestM ?? distanceM));

/** Of a full-scale sine, peak and RMS are this far apart, in dB: `10·log10 2`. */
const SINE_CREST_DB = 10 * Math.log10(2);

/**
 * Where the peaks of something stand, dBFS: `RMS + crest − 3.01`, since a full-scale sine has 0 dBFS RMS (AES17).
 * @example −18 with a crest of 14: −7.01
 */
export const peakDb = (rmsDb: number, crestDb: number): number => rmsDb + crestDb - SINE_CREST_DB;

/**
 * The gain that brings a source to a target: `target dBFS + dBu at full scale − source dBu`. @example −18, +18 and
 * −31.76 dBu: +31.76 dB
 */
export const gainToSet = ({
  targetDb,
  fullScaleDbu,
  sourceDbu,
}: {
  readonly targetDb: number;
  readonly fullScaleDbu: number;
  readonly sourceDbu: number;
}): number => targetDb + fullScaleDbu - sourceDbu;
