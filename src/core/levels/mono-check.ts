import { plain } from "../model/families";
import type { ChannelId, CueId } from "../model/ids";
import { isParked, linesOfTrack, tracksOf } from "../model/read-template";
import { entriesOf, putInto } from "../model/table";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Channel, Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { faderDbWhen, worksWhen } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { levelIn } from "../queries/cues";
import { drumOf, isBelow } from "../queries/drum-sides";
import { graphOf } from "../routing/graph";
import { upFrom } from "../routing/reach";
import { panAmplitudes } from "./pan";
import { isMono } from "./passing";
import { chainGain } from "./static-gain";

/** What falls out where somebody listens in mono. */
export interface Fallen {
  readonly ids: readonly ChannelId[];
  readonly name: string;
  /** One channel off centre; the two sides of a stereo one; or two channels of one source. */
  readonly of: "single" | "sides" | "pair";
  /** How much of it is lost, in dB below what both loudspeakers give of it; null where all of it is. */
  readonly fallDb: number | null;
}

/** Amplitudes on the left and on the right, with their polarity. */
type Placed = readonly [left: number, right: number];

const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));
const FLOOR = 1e-6;

/**
 * How far what is alike on two sides falls when they are summed to one, in dB: 20·log10( |Σl + Σr| / √2 ÷ √((Σl)² +
 * (Σr)²) ), where a turned polarity makes an amplitude negative. In the centre 0, hard to one side −3.01, equal on both
 * sides 0, equal and of opposite polarity null: nothing is left. What is silent already, or cancels in stereo as well,
 * loses nothing: 0.
 */
export const monoFallDb = (placed: readonly Placed[]): number | null => {
  const sum = (of: (one: Placed) => number): number => placed.reduce((all, one) => all + of(one), 0);
  const heard = Math.hypot(
    sum(([left]) => left),
    sum(([, right]) => right),
  );
  if (heard < FLOOR) return 0;
  const left = Math.abs(sum(([l, r]) => l + r)) / Math.SQRT2 / heard;
  return left < FLOOR ? null : 20 * Math.log10(left);
};

const signOf = (doc: Template, channel: Channel): number => {
  const chain = chainGain(processorsOf(doc, channel.id), (processor) => worksWhen(doc, processor, "mixing"));
  return (channel.kind !== "main" && channel.polarityTurned ? -1 : 1) * (chain < 0 ? -1 : 1);
};

interface Standing {
  readonly level: number;
  readonly pan: number;
}

/** Where the two sides of a track stand, each with its polarity; of a mono one there is one. */
const placesOf = (doc: Template, track: Track, { level, pan }: Standing): readonly Placed[] => {
  const turned = linesOfTrack(doc, track).map(({ polarityInverted }) => (polarityInverted ? -1 : 1));
  const whole = level * signOf(doc, track);
  if (isMono(doc, track)) {
    const [left, right] = panAmplitudes(doc.mix.panLawDb, pan);
    const one = whole * (turned[0] ?? 1);
    return [[left * one, right * one]];
  }
  return [
    [Math.min(1, 1 - pan / 100) * whole * (turned[0] ?? 1), 0],
    [0, Math.min(1, 1 + pan / 100) * whole * (turned[1] ?? turned[0] ?? 1)],
  ];
};

/** Two tracks of one source: what is written of their lines is the same, or two and no more are held together. */
const pairsOf = (doc: Template, tracks: readonly Track[]): readonly (readonly [Track, Track])[] => {
  const groups = new Map<string, Track[]>();
  for (const track of tracks) {
    const [line] = linesOfTrack(doc, track);
    if (track.gangId) putInto(groups, `held ${track.gangId}`, track);
    else if (drumOf(line?.source ?? "") && track.sharing !== "by-turns")
      putInto(groups, `source ${drumOf(line?.source ?? "")} of ${plain(line?.player ?? "")}`, track);
  }
  return [...groups.values()].flatMap((group) =>
    group.length === 2 && group[0] && group[1] ? [[group[0], group[1]] as const] : [],
  );
};

const fallen = (
  doc: Template,
  tracks: readonly Track[],
  standing: (track: Track) => Standing | null,
): readonly Fallen[] => {
  const heard = tracks.flatMap((track) => {
    const stands = standing(track);
    return stands && stands.level > 0 ? [{ track, places: placesOf(doc, track, stands) }] : [];
  });
  const places = new Map(heard.map(({ track, places: own }) => [track.id, own]));
  const pairs = pairsOf(
    doc,
    heard.map(({ track }) => track),
  );
  const paired = new Set<string>(pairs.flat().map(({ id }) => id));
  const singles = heard.filter(({ track }) => !paired.has(track.id));
  const all: readonly Fallen[] = [
    ...pairs.map(([a, b]): Fallen => {
      // What a skin does reaches the microphone below it the other way round.
      const below = isBelow(a.name) === isBelow(b.name) ? 1 : -1;
      const other = (places.get(b.id) ?? []).map(([left, right]): Placed => [left * below, right * below]);
      return {
        ids: [a.id, b.id],
        name: `${a.name} and ${b.name}`,
        of: "pair",
        fallDb: monoFallDb([...(places.get(a.id) ?? []), ...other]),
      };
    }),
    ...singles.map(
      ({ track, places: own }): Fallen => ({
        ids: [track.id],
        name: track.name,
        of: own.length > 1 ? "sides" : "single",
        fallDb: monoFallDb(own),
      }),
    ),
  ];
  return all
    .filter(({ fallDb }) => fallDb === null || fallDb < -0.05)
    .sort((a, b) => (a.fallDb ?? Number.NEGATIVE_INFINITY) - (b.fallDb ?? Number.NEGATIVE_INFINITY));
};

/**
 * What of the main mix falls out in mono, most of it first: by pan, balance and polarity of each track, and of each two
 * that take one source. What lies between a track and the main bus is taken as straight.
 */
export const monoOfMain = (doc: Template): readonly Fallen[] => {
  const reaches = upFrom(graphOf(doc), MAIN_ID).channels;
  const tracks = tracksOf(doc).filter((track) => !isParked(track) && !track.muted && reaches.has(track.id));
  return fallen(doc, tracks, (track) => ({ level: amplitude(faderDbWhen(doc, track, "mixing")), pan: track.pan }));
};

/** What of a cue falls out in mono, as one ear of it hears: by the pan that each track has in it. */
export const monoOfCue = (doc: Template, cueId: CueId): readonly Fallen[] => {
  const tracks = tracksOf(doc).filter((track) => !isParked(track));
  return fallen(doc, tracks, ({ id }) => {
    const level = levelIn(doc, { cueId, sourceId: id });
    return level?.on ? { level: amplitude(level.levelDb), pan: level.pan } : null;
  });
};

/** What a row of levels loses in mono: the main bus or a cue; null for what is neither. */
export const monoOf = (doc: Template, id: string): readonly Fallen[] | null =>
  id === MAIN_ID
    ? monoOfMain(doc)
    : entriesOf(doc.cues).some((cue) => cue.id === id)
      ? monoOfCue(doc, id as CueId)
      : null;
