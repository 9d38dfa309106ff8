import { choiceFrom, type EntryOf, flag, level, numberFrom, partOf } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { ChannelId, SendId } from "../ids";
import { MOST } from "../limits";
import { FADER_DB, PAN } from "./channels";

/** Where a send leaves its channel. */
export const TAPS = ["after", "before"] as const;
export type Tap = (typeof TAPS)[number];

const FIELDS = {
  fromId: partOf<ChannelId>(
    { to: "channels", kinds: ["track", "bus", "return", "instrument", "reference", "click", "talkback"], astray: "leaves a channel that is not there" },
    { word: "where it leaves" },
  ),
  toId: partOf<ChannelId>({ to: "channels", kinds: ["bus", "return"], astray: "leads to no bus and no return" }, { word: "where it leads" }),
  levelDb: level({ ...FADER_DB, initial: -12 }, { word: "the level" }),
  /** Before the fader or after it. */
  tap: choiceFrom<Tap>(TAPS, { word: "where it is tapped" }),
  pan: numberFrom<number>(PAN, { word: "the pan" }),
  on: flag({ on: "on", off: "off" }, { word: "the switch" }),
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
});

export interface Send extends EntryOf<typeof FIELDS> {
  readonly id: SendId;
}

/** A send that is on, with what it begins with where nothing is said. */
export const newSend = (given: Partial<Send> & Pick<Send, "id" | "fromId" | "toId">): Send => newEntry(SENDS, { on: true, ...given }) as unknown as Send;
