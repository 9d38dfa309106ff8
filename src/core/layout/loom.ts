import type { Colour } from "../model/colours";
import type { ChannelId, LineId, PortId } from "../model/ids";
import type { Row } from "./rows";

export interface Thread {
  readonly lineId: LineId;
  readonly portId: PortId;
  readonly trackId: ChannelId;
  readonly colour: Colour;
  /** Heights at the jack and at the row, in pixels from the top of the loom. */
  readonly fromY: number;
  readonly toY: number;
}

/** How far apart the two threads of a stereo row end, in pixels. */
const PAIR_SPREAD = 6;

/**
 * The threads from jacks to rows. Heights of jacks by port and of rows by index are given by whoever lays them out; a
 * line whose port or row is not shown has no thread. Linear in rows.
 */
export const loomThreads = (
  rows: readonly Row[],
  heights: { readonly inputY: ReadonlyMap<PortId, number>; readonly rowY: (index: number) => number },
): readonly Thread[] =>
  rows.flatMap((row, index) => {
    if (row.kind !== "track") return [];
    return row.lines.flatMap((line, at) => {
      const fromY = line.portId ? heights.inputY.get(line.portId) : undefined;
      if (fromY === undefined || !line.portId) return [];
      const offset = row.lines.length === 2 ? (at - 0.5) * PAIR_SPREAD : 0;
      return [
        {
          lineId: line.id,
          portId: line.portId,
          trackId: row.track.id,
          colour: row.colour,
          fromY,
          toY: heights.rowY(index) + offset,
        },
      ];
    });
  });

/** A thread as an SVG path over a loom of a given width: leaves the jack and meets the row level. */
export const threadPath = (thread: Pick<Thread, "fromY" | "toY">, width: number): string => {
  const middle = width / 2;
  return `M0 ${thread.fromY}C${middle} ${thread.fromY} ${middle} ${thread.toY} ${width} ${thread.toY}`;
};
