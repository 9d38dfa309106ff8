import type { ChannelId, GangId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import { FADER_DB, PAN } from "../../model/tables/channel-fields";
import type { Channel } from "../../model/tables/channels";
import type { HeldAttribute } from "../../model/tables/gangs";
import type { Send } from "../../model/tables/sends";
import type { Template } from "../../model/template";
import { type Decibels, dB } from "../../units/decibels";

export type Passing = Exclude<Channel, { readonly kind: "main" }>;

const isPassing = (channel: Channel | undefined): channel is Passing =>
  channel !== undefined && channel.kind !== "main";

/** The gang of a channel where it holds an attribute together; null else. */
const gangOf = (doc: Template, id: ChannelId, attribute: HeldAttribute): GangId | null => {
  const channel = doc.channels[id];
  const gang = isPassing(channel) && channel.gangId ? doc.gangs[channel.gangId] : undefined;
  return gang?.[attribute] ? gang.id : null;
};

/** The others that a gang holds together with these in one attribute, by gang. */
export const partnersOf = (
  doc: Template,
  ids: readonly ChannelId[],
  attribute: HeldAttribute,
): ReadonlyMap<GangId, readonly Passing[]> => {
  const gangs = new Set(ids.flatMap((id) => gangOf(doc, id, attribute) ?? []));
  const own = new Set<string>(ids);
  const partners = new Map<GangId, Passing[]>([...gangs].map((gang) => [gang, []]));
  if (gangs.size)
    for (const channel of entriesOf<Channel>(doc.channels))
      if (isPassing(channel) && channel.gangId && !own.has(channel.id)) partners.get(channel.gangId)?.push(channel);
  return partners;
};

const round = (value: number): number => Math.round(value * 100) / 100;

/**
 * A level past the ends of a fader, as the fader shows it and what is remembered of it. @example 15 dB → { faderDb: 12,
 * pastEndDb: 3 }
 */
export const stopped = (wantedDb: number): { readonly faderDb: Decibels; readonly pastEndDb: Decibels } => {
  const faderDb = round(Math.min(FADER_DB.max, Math.max(FADER_DB.min, wantedDb)));
  const pastEndDb = round(Math.min(132, Math.max(-132, wantedDb - faderDb)));
  return { faderDb: dB(faderDb), pastEndDb: dB(pastEndDb === 0 ? 0 : pastEndDb) };
};

/** Where a fader would stand without its ends; null for silence, which stays silent whatever its gang does. */
const wantedOf = ({ faderDb, pastEndDb }: Passing): number | null => (faderDb === null ? null : faderDb + pastEndDb);

/** What moving members by some dB sets, themselves included: differences are kept past the ends as well. */
export const movedBy = (members: readonly Passing[], byDb: number): Readonly<Record<string, object>> =>
  Object.fromEntries(
    members.flatMap((member) => {
      const wanted = wantedOf(member);
      return wanted === null ? [] : [[member.id, stopped(wanted + byDb)] as const];
    }),
  );

/**
 * What going to silence together sets: where each stood is remembered, so that it comes back with its balance. One that
 * is silent already stays as it is.
 */
const silencedTogether = (members: readonly Passing[]): Readonly<Record<string, object>> =>
  Object.fromEntries(
    members.flatMap((member) => {
      const wanted = wantedOf(member);
      return wanted === null
        ? []
        : [[member.id, { faderDb: null, pastEndDb: dB(0), beforeSilenceDb: dB(round(wanted)) }] as const];
    }),
  );

/**
 * What coming back from silence sets: each that went along stands as far from where it was as the one that is set; one
 * that was silent by itself stays silent.
 */
const backTogether = (members: readonly Passing[], byDb: number): Readonly<Record<string, object>> =>
  Object.fromEntries(
    members.flatMap(({ id, faderDb, beforeSilenceDb }) =>
      faderDb !== null || beforeSilenceDb === null
        ? []
        : [[id, { ...stopped(beforeSilenceDb + byDb), beforeSilenceDb: null }] as const],
    ),
  );

/** What setting the faders of channels sets of those held together with them. */
const fadersAlong = (
  doc: Template,
  ids: readonly ChannelId[],
  faderDb: Decibels | null,
): Readonly<Record<string, object>> =>
  Object.assign(
    {},
    ...[...partnersOf(doc, ids, "level")].map(([gang, members]) => {
      const first = ids
        .map((id) => doc.channels[id])
        .find((channel) => isPassing(channel) && channel.gangId === gang) as Passing | undefined;
      const from = first ? wantedOf(first) : null;
      if (faderDb === null) return silencedTogether(members);
      if (from !== null) return movedBy(members, faderDb - from);
      return first && first.beforeSilenceDb !== null ? backTogether(members, faderDb - first.beforeSilenceDb) : {};
    }),
  );

/** What panning channels sets of those held together with them: differences are kept as far as there is room. */
const pansAlong = (doc: Template, ids: readonly ChannelId[], pan: number): Readonly<Record<string, object>> =>
  Object.assign(
    {},
    ...[...partnersOf(doc, ids, "pan")].map(([gang, members]) => {
      const first = ids
        .map((id) => doc.channels[id])
        .find((channel) => isPassing(channel) && channel.gangId === gang) as Passing | undefined;
      const way = pan - (first?.pan ?? pan);
      return Object.fromEntries(
        members.map((member) => [member.id, { pan: Math.min(PAN.max, Math.max(PAN.min, member.pan + way)) }]),
      );
    }),
  );

/** What muting channels sets of those held together with them. */
const mutesAlong = (doc: Template, ids: readonly ChannelId[], muted: boolean): Readonly<Record<string, object>> =>
  Object.fromEntries(
    [...partnersOf(doc, ids, "mute").values()].flatMap((members) => members.map(({ id }) => [id, { muted }])),
  );

type Mixed = Partial<Pick<Passing, "faderDb" | "pan" | "muted">>;

/** What a change sets of those that gangs hold together with the channels. */
export const setAlong = (
  doc: Template,
  ids: readonly ChannelId[],
  { faderDb, pan, muted }: Mixed,
): Readonly<Record<string, object>> => {
  const values: Record<string, object> = {};
  for (const along of [
    faderDb === undefined ? {} : fadersAlong(doc, ids, faderDb),
    pan === undefined ? {} : pansAlong(doc, ids, pan),
    muted === undefined ? {} : mutesAlong(doc, ids, muted),
  ])
    for (const [id, fields] of Object.entries(along)) values[id] = { ...values[id], ...fields };
  return values;
};

/**
 * What a fader that is set remembers: nothing past its end, and where it stood where it goes to silence with its gang.
 */
const remembered = (doc: Template, channel: Passing, faderDb: Decibels | null, alone: boolean): object => {
  if (faderDb !== null) return { pastEndDb: 0, beforeSilenceDb: null };
  if (channel.faderDb === null) return { pastEndDb: 0 };
  const wanted = wantedOf(channel);
  return {
    pastEndDb: 0,
    beforeSilenceDb: alone || wanted === null || !gangOf(doc, channel.id, "level") ? null : round(wanted),
  };
};

/** What of a change goes to a channel itself: a fader that is set stands where it is set. */
export const ownOf = (
  doc: Template,
  id: ChannelId,
  { set, alone = false }: { readonly set: Mixed & { readonly name?: string }; readonly alone?: boolean | undefined },
): object => {
  const channel = doc.channels[id];
  return {
    ...set,
    ...(set.name === undefined ? {} : { name: set.name.trim() }),
    ...(set.faderDb !== undefined && isPassing(channel) ? remembered(doc, channel, set.faderDb, alone) : {}),
  };
};

/** Sends of other members to the same places, of gangs that are sent together. */
export const sendsAlong = (
  doc: Template,
  sends: readonly Send[],
): readonly { readonly of: Send; readonly send: Send }[] => {
  const named = new Set<string>(sends.map(({ id }) => id));
  const found = new Map<string, { readonly of: Send; readonly send: Send }>();
  for (const of of sends) {
    const members = new Set([...partnersOf(doc, [of.fromId], "sends").values()].flat().map(({ id }) => id));
    if (members.size)
      for (const send of entriesOf<Send>(doc.sends))
        if (send.toId === of.toId && members.has(send.fromId) && !named.has(send.id)) found.set(send.id, { of, send });
  }
  return [...found.values()];
};
