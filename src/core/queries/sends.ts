import type { ChannelId } from "../model/ids";
import { perDocument } from "../model/per-document";
import { entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Send, Tap } from "../model/tables/sends";
import type { Template } from "../model/template";
import { readDecibels } from "../reading/read-cells";
import { type Decibels, dB, formatGain } from "../units/decibels";
import { sumNamed } from "./outputs";

const NONE: readonly Send[] = [];

const byChannel = perDocument((sends: Template["sends"]): ReadonlyMap<ChannelId, readonly Send[]> => {
  const found = new Map<ChannelId, Send[]>();
  for (const send of entriesOf<Send>(sends)) {
    const there = found.get(send.fromId);
    if (there) there.push(send);
    else found.set(send.fromId, [send]);
  }
  return found;
});

/** What a channel is sent to, in the order in which it was sent there. */
export const sendsOf = (doc: Pick<Template, "sends">, id: ChannelId): readonly Send[] =>
  byChannel(doc.sends).get(id) ?? NONE;

const levelText = (levelDb: Decibels | null): string => (levelDb === null ? "−∞" : formatGain(levelDb));

/** The sends of a channel as a cell shows them, and as they can be typed again: "Plate −12, Echo −20 before". */
export const sendsText = (doc: Pick<Template, "channels" | "sends">, id: ChannelId): string =>
  sendsOf(doc, id)
    .map(({ toId, levelDb, tap, on }) =>
      [
        doc.channels[toId]?.name ?? "",
        levelText(levelDb),
        ...(tap === "before" ? ["before"] : []),
        ...(on ? [] : ["off"]),
      ].join(" "),
    )
    .join(", ");

export interface WrittenSend {
  readonly toId: ChannelId;
  readonly levelDb: Decibels | null;
  readonly tap: Tap;
  readonly on: boolean;
}

/** The most places that one cell may name. */
const MOST = 64;
const SILENT = ["−∞", "-∞"];

/** The words at the end of a send that are no part of the name. */
const readWords = (
  words: readonly string[],
): { readonly name: string; readonly tap: Tap; readonly on: boolean; readonly level: Decibels | null | undefined } => {
  const left = [...words];
  let [tap, on]: [Tap, boolean] = ["after", true];
  for (
    let last = left.at(-1)?.toLowerCase();
    left.length > 1 && last && ["before", "after", "off", "db"].includes(last);
    last = left.at(-1)?.toLowerCase()
  ) {
    if (last === "before") tap = "before";
    if (last === "off") on = false;
    left.pop();
  }
  const last = left.at(-1) ?? "";
  const read = SILENT.includes(last) ? { db: null } : readDecibels(last, { min: -120, max: 12 });
  if (left.length > 1 && read) left.pop();
  return { name: left.join(" "), tap, on, level: left.length < words.length && read ? read.db : undefined };
};

/**
 * What a cell of sends means, or why it can't be understood. Each is a name of a return or bus, a level, and "before"
 * or "off"; without a level −12 dB.
 */
export const readSends = (doc: Pick<Template, "channels">, text: string): readonly WrittenSend[] | string => {
  const parts = text
    .split(",", MOST + 1)
    .map((part) => part.trim())
    .filter(Boolean);
  if (parts.length > MOST) return `Up to ${MOST} places can be named in one cell.`;
  const found: WrittenSend[] = [];
  for (const part of parts) {
    const { name, tap, on, level } = readWords(part.split(" ").filter(Boolean));
    // A name may end in a number itself: Delay 2.
    const named = sumNamed(doc, part);
    const whole = named?.name.trim().toLowerCase() === part.toLowerCase() ? named : undefined;
    const sum = whole ?? sumNamed(doc, name);
    if (!sum)
      return `There is no return and no bus ${name || part}. Name one that is there, with its level: Plate −12.`;
    if (found.some(({ toId }) => toId === sum.id)) return `${sum.name} is named twice.`;
    found.push(
      whole
        ? { toId: sum.id, levelDb: dB(-12), tap: "after", on: true }
        : { toId: sum.id, levelDb: level === undefined ? dB(-12) : level, tap, on },
    );
  }
  return found;
};

/** Whether a track is a throw: it goes nowhere itself, and is sent to a return. */
export const isThrow = (
  doc: Pick<Template, "channels" | "sends">,
  { id, output }: Pick<Track, "id" | "output">,
): boolean =>
  output.kind === "nowhere" && sendsOf(doc, id).some(({ toId, on }) => on && doc.channels[toId]?.kind === "return");
