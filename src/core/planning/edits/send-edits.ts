import { type Refusal, refuse } from "../../commands/command";
import type { ChannelId, SendId } from "../../model/ids";
import { isSum } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import { newSend, type Send } from "../../model/tables/sends";
import type { Template } from "../../model/template";
import { counted } from "../../units/counted";
import { countChannels } from "./channel-edits";
import type { EditOf, NewSend, Planners } from "./edit";
import type { Change, Habits } from "./entry-edits";
import { toAll } from "./planner";
import { firstOf, goneFrom, tooMany } from "./refusals";
import { partnersOf, sendsAlong, stopped } from "./together";

const missingEnds = (doc: Template, { sends }: EditOf<"sends.add">): Refusal | null =>
  firstOf(
    () => (sends.length ? null : refuse("empty", "", "Nothing to send: select one or more channels.")),
    () =>
      goneFrom(
        doc.channels,
        sends.flatMap(({ fromId, toId }) => [fromId, toId]),
        "channel",
      ),
    () => {
      const wrong = sends.find(({ toId }) => !isSum(doc.channels[toId]));
      return wrong
        ? refuse("unfit", wrong.toId, `${doc.channels[wrong.toId]?.name} takes no sends. Send to a return or a bus.`)
        : null;
    },
    () => {
      const last = sends.find(({ fromId }) => doc.channels[fromId]?.kind === "main");
      return last ? refuse("unfit", last.fromId, "The main bus is last: nothing is sent from it.") : null;
    },
    () => {
      const round = sends.find(({ fromId, toId }) => fromId === toId);
      return round
        ? refuse("unfit", round.fromId, `${doc.channels[round.fromId]?.name} can't be sent to itself.`)
        : null;
    },
  );

const pairOf = ({ fromId, toId }: Pick<Send, "fromId" | "toId">): string => `${fromId} ${toId}`;

const endsInWords = (doc: Template, sends: readonly Pick<Send, "fromId" | "toId">[]): string => {
  const to = [...new Set(sends.map(({ toId }) => toId))];
  return `${countChannels(doc, [...new Set(sends.map(({ fromId }) => fromId))])} to ${to.length === 1 && to[0] ? doc.channels[to[0]]?.name : counted(to.length, "place")}`;
};

const sendsOf = (doc: Template, ids: readonly SendId[]): readonly Send[] => ids.flatMap((id) => doc.sends[id] ?? []);

/**
 * Sends of the other members of gangs that are sent together: made on one, made on all. Their ids come of the one that
 * was made, so that a replay is exact.
 */
const madeAlong = (doc: Template, { sends }: EditOf<"sends.add">): readonly NewSend[] => {
  const named = new Set(sends.map(pairOf));
  return sends.flatMap((send) =>
    [...partnersOf(doc, [send.fromId], "sends").values()].flat().flatMap(({ id: fromId }, at) => {
      if (fromId === send.toId || named.has(pairOf({ fromId, toId: send.toId }))) return [];
      named.add(pairOf({ fromId, toId: send.toId }));
      return [{ ...send, id: `${send.id.slice(0, 56)}-g${at + 1}` as SendId, fromId }];
    }),
  );
};

/**
 * What setting sends sets of those of the other members: levels keep their differences, within what a send can have.
 */
const setAlong = (doc: Template, ids: readonly SendId[], set: Change<Send>): Readonly<Record<string, object>> =>
  Object.fromEntries(
    sendsAlong(doc, sendsOf(doc, ids)).map(({ of, send }) => {
      const { levelDb, ...rest } = set;
      if (levelDb === undefined) return [send.id, rest];
      const along =
        levelDb === null || of.levelDb === null || send.levelDb === null
          ? send.levelDb
          : stopped(send.levelDb + levelDb - of.levelDb).faderDb;
      return [send.id, { ...rest, levelDb: along }];
    }),
  );

/** Why sends can't leave another channel: it is sent there already. */
const sentAlready = (doc: Template, ids: readonly SendId[], fromId: ChannelId): Refusal | null => {
  const held = new Set(entriesOf(doc.sends).flatMap((send) => (send.fromId === fromId ? [send.toId] : [])));
  const twice = sendsOf(doc, ids).find(({ toId }) => held.has(toId));
  return twice
    ? refuse(
        "clash",
        twice.id,
        `${doc.channels[fromId]?.name} is sent to ${doc.channels[twice.toId]?.name} already. Remove one of the two first.`,
      )
    : null;
};

/** What plain edits of sends take along: those of the other members of gangs that are sent together. */
export const sendHabits: Habits<Template> = {
  set: (doc, { ids, set }) => {
    const sendIds = ids as readonly SendId[];
    const change = set as Change<Send>;
    const refusal =
      change.fromId === undefined
        ? null
        : (goneFrom(doc.channels, [change.fromId], "channel") ?? sentAlready(doc, sendIds, change.fromId));
    return (
      refusal ?? [
        {
          kind: "set",
          table: "sends",
          values: {
            ...(change.fromId === undefined ? setAlong(doc, sendIds, change) : {}),
            ...toAll(ids, set),
          } as never,
        },
      ]
    );
  },
  remove: (doc, ids) => [
    {
      kind: "remove",
      table: "sends",
      ids: [...ids, ...sendsAlong(doc, sendsOf(doc, ids as readonly SendId[])).map(({ send }) => send.id)],
    },
  ],
};

export const sendEdits: Planners<"sends"> = {
  "sends.add": {
    plan: (doc, edit) => {
      const refusal = firstOf(
        () => missingEnds(doc, edit),
        () => tooMany(doc, { sends: edit.sends }),
      );
      if (refusal) return refusal;
      const there = new Map(entriesOf(doc.sends).map((send) => [pairOf(send), send]));
      const wanted = [...edit.sends, ...madeAlong(doc, edit)];
      const more = tooMany(doc, { sends: wanted });
      if (more) return more;
      const fresh = wanted.filter((send) => !there.has(pairOf(send)));
      // What is sent there already gets what is asked for now; it is not sent twice.
      const again = edit.sends.flatMap(({ id: _id, fromId, toId, ...set }) => {
        const send = there.get(pairOf({ fromId, toId }));
        return send ? [[send.id, { ...set, on: set.on ?? true }] as const] : [];
      });
      return [
        ...(fresh.length
          ? [
              {
                kind: "add",
                table: "sends",
                entries: fresh.map((send) => newSend({ tap: doc.mix.sendTap, ...send })),
              } as const,
            ]
          : []),
        ...(again.length ? [{ kind: "set", table: "sends", values: Object.fromEntries(again) } as const] : []),
      ];
    },
    name: (doc, { sends }) => `Send ${endsInWords(doc, sends)}`,
  },
};
