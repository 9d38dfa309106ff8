import { type Command, type Refusal, refuse } from "../../commands/command";
import type { ChannelId } from "../../model/ids";
import { isMade, isSum } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import { type Monitor, newChannel, type Output } from "../../model/tables/channels";
import type { Template } from "../../model/template";
import { counted } from "../../units/counted";
import { dB, formatDb, formatLevel } from "../../units/decibels";
import type { ChannelChange, EditOf, Planners } from "./edit";
import { firstOf, goneFrom, tooMany } from "./refusals";
import { route } from "./sums";
import { movedBy, ownOf, type Passing, partnersOf, setAlong } from "./together";

/** "Plate" for one, "4 channels" for several. */
export const countChannels = (doc: Template, ids: readonly ChannelId[]): string =>
  ids.length === 1 && ids[0] ? doc.channels[ids[0]]?.name || "a channel without a name" : counted(ids.length, "channel");

const missingChannels = (doc: Template, ids: readonly ChannelId[]): Refusal | null =>
  ids.length ? goneFrom(doc.channels, ids, "channel") : refuse("empty", "", "No channel was named. Select one or more.");

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
  if (toMain && Object.keys(set).some((field) => !["name", "note", "output", "trimDb", "polarityTurned", "faderDb"].includes(field)))
    return refuse("unfit", toMain, "The main bus is last: it has no pan and no dye, and is neither muted nor parked. Change its fader, or what goes into it.");
  if (toMain && set.output?.kind === "channel") return refuse("unfit", toMain, "The main bus is last: nothing comes after it but outputs. Choose an output.");
  const strange = Object.entries(ONLY).find(([field, kinds]) => field in set && ids.some((id) => !kinds.includes(String(doc.channels[id]?.kind))));
  if (strange) return refuse("unfit", ids[0] ?? "", `Only ${strange[1].join(" or ")} channels have that: ${strange[0]}.`);
  const noTrack = RECORDS.some((field) => field in set) ? ids.find((id) => doc.channels[id]?.kind !== "track") : undefined;
  if (noTrack) return refuse("unfit", noTrack, `${doc.channels[noTrack]?.name} is no track, so it records nowhere.`);
  const track = "layout" in set ? ids.find((id) => !isSum(doc.channels[id])) : undefined;
  return track
    ? refuse("unfit", track, `${doc.channels[track]?.name} is as many as ${doc.channels[track]?.kind === "track" ? "its lines are: give it one line, or two" : "what it plays"}.`)
    : null;
};

const outputInWords = (doc: Template, output: Output): string =>
  output.kind === "channel" ? (doc.channels[output.channelId]?.name ?? "a bus") : output.kind === "nowhere" ? "nowhere" : "an output";

const panInWords = (pan: number): string => (pan === 0 ? "to the middle" : `${Math.abs(pan)} % ${pan < 0 ? "left" : "right"}`);

const MONITOR_SAYS: { readonly [M in Monitor]: (who: string) => string } = {
  direct: (who) => `Monitor ${who} direct`,
  computer: (who) => `Monitor ${who} through the computer`,
  off: (who) => `Monitor ${who} not at all`,
};

/** What setting a field is called, the more telling fields first. */
const SAYS: { readonly [F in keyof ChannelChange]-?: (who: string, value: NonNullable<ChannelChange[F]> | null, doc: Template) => string } = {
  output: (who, output, doc) => `Route ${who} to ${outputInWords(doc, output as Output)}`,
  faderDb: (who, level) => `Set the fader of ${who} to ${formatLevel(level)}`,
  trimDb: (who, trim) => `Trim ${who} by ${formatLevel(trim)}`,
  polarityTurned: (who, turned) => `${turned ? "Turn over" : "Turn back"} the polarity of ${who}`,
  recordPoint: (who, point) => `Record ${who} ${point} its processing`,
  monitor: (who, monitor) => MONITOR_SAYS[monitor ?? "off"](who),
  liveDb: (who, level) => `Set ${who} to ${formatLevel(level)} while recording`,
  liveApart: (who, apart) => `Give ${who} ${apart ? "a level of its own" : "the level of its fader"} while recording`,
  tempoBpm: (who, tempo) => `Set ${who} to ${tempo} beats a minute`,
  sourceDb: (who, level) => `Let ${who} come at ${formatLevel(level)}`,
  portId: (who, port) => `Take ${who} from ${port ? "another input" : "what is built in"}`,
  pan: (who, pan) => `Pan ${who} ${panInWords(pan ?? 0)}`,
  muted: (who, muted) => `${muted ? "Mute" : "Unmute"} ${who}`,
  parked: (who, parked) => (parked ? `Park ${who}` : `Take ${who} into use again`),
  name: (who, name) => `Rename ${who} to ${name?.trim()}`,
  colour: (who, colour) => (colour ? `Dye ${who} ${colour}` : `Take the dye off ${who}`),
  layout: (who, layout) => `Make ${who} ${layout}`,
  fold: (who, fold) => `Let stereo come into ${who} as ${fold === "sum" ? "the sum of both sides" : `its ${fold} side`}`,
  midiPortId: (who, port) => `Play ${who} from ${port ? "another" : "no"} MIDI port`,
  midiChannel: (who, channel) => `Play ${who} on ${channel ? `MIDI channel ${channel}` : "every MIDI channel"}`,
  outputs: (who, outputs) => `Give ${who} ${counted(outputs ?? 1, "output")}`,
  file: (who) => `Name the file of ${who}`,
  note: (who) => `Note on ${who}`,
};

const setName = (doc: Template, { channelIds, set }: EditOf<"channels.set">): string => {
  const who = countChannels(doc, channelIds);
  const field = (Object.keys(SAYS) as (keyof ChannelChange)[]).find((one) => set[one] !== undefined);
  return field ? (SAYS[field] as (who: string, value: unknown, doc: Template) => string)(who, set[field], doc) : `Set ${who}`;
};

const unnamed = (channelIds: readonly ChannelId[], name: string | undefined): Refusal | null =>
  name === undefined || name.trim() ? null : refuse("empty", channelIds[0] ?? "", "A bus needs a name. Type one, or press Esc to keep the old one.");

/** All that move when channels are shifted which gangs hold together: they themselves and the others of their gangs. */
const heldWith = (doc: Template, ids: readonly ChannelId[]): readonly Passing[] => {
  const partners = partnersOf(doc, ids, "level");
  const own = ids.flatMap((id) => {
    const channel = doc.channels[id];
    return channel && channel.kind !== "main" && channel.gangId && partners.has(channel.gangId) ? [channel] : [];
  });
  return [...own, ...[...partners.values()].flat()];
};

/** Where what goes into channels that are taken away goes instead: where they went themselves, past others that go as well. */
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
    if (output.kind === "channel" && gone.has(output.channelId) && !gone.has(channel.id)) values[channel.id] = { output: beyond(doc, output.channelId, gone) };
  }
  return [...(Object.keys(values).length ? [{ kind: "set", table: "channels", values } as const] : []), { kind: "remove", table: "channels", ids }];
};

const removable = (doc: Template, ids: readonly ChannelId[]): Refusal | null => {
  const other = ids.find((id) => !isMade(doc.channels[id]));
  if (other === undefined) return null;
  return refuse(
    "unfit",
    other,
    doc.channels[other]?.kind === "main" ? "The main bus stays: everything ends in it." : "That is a track. Remove it in the input list, with its line.",
  );
};

export const channelEdits: Planners<"channels"> = {
  "channels.add": {
    plan: (doc, { channels, feedIds }) =>
      firstOf(
        () => (channels.length ? null : refuse("empty", "", "Nothing to add: say what it is called.")),
        () => (channels.every((channel) => channel.name.trim()) ? null : refuse("empty", "", "A bus needs a name.")),
        () => tooMany(doc, { buses: channels }),
        () => goneFrom(doc.channels, feedIds, "channel"),
        () => channels.map((channel) => unroutable(doc, channel.output, channel.id)).find((refusal) => refusal !== null) ?? null,
      ) ?? [
        { kind: "add", table: "channels", entries: channels.map(({ kind, ...given }) => newChannel(kind, { ...given, name: given.name.trim() } as never)) as never },
        ...route(feedIds, { kind: "channel", channelId: channels[0]?.id as ChannelId }),
      ],
    name: (doc, { channels, feedIds }) => {
      const [first] = channels;
      const what = channels.length === 1 ? `Add the ${first?.kind} ${first?.name.trim()}` : `Add ${channels.length} buses and returns`;
      return feedIds.length ? `${what} for ${countChannels(doc, feedIds)}` : what;
    },
  },
  "channels.set": {
    plan: (doc, { channelIds, set, alone }) =>
      firstOf(
        () => missingChannels(doc, channelIds),
        () => unnamed(channelIds, set.name),
        () => foreign(doc, channelIds, set),
        () => unroutable(doc, set.output, channelIds[0] ?? ""),
      ) ?? [
        {
          kind: "set",
          table: "channels",
          values: { ...(alone ? {} : setAlong(doc, channelIds, set)), ...Object.fromEntries(channelIds.map((id) => [id, ownOf(doc, id, { set, alone })])) } as never,
        },
      ],
    name: setName,
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
        return refuse("unfit", beyondEnd[0], `${doc.channels[beyondEnd[0]]?.name} would stand at ${formatDb(beyondEnd[1])}. Faders go from −120 to +12 dB; shift by less.`);
      const values = {
        ...movedBy(held, byDb),
        ...Object.fromEntries(moved.map(([id, faderDb]) => [id, doc.channels[id]?.kind === "main" ? { faderDb } : { faderDb, pastEndDb: 0, beforeSilenceDb: null }])),
      };
      return Object.keys(values).length ? [{ kind: "set", table: "channels", values: values as never }] : [];
    },
    name: (doc, { channelIds, byDb }) => `Turn ${countChannels(doc, channelIds)} ${byDb < 0 ? "down" : "up"} by ${formatDb(dB(Math.abs(byDb)))}`,
  },
  "channels.remove": {
    plan: (doc, { channelIds }) =>
      firstOf(
        () => missingChannels(doc, channelIds),
        () => removable(doc, channelIds),
      ) ?? takeAway(doc, channelIds),
    name: (doc, { channelIds }) => `Remove ${countChannels(doc, channelIds)}`,
  },
};
