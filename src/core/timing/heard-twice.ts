/** A sound and a later copy of it. */
export interface Doubled {
  /** How much later the copy is, in ms; above 0. */
  readonly lagMs: number;
  /** Levels of the two, in dB. */
  readonly firstDb: number;
  readonly secondDb: number;
  /** Whether one of the two is inverted. */
  readonly opposite: boolean;
}

const amplitude = (db: number): number => 10 ** (db / 20);
const inDb = (value: number): number => 20 * Math.log10(Math.max(value, 1e-12));

/**
 * How loud a sound and its later copy are together at a frequency, in dB: `|A ± B·e^(−jωτ)|`, minus where one is turned
 * over.
 * @example 2.5 ms apart, 0 and −6 dB, opposite: −6.04 dB at 400 Hz, +3.53 at 200
 */
export const doubledDb = ({ lagMs, firstDb, secondDb, opposite }: Doubled, hz: number): number => {
  const [a, b] = [amplitude(firstDb), (opposite ? -1 : 1) * amplitude(secondDb)];
  const angle = (2 * Math.PI * hz * lagMs) / 1000;
  return inDb(Math.hypot(a + b * Math.cos(angle), b * Math.sin(angle)));
};

/** Where it is quietest: the first `1/(2τ)`, then every `1/τ`; with one inverted at 0, `1/τ`, … In Hz. */
export const notchesHz = ({
  lagMs,
  opposite,
}: Pick<Doubled, "lagMs" | "opposite">): { readonly firstHz: number; readonly spacingHz: number } => {
  const spacingHz = 1000 / lagMs;
  return { firstHz: opposite ? 0 : spacingHz / 2, spacingHz };
};

/**
 * The loudest and the quietest that comes of it, in dB: the sum and the difference of the two amplitudes. @example 0
 * and −12 dB: +1.95 and −2.51
 */
export const swingDb = ({
  firstDb,
  secondDb,
}: Pick<Doubled, "firstDb" | "secondDb">): { readonly peakDb: number; readonly notchDb: number } => {
  const [a, b] = [amplitude(firstDb), amplitude(secondDb)];
  return { peakDb: inDb(a + b), notchDb: inDb(Math.abs(a - b)) };
};

/**
 * How far the notches of both lie below the louder of them, in dB: `20·log10(1 − r)`, r the quieter as a share of the
 * louder. @example 0 and −12 dB: −2.51
 */
export const notchDepthDb = ({ firstDb, secondDb }: Pick<Doubled, "firstDb" | "secondDb">): number =>
  inDb(1 - amplitude(-Math.abs(firstDb - secondDb)));

/** Speed of sound at 20 °C in m/s. */
export const SOUND_M_S = 343;
/** How far sound goes in air meanwhile, in metres. @example metresIn(3) // 1.029 */
export const metresIn = (ms: number): number => (SOUND_M_S * ms) / 1000;
