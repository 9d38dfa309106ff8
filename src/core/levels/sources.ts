import type { ChannelId, LineId } from "../model/ids";
import { linesOf, tracksOf } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Channel, Track } from "../model/tables/channels";
import type { Template } from "../model/template";

/** Sources by number: a line for all tracks that take it, both lines of a pair as one; whatever else makes sound by itself; and each return, as what rings there is a sound of its own. */
export interface Sources {
  readonly count: number;
  readonly ofTrack: (track: Track) => number;
  readonly ofChannel: (id: ChannelId) => number;
}

/** Numbers the sources of a template. Linear but for joining pairs that share lines, which is as good as linear. */
export const sourcesOf = (doc: Pick<Template, "lines" | "channels">): Sources => {
  const channels = new Map<ChannelId, number>(entriesOf<Channel>(doc.channels).map(({ id }, at) => [id, at]));
  const first = channels.size;
  const lines = new Map<LineId, number>(linesOf(doc).map(({ id }, at) => [id, at]));
  const joined = Int32Array.from(lines.size ? [...lines.values()] : []);
  const root = (at: number): number => {
    let top = at;
    while (joined[top] !== top) top = joined[top] as number;
    for (let step = at; step !== top; ) {
      const next = joined[step] as number;
      joined[step] = top;
      step = next;
    }
    return top;
  };
  for (const { input } of tracksOf(doc)) {
    if (input.kind !== "pair") continue;
    const [left, right] = [lines.get(input.leftId), lines.get(input.rightId)];
    if (left !== undefined && right !== undefined) joined[root(right)] = root(left);
  }
  const ofChannel = (id: ChannelId): number => channels.get(id) ?? 0;
  return {
    count: first + lines.size,
    ofChannel,
    ofTrack: ({ id, input }) => {
      const line = input.kind === "line" ? lines.get(input.lineId) : input.kind === "pair" ? lines.get(input.leftId) : undefined;
      return line === undefined ? ofChannel(id) : first + root(line);
    },
  };
};
