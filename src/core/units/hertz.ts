/** Sample rate in hertz: one of {@link SAMPLE_RATES_HZ}. */
export type SampleRateHz = 44100 | 48000 | 88200 | 96000 | 176400 | 192000;

export const SAMPLE_RATES_HZ: readonly SampleRateHz[] = [44100, 48000, 88200, 96000, 176400, 192000];

/**
 * A rate as the trade writes it: kilohertz, as few digits as say it.
 * @example formatRate(44100) // "44.1 kHz"
 */
export const formatRate = (rateHz: SampleRateHz): string => `${rateHz / 1000} kHz`;

/**
 * A frequency as it is shown: kilohertz from 1 kHz on, with three figures.
 * @example formatHz(9500) // "9.5 kHz"
 */
export const formatHz = (hz: number): string =>
  hz < 1000 ? `${Math.round(hz * 10) / 10} Hz` : `${Math.round(hz / 10) / 100} kHz`;

/**
 * A frequency as it is typed: Hz, or kHz with a k. Null for what is none from 10 Hz to 40 kHz.
 * @example readHz("1.2 kHz") // 1200
 */
export const readHz = (text: string): number | null => {
  const word = text.trim().toLowerCase().replace(/hz$/, "").trim();
  const kilo = word.endsWith("k");
  const number = Number((kilo ? word.slice(0, -1) : word).replace(",", ".").trim());
  const hz = Math.round((kilo ? number * 1000 : number) * 100) / 100;
  return word && Number.isFinite(hz) && hz >= 10 && hz <= 40_000 ? hz : null;
};
