import { saidName } from "./said-name";

/** Whether a name says at its end which side it is of. */
export const endsInSide = (name: string): boolean => /\b[lr]$/i.test(name);

interface Source {
  readonly id: string;
  readonly source: string;
}

interface Taker {
  readonly name: string;
  readonly input: { readonly kind: string; readonly leftId?: string };
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
