import { type Command, type Refusal, refuse } from "../../commands/command";
import type { ChannelId, FolderId } from "../../model/ids";
import { isSum, trackOf } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import type { Output } from "../../model/tables/channel-fields";
import { newChannel } from "../../model/tables/channels";
import type { Template } from "../../model/template";
import { counted } from "../../units/counted";
import { dB, formatDb } from "../../units/decibels";
import type { ChannelChange, Planners } from "./edit";
import type { Habits, SetEntries } from "./entry-edits";
import { firstOf, goneFrom, missingTracks, tooMany } from "./refusals";
import { follows, route, sumOf, toChannel } from "./sums";
import { movedBy, ownOf, type Passing, partnersOf, setAlong } from "./together";

/** "Plate" for one, "4 channels" for several. */
export const countChannels = (doc: Template, ids: readonly ChannelId[]): string =>
  ids.length === 1 && ids[0]
    ? doc.channels[ids[0]]?.name || "a channel without a name"
    : counted(ids.length, "channel");

const missingChannels = (doc: Template, ids: readonly ChannelId[]): Refusal | null =>
  ids.length
    ? goneFrom(doc.channels, ids, "channel")
    : refuse("empty", "", "No channel was named. Select one or more.");

/** Why sound can't be led there. */
export const unroutable = (doc: Template, output: Output | undefined, at: string): Refusal | null => {
  if (output?.kind !== "channel") return null;
  const target = doc.channels[output.channelId];
  if (!target) return refuse("missing", at, "The bus this should go to is no longer there.");
  return isSum(target) || target.kind === "main"
    ? null
    : refuse(
        "unfit",
        at,
        `${target.name} is ${target.kind === "track" ? "a track, and a track" : `${an(target.kind)}, and that`} can't take the sound of another. Route it to a bus, a return, the main bus or an output.`,
      );
};

/** Fields that only some kinds of channel have. */
const ONLY: Readonly<Record<string, readonly string[]>> = {
  fold: ["bus", "return"],
  midiPortId: ["instrument"],
  midiChannel: ["instrument"],
  outputs: ["instrument"],
  file: ["reference"],
  tempoBpm: ["click"],
  portId: ["talkback"],
  sourceDb: ["click", "talkback"],
};

/** Fields that have to do with recording. */
const RECORDS = ["recordPoint", "monitor", "liveApart", "liveDb"] as const;

const an = (word: string): string => `${/^[aeiou]/.test(word) ? "an" : "a"} ${word}`;

/** What of a change a kind of channel does not have. */
const foreign = (doc: Template, ids: readonly ChannelId[], set: ChannelChange): Refusal | null => {
  const toMain = ids.find((id) => doc.channels[id]?.kind === "main");
  if (
    toMain &&
    Object.keys(set).some((field) => !["name", "note", "output", "trimDb", "polarityTurned", "faderDb"].includes(field))
  )
    return refuse(
      "unfit",
      toMain,
      "The main bus is last: it has no pan and no dye, and is neither muted nor parked. Change its fader, or what goes into it.",
    );
  if (toMain && set.output?.kind === "channel")
    return refuse("unfit", toMain, "The main bus is last: nothing comes after it but outputs. Choose an output.");
  const strange = Object.entries(ONLY).find(
    ([field, kinds]) => field in set && ids.some((id) => !kinds.includes(String(doc.channels[id]?.kind))),
  );
  if (strange)
    return refuse("unfit", ids[0] ?? "", `Only ${strange[1].join(" or ")} channels have that: ${strange[0]}.`);
  const noTrack = RECORDS.some((field) => field in set)
    ? ids.find((id) => doc.channels[id]?.kind !== "track")
    : undefined;
  if (noTrack) return refuse("unfit", noTrack, `${doc.channels[noTrack]?.name} is no track, so it records nowhere.`);
  const track = "layout" in set ? ids.find((id) => !isSum(doc.channels[id])) : undefined;
  return track
    ? refuse(
        "unfit",
        track,
        `${doc.channels[track]?.name} is as many as ${doc.channels[track]?.kind === "track" ? "its lines are: give it one line, or two" : "what it plays"}.`,
      )
    : null;
};

/** Tracks may be without a name; what others are routed to may not. */
const unnamed = (doc: Template, ids: readonly ChannelId[], name: string | undefined): Refusal | null => {
  const bus = name === undefined || name.trim() ? undefined : ids.find((id) => doc.channels[id]?.kind !== "track");
  return bus === undefined
    ? null
    : refuse("empty", bus, "A bus needs a name. Type one, or press Esc to keep the old one.");
};

/** All that move when channels are shifted which gangs hold together: they themselves and the others of their gangs. */
const heldWith = (doc: Template, ids: readonly ChannelId[]): readonly Passing[] => {
  const partners = partnersOf(doc, ids, "level");
  const own = ids.flatMap((id) => {
    const channel = doc.channels[id];
    return channel && channel.kind !== "main" && channel.gangId && partners.has(channel.gangId) ? [channel] : [];
  });
  return [...own, ...[...partners.values()].flat()];
};

/**
 * Where what goes into channels that are taken away goes instead: where they went themselves, past others that go as
 * well.
 */
const beyond = (doc: Template, id: ChannelId, gone: ReadonlySet<string>): Output => {
  let output: Output = { kind: "nowhere" };
  for (let at: ChannelId | null = id, steps = 0; at !== null && steps <= gone.size; steps++) {
    output = doc.channels[at]?.output ?? { kind: "nowhere" };
    at = output.kind === "channel" && gone.has(output.channelId) ? output.channelId : null;
  }
  return output;
};

/** Takes buses and returns away: what went into one goes where it went, its sends and the summing of its folder go. */
export const takeAway = (doc: Template, ids: readonly ChannelId[]): readonly Command[] => {
  const gone = new Set<string>(ids);
  const values: Record<string, { readonly output: Output }> = {};
  for (const channel of entriesOf(doc.channels)) {
    const { output } = channel;
    if (output.kind === "channel" && gone.has(output.channelId) && !gone.has(channel.id))
      values[channel.id] = { output: beyond(doc, output.channelId, gone) };
  }
  return [
    ...(Object.keys(values).length ? [{ kind: "set", table: "channels", values } as const] : []),
    { kind: "remove", table: "channels", ids },
  ];
};

/** What setting fields of channels takes along: what gangs hold together with them, unless they are set alone. */
const setChannels = (doc: Template, { ids, set, alone }: SetEntries): readonly Command[] | Refusal => {
  const channelIds = ids as readonly ChannelId[];
  const change = set as ChannelChange;
  const values = {
    ...(alone ? {} : setAlong(doc, channelIds, change)),
    ...Object.fromEntries(channelIds.map((id) => [id, ownOf(doc, id, { set: change, alone })])),
  };
  return (
    firstOf(
      () => unnamed(doc, channelIds, change.name),
      () => foreign(doc, channelIds, change),
      () => unroutable(doc, change.output, channelIds[0] ?? ""),
    ) ?? [{ kind: "set", table: "channels", values: values as never }]
  );
};

/**
 * Tracks that went where their folder goes are routed to where the other one goes; those that somebody routed elsewhere
 * stay routed.
 */
const followed = (doc: Template, trackIds: readonly ChannelId[], folderId: FolderId | null): readonly Command[] => {
  const sum = sumOf(doc, folderId);
  const ids = trackIds.filter((id) => {
    const was = sumOf(doc, trackOf(doc, id)?.folderId ?? null);
    return was !== sum && follows(doc.channels[id], was);
  });
  return route(ids, toChannel(sum));
};

/**
 * What plain edits of channels take along. What went into one that is removed goes where it went; lines that no track
 * takes any more go by themselves.
 */
export const channelHabits: Habits<Template> = {
  set: setChannels,
  move: (doc, { ids, parent = null, before }) =>
    missingTracks(doc, ids as readonly ChannelId[]) ?? [
      { kind: "move", table: "channels", ids, parent, before },
      ...followed(doc, ids as readonly ChannelId[], parent as FolderId | null),
    ],
  remove: (doc, ids) => {
    const main = ids.find((id) => doc.channels[id as ChannelId]?.kind === "main");
    return main
      ? refuse("unfit", main, "The main bus stays: everything ends in it.")
      : takeAway(doc, ids as readonly ChannelId[]);
  },
};

export const channelEdits: Planners<"channels"> = {
  "channels.add": {
    plan: (doc, { channels, feedIds }) =>
      firstOf(
        () => (channels.length ? null : refuse("empty", "", "Nothing to add: say what it is called.")),
        () => (channels.every((channel) => channel.name.trim()) ? null : refuse("empty", "", "A bus needs a name.")),
        () => tooMany(doc, { buses: channels }),
        () => goneFrom(doc.channels, feedIds, "channel"),
        () =>
          channels.map((channel) => unroutable(doc, channel.output, channel.id)).find((refusal) => refusal !== null) ??
          null,
      ) ?? [
        {
          kind: "add",
          table: "channels",
          entries: channels.map(({ kind, ...given }) =>
            newChannel(kind, { ...given, name: given.name.trim() } as never),
          ) as never,
        },
        ...route(feedIds, { kind: "channel", channelId: channels[0]?.id as ChannelId }),
      ],
    name: (doc, { channels, feedIds }) => {
      const [first] = channels;
      const what =
        channels.length === 1
          ? `Add the ${first?.kind} ${first?.name.trim()}`
          : `Add ${channels.length} buses and returns`;
      return feedIds.length ? `${what} for ${countChannels(doc, feedIds)}` : what;
    },
  },
  "channels.shift": {
    // Silence stays silence: there is nothing to add to.
    plan: (doc, { channelIds, byDb, alone }) => {
      const missing = missingChannels(doc, channelIds);
      if (missing) return missing;
      const held = alone ? [] : heldWith(doc, channelIds);
      const together = new Set<string>(held.map(({ id }) => id));
      const moved = channelIds.flatMap((id) => {
        if (together.has(id)) return [];
        const fader = doc.channels[id]?.faderDb ?? null;
        return fader === null ? [] : [[id, dB(Math.round((fader + byDb) * 100) / 100)] as const];
      });
      const beyondEnd = moved.find(([, fader]) => fader > 12 || fader < -120);
      if (beyondEnd)
        return refuse(
          "unfit",
          beyondEnd[0],
          `${doc.channels[beyondEnd[0]]?.name} would stand at ${formatDb(beyondEnd[1])}. Faders go from −120 to +12 dB; shift by less.`,
        );
      const values = {
        ...movedBy(held, byDb),
        ...Object.fromEntries(
          moved.map(([id, faderDb]) => [
            id,
            doc.channels[id]?.kind === "main" ? { faderDb } : { faderDb, pastEndDb: 0, beforeSilenceDb: null },
          ]),
        ),
      };
      return Object.keys(values).length ? [{ kind: "set", table: "channels", values: values as never }] : [];
    },
    name: (doc, { channelIds, byDb }) =>
      `Turn ${countChannels(doc, channelIds)} ${byDb < 0 ? "down" : "up"} by ${formatDb(dB(Math.abs(byDb)))}`,
  },
};
