import type { ChannelId, LineId } from "../model/ids";
import { perTwo } from "../model/per-document";
import { linesOf, tracksOf } from "../model/read-template";
import { differingIds, listOf } from "../model/table";
import type { Channel, Track } from "../model/tables/channels";
import type { Template } from "../model/template";

/**
 * Sources by number: a line for all tracks that take it, both lines of a pair as one; whatever else makes sound by
 * itself; and each return, as what rings there is a sound of its own.
 */
export interface Sources {
  readonly count: number;
  readonly ofTrack: (track: Track) => number;
  readonly ofChannel: (id: ChannelId) => number;
}

const numbered = (doc: Pick<Template, "lines" | "channels">): Sources => {
  const channels = new Map<ChannelId, number>(listOf<Channel>(doc.channels).map(({ id }, at) => [id, at]));
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
      const line =
        input.kind === "line" ? lines.get(input.lineId) : input.kind === "pair" ? lines.get(input.leftId) : undefined;
      return line === undefined ? ofChannel(id) : first + root(line);
    },
  };
};

interface Numbered extends Sources {
  readonly lines: Template["lines"];
  readonly channels: Template["channels"];
}

const takesTheSame = (was: Channel | undefined, is: Channel | undefined): boolean =>
  was !== undefined &&
  is !== undefined &&
  was.kind === is.kind &&
  (was.kind !== "track" ||
    is.kind !== "track" ||
    was.input === is.input ||
    JSON.stringify(was.input) === JSON.stringify(is.input));

/** Whether the numbers of before are those of now: nothing came or went, and every track takes what it took. */
const stays = (before: Numbered, lines: Template["lines"], channels: Template["channels"]): boolean =>
  differingIds(before.lines, lines).every((id) => before.lines[id as LineId] && lines[id as LineId]) &&
  differingIds<Channel>(before.channels, channels).every((id) =>
    takesTheSame(before.channels[id as ChannelId], channels[id as ChannelId]),
  );

let last: Numbered | null = null;

const kept = perTwo((lines: Template["lines"], channels: Template["channels"]): Numbered => {
  const { count, ofTrack, ofChannel } = last && stays(last, lines, channels) ? last : numbered({ lines, channels });
  last = { count, ofTrack, ofChannel, lines, channels };
  return last;
});

/**
 * Numbers the sources of a template: the same as before where nothing takes anything else. Linear but for joining pairs
 * that share lines, which is as good as linear.
 */
export const sourcesOf = ({ lines, channels }: Pick<Template, "lines" | "channels">): Sources => kept(lines, channels);
