import { counted } from "../../units/counted";
import type { EntryOf } from "../describe/fields";
import { type Around, described, fieldsOf, newEntry } from "../describe/table";
import type { ChannelId } from "../ids";
import { MOST } from "../limits";
import {
  CLICK_FIELDS,
  FIELDS,
  INSTRUMENT_FIELDS,
  MAIN_ID,
  REFERENCE_FIELDS,
  SUM_FIELDS,
  TALKBACK_FIELDS,
  TRACK_FIELDS,
} from "./channel-fields";

/** "Plate" for one; "4 tracks", or "4 channels" where they are of several kinds. */
const channelsInWords = (channels: readonly Channel[]): string => {
  const [only] = channels;
  if (only && channels.length === 1) return only.name || `a ${only.kind} without a name`;
  return counted(channels.length, channels.every(({ kind }) => kind === "track") ? "track" : "channel");
};

/** Everything that carries audio after the lines. */
export const CHANNELS = described({
  one: "track",
  many: "tracks",
  // The main bus is one of them and neither a track nor counted among the buses.
  most: MOST.tracks + MOST.buses + 1,
  fields: FIELDS,
  kinds: {
    track: TRACK_FIELDS,
    /** Sums what is routed to it. */
    bus: SUM_FIELDS,
    /** Holds an effect, and is fed by sends. */
    return: SUM_FIELDS,
    instrument: INSTRUMENT_FIELDS,
    reference: REFERENCE_FIELDS,
    click: CLICK_FIELDS,
    talkback: TALKBACK_FIELDS,
    main: {},
  },
  order: { within: "folderId", kinds: ["track"] },
  single: { kind: "main", id: MAIN_ID, says: "there is not exactly one main bus" },
  rules: [
    (channel: Channel) =>
      channel.kind === "main" && channel.output.kind === "channel" ? "the main bus is routed to a channel" : null,
    (channel: Channel) =>
      channel.kind === "track" && channel.input.kind === "pair" && channel.input.leftId === channel.input.rightId
        ? `${channel.name} takes one line as left and right`
        : null,
    (channel: Channel, around: Around) => {
      if (channel.kind !== "track" || channel.input.kind !== "instrument") return null;
      const instrument = around.entry("channels", channel.input.instrumentId);
      return instrument && channel.input.output > Number(instrument.outputs)
        ? `${channel.name} records an output that ${instrument.name} does not have`
        : null;
    },
  ],
  called: (channel: Channel) => channel.name || `a ${channel.kind} without a name`,
  calls: {
    who: channelsInWords,
    moved: (
      _channels: readonly Channel[],
      { who, parent }: { readonly who: string; readonly parent: string | null },
      around: Around,
    ) => `Put ${who} ${parent ? `in ${around.entry("folders", parent)?.name}` : "outside the folders"}`,
  },
});

interface ChannelBase extends EntryOf<typeof FIELDS> {
  readonly id: ChannelId;
}

export interface Track extends ChannelBase, EntryOf<typeof TRACK_FIELDS> {
  readonly kind: "track";
  readonly order: string;
}

/** The last bus; nothing after it but outputs. */
export interface Main extends ChannelBase {
  readonly kind: "main";
}

export interface Bus extends ChannelBase, EntryOf<typeof SUM_FIELDS> {
  readonly kind: "bus";
}

export interface Return extends ChannelBase, EntryOf<typeof SUM_FIELDS> {
  readonly kind: "return";
}

export interface Instrument extends ChannelBase, EntryOf<typeof INSTRUMENT_FIELDS> {
  readonly kind: "instrument";
}

export interface Reference extends ChannelBase, EntryOf<typeof REFERENCE_FIELDS> {
  readonly kind: "reference";
}

export interface Click extends ChannelBase, EntryOf<typeof CLICK_FIELDS> {
  readonly kind: "click";
}

export interface Talkback extends ChannelBase, EntryOf<typeof TALKBACK_FIELDS> {
  readonly kind: "talkback";
}

export type Channel = Track | Bus | Return | Instrument | Reference | Click | Talkback | Main;
/** What sums and passes on. */
export type Sum = Bus | Return;

/** What a new channel of a kind has where nothing is said. */
export const newChannel = <K extends Channel["kind"]>(
  kind: K,
  given: Partial<Extract<Channel, { kind: K }>> & Pick<Channel, "id" | "name">,
): Extract<Channel, { kind: K }> => {
  const output = { kind: "channel", channelId: MAIN_ID };
  return { kind, ...newEntry({ fields: fieldsOf(CHANNELS, { kind }) }, { output, ...given }) } as unknown as Extract<
    Channel,
    { kind: K }
  >;
};
