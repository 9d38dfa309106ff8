import type { GainPlan } from "../levels/gain-plan";
import type { ChannelLevels } from "../levels/mix-levels";
import { louderSide, worstPeakDb } from "../levels/sides";
import { dB, formatDb, formatGain } from "../units/decibels";

const one = (db: number): string => formatDb(dB(Math.round(db * 10) / 10));

/**
 * How loud a channel goes out, and how far that is from full scale, in words. @example "−16 dBFS if all is alike, −21.6
 * dBFS if not; peaks at worst −5 dBFS"
 */
export const levelInWords = ({ after }: ChannelLevels): string => {
  const [alike, unlike] = [louderSide(after, ({ alikeDb }) => alikeDb), louderSide(after, ({ unlikeDb }) => unlikeDb)];
  const peak = worstPeakDb(after);
  if (alike === null || unlike === null || peak === null) return "silent";
  const level = alike - unlike < 0.05 ? `${one(alike)}FS` : `${one(alike)}FS if all is alike, ${one(unlike)}FS if not`;
  return `${level}; peaks at ${alike - unlike < 0.05 ? "" : "worst "}${one(peak)}FS`;
};

/** What stands at a node of the picture: where its peaks are at worst. */
export const peakAside = ({ after }: ChannelLevels): string => {
  const peak = worstPeakDb(after);
  return peak === null ? "silent" : `${peak > 0.05 ? "+" : ""}${formatGain(dB(Math.round(peak * 10) / 10))}`;
};

/** What a line brings and the gain that it needs, in words. */
export const gainInWords = ({
  byCable,
  splDb,
  sourceDbu,
  wantedDb,
  range,
  padDb,
  fit,
  levelDb,
  peakDb,
}: GainPlan): string => {
  const comes =
    byCable || splDb === null
      ? `Comes at ${one(sourceDbu)}u`
      : `${one(splDb)} SPL at the microphone, ${one(sourceDbu)}u at the socket`;
  const gain =
    wantedDb === null ? "; what the input takes at full scale is not known" : `; wants ${one(wantedDb)} of gain`;
  const reach =
    fit === "too-weak"
      ? ", more than the preamp has"
      : fit === "too-hot"
        ? ", less than the preamp can"
        : fit === "pad"
          ? `, with the pad of ${padDb} dB`
          : range
            ? ""
            : fit === "clips"
              ? ", and has no gain control: it clips"
              : "";
  return `${comes}${gain}${reach}. Level ${one(levelDb)}FS, peaks ${one(peakDb)}FS.`;
};
