"use client";

import { ActionIcon, Button, Select, Switch } from "@mantine/core";
import { IconArrowsExchange, IconX } from "@tabler/icons-react";
import { createContext, useContext, useMemo, useState } from "react";
import { channelColour } from "@/core/layout/channel-colour";
import { feedsOf, type WayStep, wayOf } from "@/core/layout/signal-path";
import { pannedSides } from "@/core/levels/pan";
import type { Colour } from "@/core/model/colours";
import type { ChannelId } from "@/core/model/ids";
import { isSum } from "@/core/model/read-template";
import { CHANNELS, type Channel, FOLDS, LAYOUTS, type Sum, type Track } from "@/core/model/tables/channels";
import { SENDS, type Send } from "@/core/model/tables/sends";
import type { Template } from "@/core/model/template";
import { channelChoices } from "@/core/planning/chain-plans";
import type { ChannelChange } from "@/core/planning/edits/edit";
import { type Planned, planned, unplanned } from "@/core/planning/gesture";
import { type MixedField, routeByName, routeChoices, setMixed } from "@/core/planning/route";
import { layoutOf } from "@/core/queries/layouts";
import { outputText } from "@/core/queries/outputs";
import { sendsOf } from "@/core/queries/sends";
import { fieldText, readField } from "@/core/reading/field-text";
import { counted } from "@/core/units/counted";
import { dB, formatDb, formatLevel } from "@/core/units/decibels";
import { panText } from "@/core/units/pan";
import { askOne } from "../acts/chain-dialogs";
import { newIds } from "../grid/grid-focus";
import { ShownProvider } from "../grid/shown";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField, useColours } from "../inspector/inspector-fields";
import { useDesk, useDoing, useRig } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import classes from "./flow.module.css";
import { HoldFields } from "./hold-fields";
import { InstrumentFields } from "./instrument-fields";

/** So many feeders are listed; the rest is counted. */
const MOST_FEEDS = 12;

/** What all of several say; null when they differ. */
const common = <T,>(values: readonly T[]): T | null => {
  const [first, ...others] = [...new Set(values)];
  return first !== undefined && !others.length ? first : null;
};

interface FieldsProps {
  readonly doc: Template;
  readonly channels: readonly Channel[];
}

const shown = (value: string | null): { readonly value: string; readonly placeholder?: string } => (value === null ? { value: "", placeholder: "various" } : { value });

const isPassing = (channel: Channel): channel is Exclude<Channel, { kind: "main" }> => channel.kind !== "main";

/** Whether the next move leaves out those that gangs hold together with what is selected. */
const AloneContext = createContext<{ readonly alone: boolean; readonly moved: () => void }>({ alone: false, moved: () => {} });

const withAlone = (plan: Planned, alone: boolean): Planned =>
  alone && plan.ok
    ? {
        ...plan,
        gesture: {
          ...plan.gesture,
          commands: plan.gesture.commands.map((one) => (one.kind === "channels.set" || one.kind === "channels.shift" ? { ...one, alone: true as const } : one)),
        },
      }
    : plan;

const useSetting = (channels: readonly Channel[]) => {
  const { actPlanned } = useDoing();
  const doc = useDesk((desk) => desk.doc);
  const { alone, moved } = useContext(AloneContext);
  const channelIds = channels.map(({ id }) => id);
  const plan = (plan: Planned): boolean => {
    const done = actPlanned(withAlone(plan, alone));
    if (done && alone) moved();
    return done;
  };
  return {
    set: (set: ChannelChange) => plan(planned([{ kind: "channels.set", channelIds, set }])),
    mixed: (field: MixedField) => (text: string) => plan(setMixed(doc, { channelIds, field, text })),
    plan,
    channelIds,
  };
};

/** "Left −1.6 dB, right −5.11 dB, by the law of −3 dB": what a pan does to the two sides. */
const sidesInWords = ({ mix }: Template, pan: number): string => {
  const { left, right } = pannedSides(mix.panLawDb, pan);
  return `Left ${formatLevel(left)}, right ${formatLevel(right)}, by the law of ${formatDb(dB(mix.panLawDb))}.`;
};

const PassingFields = ({ channels }: { readonly channels: readonly Exclude<Channel, { kind: "main" }>[] }) => {
  const { set, mixed } = useSetting(channels);
  const doc = useDesk((desk) => desk.doc);
  const wide = channels.every((channel) => layoutOf(doc, channel) !== "mono");
  const pan = common(channels.map((channel) => channel.pan));
  const switches = { classNames: { body: inspector.switchBody, labelWrapper: inspector.label }, labelPosition: "left" } as const;
  return (
    <>
      <TextField label={wide ? "Balance" : "Pan"} {...shown(common(channels.map(({ pan }) => panText(pan))))} onKeep={mixed("pan")} />
      {!wide && pan !== null && pan !== 0 && <p className={classes.more}>{sidesInWords(doc, pan)}</p>}
      <Switch label="Muted" {...switches} checked={channels.every(({ muted }) => muted)} onChange={(event) => set({ muted: event.currentTarget.checked })} />
      <Switch label="Parked" {...switches} checked={channels.every(({ parked }) => parked)} onChange={(event) => set({ parked: event.currentTarget.checked })} />
    </>
  );
};

const SumFields = ({ channels }: { readonly channels: readonly Sum[] }) => {
  const { set } = useSetting(channels);
  const colours = useColours();
  const none = "none";
  return (
    <>
      <Select
        label="Layout"
        data={[...LAYOUTS]}
        value={common(channels.map(({ layout }) => layout))}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(layout) => set({ layout: layout as Sum["layout"] })}
        {...row}
      />
      {channels.every(({ layout }) => layout === "mono") && (
        <Select
          label="Stereo comes in"
          data={FOLDS.map((fold) => ({ value: fold, label: fold === "sum" ? "both sides added up" : `its ${fold} side only` }))}
          value={common(channels.map(({ fold }) => fold))}
          placeholder="various"
          allowDeselect={false}
          {...list}
          onChange={(fold) => set({ fold: fold as Sum["fold"] })}
          {...row}
        />
      )}
      <Select
        label="Colour"
        data={[{ value: none, label: "none of its own" }, ...colours]}
        value={common(channels.map(({ colour }) => colour ?? none))}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(colour) => set({ colour: colour === none ? null : (colour as Colour) })}
        {...row}
      />
    </>
  );
};

const newBus = (text: string): string => `New bus “${text}”`;

const ChannelFields = ({ doc, channels }: FieldsProps) => {
  const rig = useRig();
  const { set, mixed, plan, channelIds } = useSetting(channels);
  const [only] = channels.length === 1 ? channels : [];
  const passing = channels.filter(isPassing);
  const sums = channels.filter(isSum);
  const level = (field: "faderDb" | "trimDb") => shown(common(channels.map((channel) => fieldText(CHANNELS.fields[field], channel[field]))));
  const tracks = channels.filter(({ kind }) => kind === "track") as readonly Track[];
  const shift = (text: string) => {
    const read = readField(CHANNELS.fields.trimDb, text);
    if (!text.trim()) return true;
    return read.ok && typeof read.value === "number"
      ? plan(planned([{ kind: "channels.shift", channelIds, byDb: read.value as never }]))
      : plan(unplanned(`“${text.trim()}” is no number of dB to shift by.`));
  };
  return (
    <div className={inspector.fields}>
      {only && <TextField label="Name" value={only.name} onKeep={(name) => set({ name })} />}
      <TextField
        label="Output"
        {...shown(common(channels.map(({ output }) => outputText(doc, rig, output))))}
        data={routeChoices(doc, rig, channelIds)}
        asNew={newBus}
        unchosen="it was neither chosen from the list nor said to be new."
        onKeep={(name) => plan(routeByName(doc, rig, { channelIds, name, ids: newIds }))}
      />
      <TextField label="Fader in dB" {...level("faderDb")} onKeep={mixed("faderDb")} />
      {channels.length > 1 && <TextField label="Shift by dB" value="" placeholder="−3" onKeep={shift} />}
      <TextField label="Trim in dB" {...level("trimDb")} onKeep={mixed("trimDb")} />
      <Switch
        label="Polarity over"
        classNames={{ body: inspector.switchBody, labelWrapper: inspector.label }}
        labelPosition="left"
        checked={channels.every(({ polarityTurned }) => polarityTurned)}
        onChange={(event) => set({ polarityTurned: event.currentTarget.checked })}
      />
      {tracks.length === channels.length && (
        <Select
          label="Records"
          data={[
            { value: "before", label: "before its chain" },
            { value: "after", label: "after its chain" },
          ]}
          value={common(tracks.map(({ recordPoint }) => recordPoint))}
          placeholder="various"
          allowDeselect={false}
          {...list}
          onChange={(recordPoint) => set({ recordPoint: recordPoint as Track["recordPoint"] })}
          {...row}
        />
      )}
      {passing.length === channels.length && <PassingFields channels={passing} />}
      {sums.length === channels.length && <SumFields channels={sums} />}
      {only?.kind === "instrument" && <InstrumentFields instrument={only} />}
      {only?.kind === "reference" && <TextField label="File" value={only.file} placeholder="none named" onKeep={(file) => set({ file: file.trim() })} />}
    </div>
  );
};

const SendRow = ({ doc, send }: { readonly doc: Template; readonly send: Send }) => {
  const { act, actPlanned } = useDoing();
  const name = doc.channels[send.toId]?.name ?? "";
  const set = (change: Partial<Pick<Send, "levelDb" | "tap" | "on">>) => act({ commands: [{ kind: "sends.set", sendIds: [send.id], set: change }] });
  const move = (): void =>
    askOne({
      title: `Move the send to ${name}`,
      label: "It should leave",
      options: channelChoices(doc, [send.fromId, send.toId]).map(({ id, label }) => ({ value: id, label })),
      does: "Move the send",
      onDo: (fromId) => act({ commands: [{ kind: "sends.move", sendIds: [send.id], fromId: fromId as ChannelId }] }),
    });
  const level = (text: string): boolean => {
    const read = readField(SENDS.fields.levelDb, text);
    return actPlanned(read.ok ? planned([{ kind: "sends.set", sendIds: [send.id], set: { levelDb: read.value as never } }]) : unplanned(`“${text.trim()}” ${read.says}.`));
  };
  return (
    <li>
      <div className={inspector.fields}>
        <div className={classes.sendHead}>
          <Switch size="xs" aria-label={`Send to ${name}`} checked={send.on} onChange={(event) => set({ on: event.currentTarget.checked })} />
          <span className={send.on ? classes.sendName : `${classes.sendName} ${classes.off}`}>{name}</span>
          <ActionIcon variant="subtle" size="sm" aria-label={`Move the send to ${name} to another channel`} onClick={move}>
            <IconArrowsExchange size={14} aria-hidden />
          </ActionIcon>
          <ActionIcon variant="subtle" size="sm" aria-label={`Take off the send to ${name}`} onClick={() => act({ commands: [{ kind: "sends.remove", sendIds: [send.id] }] })}>
            <IconX size={14} aria-hidden />
          </ActionIcon>
        </div>
        <TextField label="Level in dB" value={fieldText(SENDS.fields.levelDb, send.levelDb)} onKeep={level} />
        <Select
          label="Tapped"
          data={[
            { value: "after", label: "after the fader" },
            { value: "before", label: "before the fader" },
          ]}
          value={send.tap}
          allowDeselect={false}
          {...list}
          onChange={(tap) => set({ tap: tap as Send["tap"] })}
          {...row}
        />
      </div>
    </li>
  );
};

const Sends = ({ doc, channel }: { readonly doc: Template; readonly channel: Channel }) => {
  const sends = sendsOf(doc, channel.id);
  if (!sends.length) return null;
  return (
    <section aria-label="Sends">
      <h3 className={inspector.heading}>{counted(sends.length, "send")}</h3>
      <ul className={classes.sends}>
        {sends.map((send) => (
          <SendRow key={send.id} doc={doc} send={send} />
        ))}
      </ul>
    </section>
  );
};

interface StepsProps {
  readonly heading: string;
  readonly steps: readonly WayStep[];
  readonly colour: Colour | null;
  readonly onGo: (id: ChannelId) => void;
}

const Steps = ({ heading, steps, colour, onGo }: StepsProps) => (
  <section aria-label={heading}>
    <h3 className={inspector.heading}>{heading}</h3>
    <ol className={inspector.way} style={{ borderColor: colour ? dyeVar(colour) : "var(--ink)" }}>
      {steps.slice(0, MOST_FEEDS).map(({ title, detail, channelId }, at) => (
        <li key={at}>
          {channelId ? (
            <button type="button" className={classes.step} onClick={() => onGo(channelId)}>
              {title}
            </button>
          ) : (
            <strong>{title}</strong>
          )}{" "}
          <span>{detail}</span>
        </li>
      ))}
    </ol>
    {steps.length > MOST_FEEDS && <p className={classes.more}>and {steps.length - MOST_FEEDS} more</p>}
  </section>
);

export interface FlowAct {
  readonly id: string;
  readonly label: string;
  readonly key: string;
  /** One of the few that stand at the top. */
  readonly first?: true;
  readonly run: () => void;
}

const Acts = ({ acts }: { readonly acts: readonly FlowAct[] }) => (
  <div className={inspector.acts}>
    {acts.map(({ id, label, key, run }) => (
      <Button
        key={id}
        variant="default"
        size="compact-sm"
        justify="space-between"
        classNames={{ root: inspector.act, label: inspector.actLabel }}
        rightSection={<span className={`${inspector.key} mono`}>{key}</span>}
        onClick={run}
      >
        {label}
      </Button>
    ))}
  </div>
);

interface FlowInspectorProps {
  readonly channels: readonly Channel[];
  readonly acts: readonly FlowAct[];
  readonly onGo: (id: ChannelId) => void;
}

/** What is selected in the picture: its mix, its sends, its way down in words, and what feeds it. */
export const FlowInspector = ({ channels, acts, onGo }: FlowInspectorProps) => {
  const doc = useDesk((desk) => desk.doc);
  const cursor = useDesk((desk) => desk.cursor);
  const selected = useDesk((desk) => desk.selected);
  const rig = useRig();
  const [alone, setAlone] = useState(false);
  const aloneOf = useMemo(() => ({ alone, moved: () => setAlone(false) }), [alone]);
  const [first] = channels;
  if (!first) return null;
  const only = channels.length === 1 ? first : null;
  const colour = channelColour(doc, first);
  const feeds = only && only.kind !== "track" ? feedsOf(doc, only.id) : [];
  return (
    <ShownProvider value={{ doc, cursor, selected }}>
      <AloneContext value={aloneOf}>
        <aside className={classes.panel} aria-label="Inspector">
          <h2 className={inspector.title}>
            <span className={inspector.dot} style={{ background: colour ? dyeVar(colour) : "var(--ink)" }} />
            {only ? only.name || "A channel without a name" : counted(channels.length, "channel")}
          </h2>
          <Acts acts={acts.filter(({ first: top }) => top)} />
          <ChannelFields doc={doc} channels={channels} />
          <HoldFields doc={doc} channels={channels} alone={alone} onAlone={setAlone} />
          {only && <Sends doc={doc} channel={only} />}
          {only && <Steps heading="Down: where it goes" steps={wayOf(doc, rig, only)} colour={colour} onGo={onGo} />}
          {feeds.length > 0 && <Steps heading="Up: what feeds it" steps={feeds} colour={colour} onGo={onGo} />}
          <Acts acts={acts.filter(({ first: top }) => !top)} />
        </aside>
      </AloneContext>
    </ShownProvider>
  );
};
