import { type Refusal, refuse } from "../../commands/command";
import type { ChannelId, ControlId, GangId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import type { Channel } from "../../model/tables/channels";
import { newControl } from "../../model/tables/controls";
import { HELD_ATTRIBUTES } from "../../model/tables/gangs";
import type { Template } from "../../model/template";
import { counted } from "../../units/counted";
import { countChannels } from "./channel-edits";
import type { EditOf, Planners } from "./edit";
import { toAll } from "./planner";
import { firstOf, goneFrom, tooMany } from "./refusals";

const holdable = (doc: Template, ids: readonly ChannelId[]): Refusal | null =>
  firstOf(
    () => goneFrom(doc.channels, ids, "channel"),
    () => {
      const main = ids.find((id) => doc.channels[id]?.kind === "main");
      return main
        ? refuse("unfit", main, "The main bus is last and is held by nothing. Choose what goes into it.")
        : null;
    },
  );

const gangName = (doc: Template, id: GangId): string => doc.gangs[id]?.name || "the gang";

export const gangEdits: Planners<"gangs"> = {
  "gangs.add": {
    plan: (doc, { gang, channelIds }) =>
      firstOf(
        () =>
          new Set(channelIds).size > 1
            ? null
            : refuse("empty", "", "A gang holds two channels or more together: select them first."),
        () =>
          HELD_ATTRIBUTES.some((attribute) => gang[attribute])
            ? null
            : refuse("empty", "", "Say what is held together: levels, mutes, pans or sends."),
        () => holdable(doc, channelIds),
        () => tooMany(doc, { gangs: [gang] }),
      ) ?? [
        { kind: "add", table: "gangs", entries: [gang] },
        {
          kind: "set",
          table: "channels",
          values: toAll(channelIds, { gangId: gang.id, pastEndDb: 0, beforeSilenceDb: null }),
        },
      ],
    name: (doc, { channelIds }) => `Hold ${countChannels(doc, channelIds)} together`,
  },
  "gangs.join": {
    plan: (doc, { channelIds, gangId }) =>
      firstOf(
        () => (channelIds.length ? null : refuse("empty", "", "No channel was named. Select one or more.")),
        () => holdable(doc, channelIds),
        () => (gangId ? goneFrom(doc.gangs, [gangId], "gang") : null),
      ) ?? [
        { kind: "set", table: "channels", values: toAll(channelIds, { gangId, pastEndDb: 0, beforeSilenceDb: null }) },
      ],
    name: (doc, { channelIds, gangId }) =>
      gangId
        ? `Hold ${countChannels(doc, channelIds)} with ${gangName(doc, gangId)}`
        : `Let ${countChannels(doc, channelIds)} move alone`,
  },
};

const named = (name: string | undefined): Refusal | null =>
  name === undefined || name.trim()
    ? null
    : refuse("empty", "", "A control fader needs a name, for example All voices.");

const ridden = (
  doc: Template,
  { channelIds, controlId, on }: EditOf<"controls.ride">,
): Readonly<Record<string, object>> =>
  Object.fromEntries(
    channelIds.flatMap((id) => {
      const channel = doc.channels[id];
      if (!channel || channel.kind === "main" || channel.controlIds.includes(controlId) === on) return [];
      return [
        [
          id,
          {
            controlIds: on ? [...channel.controlIds, controlId] : channel.controlIds.filter((one) => one !== controlId),
          },
        ],
      ];
    }),
  );

const controlName = (doc: Template, ids: readonly ControlId[]): string =>
  ids.length === 1 && ids[0] ? (doc.controls[ids[0]]?.name ?? "") : counted(ids.length, "control fader");

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
                    return channel && channel.kind !== "main"
                      ? [[id, { controlIds: [...channel.controlIds, control.id] }] as const]
                      : [];
                  }),
                ),
              },
            ]
          : []),
      ],
    name: (doc, { control, channelIds }) =>
      `Add the control fader ${control.name.trim()}${channelIds.length ? ` over ${countChannels(doc, channelIds)}` : ""}`,
  },
  "controls.ride": {
    plan: (doc, edit) => {
      const refusal = firstOf(
        () =>
          edit.channelIds.length
            ? holdable(doc, edit.channelIds)
            : refuse("empty", "", "No channel was named. Select one or more."),
        () => goneFrom(doc.controls, [edit.controlId], "control fader"),
      );
      if (refusal) return refusal;
      const values = ridden(doc, edit);
      return Object.keys(values).length ? [{ kind: "set", table: "channels", values: values as never }] : [];
    },
    name: (doc, { channelIds, controlId, on }) =>
      `${on ? "Put" : "Take"} ${countChannels(doc, channelIds)} ${on ? "under" : "from under"} ${controlName(doc, [controlId])}`,
  },
};

/** Who rides on a control fader by itself: channels, and control faders. */
export const ridersOf = (
  doc: Template,
  id: ControlId,
): { readonly channels: readonly Channel[]; readonly controls: readonly ControlId[] } => ({
  channels: entriesOf<Channel>(doc.channels).filter(
    (channel) => channel.kind !== "main" && channel.controlIds.includes(id),
  ),
  controls: entriesOf(doc.controls).flatMap((control) => (control.parentId === id ? [control.id] : [])),
});
