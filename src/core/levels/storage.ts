import type { ChannelId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import type { BitDepth } from "../model/session-kinds";
import type { Layout, Track } from "../model/tables/channels";
import type { Pass } from "../model/tables/passes";
import type { Template } from "../model/template";
import { passesOf } from "../queries/cues";
import { layoutOf } from "../queries/layouts";

/** A plain WAV file ends here: its sizes are 32-bit numbers. */
export const WAV_END_BYTES = 4_294_967_295;

const SIDES: { readonly [L in Layout]: number } = { mono: 1, stereo: 2, "5.1": 6 };

/** `channels · fs · bits/8`. @example 24 mono tracks at 48 kHz and 24 bit: 3,456,000 */
export const bytesPerSecond = (channels: number, { sampleRateHz, bitDepth }: { readonly sampleRateHz: number; readonly bitDepth: BitDepth }): number =>
  (channels * sampleRateHz * bitDepth) / 8;

/** How many channels of sound a track's file has. */
export const fileChannels = (doc: Pick<Template, "channels" | "format">, track: Track): number => SIDES[layoutOf(doc, track)];

/** How long one take can be before a plain WAV file ends, in seconds. @example stereo at 96 kHz and 24 bit: 2 h 4 min */
export const longestTakeS = (channels: number, format: Pick<Template["format"], "sampleRateHz" | "bitDepth">): number => WAV_END_BYTES / bytesPerSecond(channels, format);

export interface PassStorage {
  readonly tracks: number;
  readonly channels: number;
  readonly bytesPerSecond: number;
  /** All its takes. */
  readonly minutes: number;
  readonly bytes: number;
}

/** What a pass puts on the disk: bytes a second of all that it arms, and of all its takes. */
export const passStorage = (doc: Pick<Template, "channels" | "format">, { trackIds, takeMinutes, takes }: Pass): PassStorage => {
  const tracks = trackIds.flatMap((id) => (doc.channels[id]?.kind === "track" ? [doc.channels[id] as Track] : []));
  const channels = tracks.reduce((sum, track) => sum + fileChannels(doc, track), 0);
  const perSecond = bytesPerSecond(channels, doc.format);
  return { tracks: tracks.length, channels, bytesPerSecond: perSecond, minutes: takeMinutes * takes, bytes: perSecond * takeMinutes * takes * 60 };
};

export interface TrackStorage {
  readonly trackId: ChannelId;
  readonly channels: number;
  readonly bytesPerSecond: number;
  readonly longestTakeS: number;
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
  /** Seconds until the first plain file ends; null where nothing is recorded. */
  readonly firstEndS: number | null;
  /** Seconds of everything at once that fit on the disk; null where nobody has said how much is free. */
  readonly fitsS: number | null;
}

/** Tracks that record something and are in use. */
const recording = (doc: Pick<Template, "channels">): readonly Track[] => tracksOf(doc).filter(({ input, parked }) => input.kind !== "none" && !parked);

/** Those that record at once: of tracks that take one line by turns one. */
const atOnce = (tracks: readonly Track[]): readonly Track[] => {
  const taken = new Set<string>();
  return tracks.filter(({ input, sharing }) => {
    const line = input.kind === "line" ? input.lineId : input.kind === "pair" ? input.leftId : null;
    if (line === null) return true;
    const waits = sharing === "by-turns" && taken.has(line);
    taken.add(line);
    return !waits;
  });
};

/**
 * What an evening puts on the disk: bytes a second of all that record at once, an hour, so many hours with so many takes, the passes; how long a take can be until
 * a plain WAV ends at 4,294,967,295 bytes, by track, and how much fits on what is free.
 * @example 24 mono tracks at 48 kHz and 24 bit: 12.4416 GB an hour
 */
export const storageOf = (doc: Pick<Template, "channels" | "format" | "disk" | "passes">): Storage => {
  const all = recording(doc);
  const perSecond = atOnce(all).reduce((sum, track) => sum + bytesPerSecond(fileChannels(doc, track), doc.format), 0);
  const tracks = all.map((track): TrackStorage => {
    const channels = fileChannels(doc, track);
    return { trackId: track.id, channels, bytesPerSecond: bytesPerSecond(channels, doc.format), longestTakeS: longestTakeS(channels, doc.format) };
  });
  const passes = passesOf(doc);
  const freeBytes = doc.disk.freeGb === null ? null : doc.disk.freeGb * 1e9;
  return {
    bytesPerSecond: perSecond,
    bytesPerHour: perSecond * 3600,
    eveningBytes: perSecond * 3600 * doc.disk.hours * doc.disk.takes,
    passesBytes: passes.length ? passes.reduce((sum, pass) => sum + passStorage(doc, pass).bytes, 0) : null,
    freeBytes,
    tracks,
    firstEndS: tracks.length ? Math.min(...tracks.map((track) => track.longestTakeS)) : null,
    fitsS: freeBytes === null || perSecond === 0 ? null : freeBytes / perSecond,
  };
};
