import type { PortId } from "../model/ids";
import { LEVELS, type Level } from "../model/microphone-kinds";
import { portLabel } from "../model/read-rig";
import type { Rig } from "../model/rig";
import type { ByRate } from "../model/rig-values";
import { entriesOf } from "../model/table";
import type { Port } from "../model/tables/ports";
import type { Measured } from "../model/tables/timing";
import { SAMPLE_RATES_HZ, type SampleRateHz } from "../units/hertz";

/** A number within a range. Null when it is none; an empty cell is no number. */
export const readNumber = (
  text: string,
  { min, max, whole = false }: { readonly min: number; readonly max: number; readonly whole?: boolean },
): number | null => {
  const value = Number(
    text
      .trim()
      .replace("−", "-")
      .replace(",", ".")
      .replace(/(dB|dBu|ms|samples|mV\/Pa)$/i, "")
      .trimEnd(),
  );
  return text.trim() && Number.isFinite(value) && value >= min && value <= max && (!whole || Number.isInteger(value))
    ? value
    : null;
};

/** A range of gain: "0 to 62", "6-60", "−12…40". Null when it is none. */
export const readRange = (text: string): { readonly min: number; readonly max: number } | null => {
  const found =
    /^([+\-−]?\d{1,9}(?:[.,]\d{1,9})?) ?(?:to|bis|à|\.\.\.?|…|-|–) ?([+\-−]?\d{1,9}(?:[.,]\d{1,9})?) ?(?:dB)?$/i.exec(
      text.replace(/\s+/g, " ").trim(),
    );
  if (!found) return null;
  const [min, max] = [
    readNumber(found[1] ?? "", { min: -120, max: 120 }),
    readNumber(found[2] ?? "", { min: -120, max: 120 }),
  ];
  return min !== null && max !== null && min <= max ? { min, max } : null;
};

/**
 * One figure for all rates, or three parted by slashes: single, double and quadruple rates. @example
 * readByRate("16/20/24", …)
 */
export const readByRate = (text: string, range: Parameters<typeof readNumber>[1]): ByRate | null => {
  const figures = text.split("/").map((part) => readNumber(part, range));
  const [single, double = single, quadruple = double] = figures;
  return figures.length <= 3 &&
    single !== null &&
    single !== undefined &&
    double !== null &&
    double !== undefined &&
    quadruple !== null &&
    quadruple !== undefined
    ? { single, double, quadruple }
    : null;
};

export const byRateText = ({ single, double, quadruple }: ByRate): string =>
  single === double && double === quadruple ? String(single) : `${single}/${double}/${quadruple}`;

/** Sizes of buffers: whole numbers in any order, parted by spaces or commas. */
export const readSizes = (text: string): readonly number[] | null => {
  const parts = text.split(/[\s,;]+/).filter(Boolean);
  const sizes = parts.map((part) => readNumber(part, { min: 1, max: 65_536, whole: true }));
  return sizes.every((size): size is number => size !== null) ? [...new Set(sizes)].sort((a, b) => a - b) : null;
};

/** Sample rates in kHz, parted by spaces, commas or slashes: "44.1 48 96". Null when one is none, or there is none. */
export const readRates = (text: string): readonly SampleRateHz[] | null => {
  const parts = text
    .replace(/khz/gi, " ")
    .split(/[\s;/]+|,\s/)
    .filter(Boolean);
  const rates = parts.map((part) =>
    SAMPLE_RATES_HZ.find((rate) => Math.abs(rate - Number(part.replace(",", ".")) * 1000) < 1),
  );
  return rates.length && rates.every((rate): rate is SampleRateHz => rate !== undefined)
    ? SAMPLE_RATES_HZ.filter((rate) => rates.includes(rate))
    : null;
};

export const measuredText = ({ ms, rateHz, bufferSamples }: Measured): string =>
  `${ms} ms at ${rateHz / 1000} kHz, ${bufferSamples}`;

/**
 * What a loop-back measured: milliseconds, the rate in kHz and the buffer in samples, in this order whatever words
 * stand between. @example "5.2 ms at 48 kHz, 64"
 */
export const readMeasured = (text: string): Measured | null => {
  const numbers = text.match(/\d+(?:[.,]\d+)?/g)?.map((word) => Number(word.replace(",", "."))) ?? [];
  const [ms, rate, bufferSamples] = numbers;
  if (numbers.length !== 3 || ms === undefined || rate === undefined || bufferSamples === undefined) return null;
  const rateHz = SAMPLE_RATES_HZ.find((one) => Math.abs(one - (rate < 1000 ? rate * 1000 : rate)) < 1);
  const fits = ms <= 10_000 && Number.isInteger(bufferSamples) && bufferSamples >= 1 && bufferSamples <= 65_536;
  return rateHz && fits ? { ms, rateHz, bufferSamples } : null;
};

/** Levels as words: "microphone, line". Null when one is unknown or there is none. */
export const readLevels = (text: string): readonly Level[] | null => {
  const words = text.split(/[^a-z]+/i).filter((word) => word && word !== "and");
  const levels = words.map((word) => LEVELS.find((level) => level.startsWith(word.toLowerCase())));
  return levels.length && levels.every((level): level is Level => level !== undefined)
    ? LEVELS.filter((level) => levels.includes(level))
    : null;
};

const expand = (part: string): readonly string[] => {
  const found = /^(\D*)(\d+)(?:-|–)(?:\D*)(\d+)$/.exec(part);
  if (!found) return [part];
  const [, prefix = "", from = "", to = ""] = found;
  const count = Number(to) - Number(from) + 1;
  return count > 0 && count <= 64 ? Array.from({ length: count }, (_, at) => `${prefix}${Number(from) + at}`) : [part];
};

/** The ports that a text names by their labels: "3-4", "1, 2", "E5". The answer names the first that the rig lacks. */
export const readPorts = (
  rig: Rig,
  text: string,
  direction: Port["direction"],
): { readonly ok: true; readonly portIds: readonly PortId[] } | { readonly ok: false; readonly missing: string } => {
  const byLabel = new Map(
    entriesOf(rig.ports).flatMap((port) =>
      port.direction === direction && port.running !== null
        ? [[portLabel(rig, port).toLowerCase(), port.id] as const]
        : [],
    ),
  );
  const labels = text
    .replace(/\s+/g, " ")
    .split(/[,;+]| and /)
    .map((part) => part.trim().replace(/\s+/g, ""))
    .filter(Boolean)
    .flatMap(expand);
  const missing = labels.find((label) => !byLabel.has(label.toLowerCase()));
  if (missing !== undefined) return { ok: false, missing };
  return { ok: true, portIds: labels.flatMap((label) => byLabel.get(label.toLowerCase()) ?? []) };
};

/** Ports by their labels, runs of neighbours drawn together: "3–4, 7". */
export const portsText = (rig: Rig, portIds: readonly PortId[]): string => {
  const ports = portIds.flatMap((id) => rig.ports[id] ?? []);
  const runs: Port[][] = [];
  for (const port of ports) {
    const last = runs.at(-1)?.at(-1);
    if (last && last.deviceId === port.deviceId && last.role === port.role && last.number + 1 === port.number)
      runs.at(-1)?.push(port);
    else runs.push([port]);
  }
  return runs
    .map((run) =>
      run.length > 1 && run[0]
        ? `${portLabel(rig, run[0])}-${run.at(-1)?.number}`
        : run[0]
          ? portLabel(rig, run[0])
          : "",
    )
    .join(", ");
};
