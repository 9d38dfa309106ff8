/** Levels in dB; null is silence. */
type Level = number | null;

const inDb = (power: number): Level => (power > 1e-24 ? 10 * Math.log10(power) : null);

/** As loud as signals are together that are alike: amplitudes add. Null where all are silent. @example four at −18: −5.96 */
export const sumAlike = (levels: readonly Level[]): Level => inDb(levels.reduce<number>((sum, db) => sum + (db === null ? 0 : 10 ** (db / 20)), 0) ** 2);

/** As loud as signals are together that are not alike: powers add. Never more than alike. @example four at −18: −11.98 */
export const sumUnlike = (levels: readonly Level[]): Level => inDb(levels.reduce<number>((sum, db) => sum + (db === null ? 0 : 10 ** (db / 10)), 0));
