import type { ChannelId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import type { BitDepth } from "../model/session-kinds";
import type { Layout } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Pass } from "../model/tables/passes";
import type { Template } from "../model/template";
import { passesOf } from "../queries/cues";
import { layoutOf } from "../queries/layouts";

/** A plain WAV file ends here: its sizes are 32-bit numbers. */
export const WAV_END_BYTES = 4_294_967_295;

const SIDES: { readonly [L in Layout]: number } = { mono: 1, stereo: 2, "5.1": 6 };

/** `channels · fs · bits/8`. @example 24 mono tracks at 48 kHz and 24 bit: 3,456,000 */
export const bytesPerSecond = (
  channels: number,
  { sampleRateHz, bitDepth }: { readonly sampleRateHz: number; readonly bitDepth: BitDepth },
): number => (channels * sampleRateHz * bitDepth) / 8;

/** How many channels of sound a track's file has. */
export const fileChannels = (doc: Pick<Template, "channels" | "format">, track: Track): number =>
  SIDES[layoutOf(doc, track)];

type Written = Pick<Template["format"], "sampleRateHz" | "bitDepth" | "fileType">;

/** How long a plain WAV file is when it ends, in seconds. @example stereo at 96 kHz and 24 bit: 2 h 4 min */
export const fileEndsAfterS = (channels: number, format: Omit<Written, "fileType">): number =>
  WAV_END_BYTES / bytesPerSecond(channels, format);

/**
 * How long one take can be, in seconds: of a plain WAV file until it ends; what goes on past that, or into the next
 * file, has no end. Null for no end.
 */
export const longestTakeS = (channels: number, format: Written): number | null =>
  format.fileType === "wav" ? fileEndsAfterS(channels, format) : null;

export interface PassStorage {
  readonly tracks: number;
  readonly channels: number;
  readonly bytesPerSecond: number;
  /** All its takes. */
  readonly minutes: number;
  readonly bytes: number;
}

/**
 * What a pass puts on the disk: bytes a second of all that it arms and that records something, and of all its takes.
 * What is parked, or takes nothing, costs nothing.
 */
export const passStorage = (
  doc: Pick<Template, "channels" | "format">,
  { trackIds, takeMinutes, takes }: Pass,
): PassStorage => {
  const armed = trackIds.flatMap((id) => (doc.channels[id]?.kind === "track" ? [doc.channels[id] as Track] : []));
  const tracks = atOnce(doc, armed.filter(records));
  const channels = tracks.reduce((sum, track) => sum + fileChannels(doc, track), 0);
  const perSecond = bytesPerSecond(channels, doc.format);
  return {
    tracks: tracks.length,
    channels,
    bytesPerSecond: perSecond,
    minutes: takeMinutes * takes,
    bytes: perSecond * takeMinutes * takes * 60,
  };
};

export interface TrackStorage {
  readonly trackId: ChannelId;
  readonly channels: number;
  readonly bytesPerSecond: number;
  /** Null for no end. */
  readonly longestTakeS: number | null;
  /** Of what is written in parts: how long each file is at most. */
  readonly fileS: number | null;
}

export interface Storage {
  /** With everything that records armed at once. */
  readonly bytesPerSecond: number;
  readonly bytesPerHour: number;
  /** So many hours, each thing so often. */
  readonly eveningBytes: number;
  /** All passes with all their takes; null where there are none. */
  readonly passesBytes: number | null;
  readonly freeBytes: number | null;
  readonly tracks: readonly TrackStorage[];
  readonly fileType: Template["format"]["fileType"];
  /** Seconds until the first take must end; null where nothing is recorded, or none must. */
  readonly firstEndS: number | null;
  /** Seconds of everything at once that fit on the disk; null where nobody has said how much is free. */
  readonly fitsS: number | null;
}

/** Whether a track records something and is in use. */
const records = ({ input, parked }: Track): boolean => input.kind !== "none" && !parked;

const lineOf = ({ input }: Track): string | null =>
  input.kind === "line" ? input.lineId : input.kind === "pair" ? input.leftId : null;

/**
 * Those that record at once: of tracks that take one line by turns the largest, as any of them may be the one that
 * runs.
 */
const atOnce = (doc: Pick<Template, "channels" | "format">, tracks: readonly Track[]): readonly Track[] => {
  const largest = new Map<string, Track>();
  for (const track of tracks) {
    const line = track.sharing === "by-turns" ? lineOf(track) : null;
    const there = line === null ? undefined : largest.get(line);
    if (line !== null && (!there || fileChannels(doc, track) > fileChannels(doc, there))) largest.set(line, track);
  }
  return tracks.filter((track) => {
    const line = track.sharing === "by-turns" ? lineOf(track) : null;
    return line === null || largest.get(line) === track;
  });
};

/**
 * What an evening puts on the disk: bytes a second of all that record at once, an hour, so many hours with so many
 * takes, the passes; how long a take can be by the file type of takes (a plain WAV ends at 4,294,967,295 bytes), by
 * track, and how much fits on what is free.
 * @example 24 mono tracks at 48 kHz and 24 bit: 12.4416 GB an hour
 */
export const storageOf = (doc: Pick<Template, "channels" | "format" | "disk" | "passes">): Storage => {
  const all = tracksOf(doc).filter(records);
  const perSecond = atOnce(doc, all).reduce(
    (sum, track) => sum + bytesPerSecond(fileChannels(doc, track), doc.format),
    0,
  );
  const tracks = all.map((track): TrackStorage => {
    const channels = fileChannels(doc, track);
    return {
      trackId: track.id,
      channels,
      bytesPerSecond: bytesPerSecond(channels, doc.format),
      longestTakeS: longestTakeS(channels, doc.format),
      fileS: doc.format.fileType === "split" ? fileEndsAfterS(channels, doc.format) : null,
    };
  });
  const passes = passesOf(doc);
  const ends = tracks.flatMap((track) => track.longestTakeS ?? []);
  const freeBytes = doc.disk.freeGb === null ? null : doc.disk.freeGb * 1e9;
  return {
    bytesPerSecond: perSecond,
    bytesPerHour: perSecond * 3600,
    eveningBytes: perSecond * 3600 * doc.disk.hours * doc.disk.takes,
    passesBytes: passes.length ? passes.reduce((sum, pass) => sum + passStorage(doc, pass).bytes, 0) : null,
    freeBytes,
    tracks,
    fileType: doc.format.fileType,
    firstEndS: ends.length ? Math.min(...ends) : null,
    fitsS: freeBytes === null || perSecond === 0 ? null : freeBytes / perSecond,
  };
};
