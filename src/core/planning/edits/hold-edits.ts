import { type Refusal, refuse } from "../../commands/command";
import { fieldWords } from "../../commands/naming";
import type { ChannelId, ControlId, GangId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import type { Channel } from "../../model/tables/channels";
import { CONTROLS, newControl } from "../../model/tables/controls";
import { HELD_ATTRIBUTES } from "../../model/tables/gangs";
import type { Template } from "../../model/template";
import { counted } from "../../units/counted";
import { formatLevel } from "../../units/decibels";
import { countChannels } from "./channel-edits";
import { type EditOf, type Planners, toAll } from "./edit";
import { firstOf, goneFrom, tooMany } from "./refusals";

const holdable = (doc: Template, ids: readonly ChannelId[]): Refusal | null =>
  firstOf(
    () => goneFrom(doc.channels, ids, "channel"),
    () => {
      const main = ids.find((id) => doc.channels[id]?.kind === "main");
      return main ? refuse("unfit", main, "The main bus is last and is held by nothing. Choose what goes into it.") : null;
    },
  );

const gangName = (doc: Template, id: GangId): string => doc.gangs[id]?.name || "the gang";

export const gangEdits: Planners<"gangs"> = {
  "gangs.add": {
    plan: (doc, { gang, channelIds }) =>
      firstOf(
        () => (new Set(channelIds).size > 1 ? null : refuse("empty", "", "A gang holds two channels or more together: select them first.")),
        () => (HELD_ATTRIBUTES.some((attribute) => gang[attribute]) ? null : refuse("empty", "", "Say what is held together: levels, mutes, pans or sends.")),
        () => holdable(doc, channelIds),
        () => tooMany(doc, { gangs: [gang] }),
      ) ?? [
        { kind: "add", table: "gangs", entries: [gang] },
        { kind: "set", table: "channels", values: toAll(channelIds, { gangId: gang.id, pastEndDb: 0, beforeSilenceDb: null }) },
      ],
    name: (doc, { channelIds }) => `Hold ${countChannels(doc, channelIds)} together`,
  },
  "gangs.set": {
    plan: (doc, { gangId, set }) => goneFrom(doc.gangs, [gangId], "gang") ?? [{ kind: "set", table: "gangs", values: { [gangId]: set } }],
    name: (doc, { gangId, set }) => (set.name === undefined ? `Set what ${gangName(doc, gangId)} holds together` : `Call ${gangName(doc, gangId)} ${set.name}`),
  },
  "gangs.join": {
    plan: (doc, { channelIds, gangId }) =>
      firstOf(
        () => (channelIds.length ? null : refuse("empty", "", "No channel was named. Select one or more.")),
        () => holdable(doc, channelIds),
        () => (gangId ? goneFrom(doc.gangs, [gangId], "gang") : null),
      ) ?? [{ kind: "set", table: "channels", values: toAll(channelIds, { gangId, pastEndDb: 0, beforeSilenceDb: null }) }],
    name: (doc, { channelIds, gangId }) => (gangId ? `Hold ${countChannels(doc, channelIds)} with ${gangName(doc, gangId)}` : `Let ${countChannels(doc, channelIds)} move alone`),
  },
};

const named = (name: string | undefined): Refusal | null =>
  name === undefined || name.trim() ? null : refuse("empty", "", "A control fader needs a name, for example All voices.");

const ridden = (doc: Template, { channelIds, controlId, on }: EditOf<"controls.ride">): Readonly<Record<string, object>> =>
  Object.fromEntries(
    channelIds.flatMap((id) => {
      const channel = doc.channels[id];
      if (!channel || channel.kind === "main" || channel.controlIds.includes(controlId) === on) return [];
      return [[id, { controlIds: on ? [...channel.controlIds, controlId] : channel.controlIds.filter((one) => one !== controlId) }]];
    }),
  );

const controlName = (doc: Template, ids: readonly ControlId[]): string => (ids.length === 1 && ids[0] ? (doc.controls[ids[0]]?.name ?? "") : counted(ids.length, "control fader"));

export const controlEdits: Planners<"controls"> = {
  "controls.add": {
    plan: (doc, { control, channelIds }) =>
      firstOf(
        () => named(control.name),
        () => holdable(doc, channelIds),
        () => tooMany(doc, { controls: [control] }),
      ) ?? [
        { kind: "add", table: "controls", entries: [newControl({ ...control, name: control.name.trim() })] },
        ...(channelIds.length
          ? [
              {
                kind: "set" as const,
                table: "channels",
                values: Object.fromEntries(
                  channelIds.flatMap((id) => {
                    const channel = doc.channels[id];
                    return channel && channel.kind !== "main" ? [[id, { controlIds: [...channel.controlIds, control.id] }] as const] : [];
                  }),
                ),
              },
            ]
          : []),
      ],
    name: (doc, { control, channelIds }) => `Add the control fader ${control.name.trim()}${channelIds.length ? ` over ${countChannels(doc, channelIds)}` : ""}`,
  },
  "controls.set": {
    plan: (doc, { controlIds, set }) =>
      firstOf(
        () => (controlIds.length ? goneFrom(doc.controls, controlIds, "control fader") : refuse("empty", "", "No control fader was named.")),
        () => named(set.name),
        () => (set.parentId ? goneFrom(doc.controls, [set.parentId], "control fader") : null),
      ) ?? [{ kind: "set", table: "controls", values: toAll(controlIds, set) }],
    name: (doc, { controlIds, set }) => {
      const who = controlName(doc, controlIds);
      if (set.faderDb !== undefined) return `Set the control fader ${who} to ${formatLevel(set.faderDb)}`;
      if (set.muted !== undefined) return `${set.muted ? "Mute" : "Unmute"} what ${who} holds`;
      if (set.name !== undefined) return `Rename the control fader ${who} to ${set.name.trim()}`;
      if (set.parentId !== undefined) return set.parentId ? `Let ${who} ride on ${doc.controls[set.parentId]?.name}` : `Let ${who} ride on nothing`;
      return `Set ${fieldWords(CONTROLS.fields, Object.keys(set))} of ${who}`;
    },
  },
  "controls.ride": {
    plan: (doc, edit) => {
      const refusal = firstOf(
        () => (edit.channelIds.length ? holdable(doc, edit.channelIds) : refuse("empty", "", "No channel was named. Select one or more.")),
        () => goneFrom(doc.controls, [edit.controlId], "control fader"),
      );
      if (refusal) return refusal;
      const values = ridden(doc, edit);
      return Object.keys(values).length ? [{ kind: "set", table: "channels", values: values as never }] : [];
    },
    name: (doc, { channelIds, controlId, on }) => `${on ? "Put" : "Take"} ${countChannels(doc, channelIds)} ${on ? "under" : "from under"} ${controlName(doc, [controlId])}`,
  },
  "controls.remove": {
    plan: (doc, { controlIds }) =>
      (controlIds.length ? goneFrom(doc.controls, controlIds, "control fader") : refuse("empty", "", "No control fader was named.")) ?? [
        { kind: "remove", table: "controls", ids: controlIds },
      ],
    name: (doc, { controlIds }) => `Remove the control fader ${controlName(doc, controlIds)}`,
  },
};

/** Who rides on a control fader by itself: channels, and control faders. */
export const ridersOf = (doc: Template, id: ControlId): { readonly channels: readonly Channel[]; readonly controls: readonly ControlId[] } => ({
  channels: entriesOf<Channel>(doc.channels).filter((channel) => channel.kind !== "main" && channel.controlIds.includes(id)),
  controls: entriesOf(doc.controls).flatMap((control) => (control.parentId === id ? [control.id] : [])),
});
