import { counted } from "../../units/counted";
import { type Decibels, formatLevel } from "../../units/decibels";
import { choiceFrom, type EntryOf, flagOn, level, type NamedAround, numberFrom, partOf } from "../describe/fields";
import { type Around, described, newEntry } from "../describe/table";
import type { ChannelId, SendId } from "../ids";
import { MOST } from "../limits";
import { FADER_DB, PAN } from "./channel-fields";

/** Where a send leaves its channel. */
export const TAPS = ["after", "before"] as const;
export type Tap = (typeof TAPS)[number];

const FIELDS = {
  fromId: partOf<ChannelId>(
    {
      to: "channels",
      kinds: ["track", "bus", "return", "instrument", "reference", "click", "talkback"],
      dangling: "leaves a channel that is not there",
      brings: true,
    },
    {
      word: "where it leaves",
      says: (who: string, from: ChannelId, around: NamedAround) =>
        `Move the send of ${who} to ${around.entry("channels", from)?.name}`,
    },
  ),
  toId: partOf<ChannelId>(
    { to: "channels", kinds: ["bus", "return"], dangling: "leads to no bus and no return" },
    { word: "where it leads", apart: true },
  ),
  levelDb: level(
    { ...FADER_DB, initial: -12 },
    { word: "the level", says: (who: string, to: Decibels | null) => `Send ${who} at ${formatLevel(to)}` },
  ),
  /** Before the fader or after it. */
  tap: choiceFrom<Tap>(TAPS, {
    word: "whether it is before or after the fader",
    says: (who: string, tap: Tap) => `Send ${who} ${tap} the fader`,
  }),
  pan: numberFrom<number>(PAN, { word: "the pan", says: (who: string) => `Send ${who} panned` }),
  on: flagOn(
    { on: "on", off: "off" },
    { word: "the switch", says: (who: string, on: boolean) => `Send ${who} switched ${on ? "on" : "off"}` },
  ),
};

/** "Snare to Plate", "3 channels to Plate". */
const endsInWords = (sends: readonly Pick<Send, "fromId" | "toId">[], around: Around): string => {
  const [from, to] = [[...new Set(sends.map(({ fromId }) => fromId))], [...new Set(sends.map(({ toId }) => toId))]];
  const name = (id: string | undefined) => around.entry("channels", id ?? "")?.name || "a channel without a name";
  return `${from.length === 1 ? name(from[0]) : counted(from.length, "channel")} to ${to.length === 1 ? name(to[0]) : counted(to.length, "place")}`;
};

/** Ways that lead a part of a channel to a return or a bus beside its output. */
export const SENDS = described({
  one: "send",
  many: "sends",
  most: MOST.sends,
  fields: FIELDS,
  unique: [{ key: (send: Send) => `${send.fromId} ${send.toId}`, says: () => "a channel is sent to one place twice" }],
  rules: [(send: Send) => (send.fromId === send.toId ? "a channel is sent to itself" : null)],
  called: () => null,
  calls: {
    who: endsInWords,
    added: (sends: readonly Send[], around: Around) => `Send ${endsInWords(sends, around)}`,
    removed: (_sends: readonly Send[], who: string) => `Take off the send of ${who}`,
  },
});

export interface Send extends EntryOf<typeof FIELDS> {
  readonly id: SendId;
}

/** A send that is on, with what it begins with where nothing is said. */
export const newSend = (given: Partial<Send> & Pick<Send, "id" | "fromId" | "toId">): Send =>
  newEntry(SENDS, given) as unknown as Send;
