import { perDocument } from "./per-document";
import { saidName } from "./said-name";

/** Whether a name says at its end which side it is of. */
export const endsInSide = (name: string): boolean => /\b[lr]$/i.test(name);

interface Source {
  readonly id: string;
  readonly source: string;
}

interface Taker {
  readonly name: string;
  readonly input: {
    readonly kind: string;
    readonly lineId?: string;
    readonly leftId?: string;
    readonly rightId?: string;
  };
}

/**
 * What to call a line in a sentence: its source, with L or R when it is half of a pair. Without a source, the name of
 * its track.
 */
export const lineName = (line: Source, tracks: readonly Taker[]): string => {
  const track = tracks[0];
  const base = line.source || track?.name || "A line without a name";
  if (track?.input.kind !== "pair" || endsInSide(line.source || saidName(track))) return base;
  return `${base} ${track.input.leftId === line.id ? "L" : "R"}`;
};

/** The first track, by order, that takes each line: worked out once for a table of channels, in one walk. */
export const takersIn = perDocument((channels: Readonly<Record<string, unknown>>): ReadonlyMap<string, Taker> => {
  const found = new Map<string, Taker & { readonly order: string }>();
  for (const channel of Object.values(channels) as readonly (Taker & { readonly order: string })[])
    for (const id of [channel.input?.lineId, channel.input?.leftId, channel.input?.rightId]) {
      const there = id === undefined ? undefined : found.get(id);
      if (id !== undefined && (!there || channel.order < there.order)) found.set(id, channel);
    }
  return found;
});
