"use client";

import { ActionIcon, Button, Select, Switch } from "@mantine/core";
import { IconArrowsExchange, IconX } from "@tabler/icons-react";
import { memo, useMemo, useState } from "react";
import { channelColour } from "@/core/layout/channel-colour";
import { type HeardIn, heardInWords, toldWays } from "@/core/layout/flow/ears";
import { feedsOf, type WayStep, wayOf } from "@/core/layout/signal-path";
import type { Colour } from "@/core/model/colours";
import type { ChannelId } from "@/core/model/ids";
import type { Channel } from "@/core/model/tables/channels";
import { SENDS, type Send } from "@/core/model/tables/sends";
import type { Template } from "@/core/model/template";
import { channelChoices } from "@/core/planning/chain-plans";
import { planned, unplanned } from "@/core/planning/gesture";
import { sendsOf } from "@/core/queries/sends";
import { fieldText, readField } from "@/core/reading/field-text";
import { counted } from "@/core/units/counted";
import { type Act, canBeDone } from "../acts/act-model";
import { askOne } from "../acts/chain-dialogs";
import { ShownProvider, useLatePanel } from "../grid/shown";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDoing, useRig } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import { ChannelFields } from "./channel-fields";
import classes from "./flow.module.css";
import { HoldFields } from "./hold-fields";
import { LevelNote } from "./level-note";
import { AloneContext } from "./use-setting";

/** So many feeders are listed; the rest is counted. */
const MOST_FEEDS = 12;

const SendRow = ({ doc, send }: { readonly doc: Template; readonly send: Send }) => {
  const { act, actPlanned } = useDoing();
  const name = doc.channels[send.toId]?.name ?? "";
  const set = (change: Partial<Pick<Send, "levelDb" | "tap" | "on">>) =>
    act({ edits: [{ kind: "entries.set", table: "sends", ids: [send.id], set: change }] });
  const move = (): void =>
    askOne({
      title: `Move the send to ${name}`,
      label: "Leaves",
      options: channelChoices(doc, [send.fromId, send.toId]).map(({ id, label }) => ({ value: id, label })),
      does: "Move the send",
      onDo: (fromId) =>
        act({ edits: [{ kind: "entries.set", table: "sends", ids: [send.id], set: { fromId: fromId as ChannelId } }] }),
    });
  const level = (text: string): boolean => {
    const read = readField(SENDS.fields.levelDb, text);
    return actPlanned(
      read.ok
        ? planned([{ kind: "entries.set", table: "sends", ids: [send.id], set: { levelDb: read.value as never } }])
        : unplanned(`“${text.trim()}” ${read.says}.`),
    );
  };
  return (
    <li>
      <div className={inspector.fields}>
        <div className={classes.sendHead}>
          <Switch
            size="xs"
            aria-label={`Send to ${name}`}
            checked={send.on}
            onChange={(event) => set({ on: event.currentTarget.checked })}
          />
          <span className={send.on ? classes.sendName : `${classes.sendName} ${classes.off}`}>{name}</span>
          <ActionIcon
            variant="subtle"
            size="sm"
            aria-label={`Move the send to ${name} to another channel`}
            onClick={move}
          >
            <IconArrowsExchange size={14} aria-hidden />
          </ActionIcon>
          <ActionIcon
            variant="subtle"
            size="sm"
            aria-label={`Take off the send to ${name}`}
            onClick={() => act({ edits: [{ kind: "entries.remove", table: "sends", ids: [send.id] }] })}
          >
            <IconX size={14} aria-hidden />
          </ActionIcon>
        </div>
        <TextField label="Level in dB" value={fieldText(SENDS.fields.levelDb, send.levelDb)} onKeep={level} />
        <Select
          label="Before / after the fader"
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

const Acts = ({ acts }: { readonly acts: readonly Act[] }) => (
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

/** Who hears what is selected, by which way and how late. */
const HeardBy = ({
  doc,
  id,
  heard,
}: {
  readonly doc: Template;
  readonly id: ChannelId;
  readonly heard: readonly HeardIn[];
}) => {
  const told = heard.filter(({ ways }) => ways.length > 0);
  if (!told.length) return null;
  return (
    <section aria-label="Heard by">
      <h3 className={inspector.heading}>Heard by</h3>
      <ul className={classes.heard}>
        {told.map(({ cueId, name, ways }) => (
          <li key={cueId}>
            <b>{name}</b>{" "}
            {toldWays(ways)
              .map((way) => heardInWords(doc, id, way))
              .join("; ")}
          </li>
        ))}
      </ul>
    </section>
  );
};

interface FlowInspectorProps {
  readonly acts: () => readonly Act[];
  readonly heard: readonly HeardIn[];
  readonly onGo: (id: ChannelId) => void;
}

/**
 * What is selected in the picture: its mix, its sends, its way down in words, and what feeds it. It comes after the
 * picture, and can't be touched before.
 */
export const FlowInspector = memo(({ acts: gather, heard, onGo }: FlowInspectorProps) => {
  const { panel, shown } = useLatePanel();
  const { doc, selected } = shown;
  const channels = useMemo(() => selected.flatMap((id) => doc.channels[id] ?? []), [selected, doc]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what can be done hangs on what is selected, and on the document
  const acts = useMemo(gather, [gather, shown]);
  const rig = useRig();
  const [alone, setAlone] = useState(false);
  const aloneOf = useMemo(() => ({ alone, moved: () => setAlone(false) }), [alone]);
  const [first] = channels;
  if (!first) return null;
  const only = channels.length === 1 ? first : null;
  const colour = channelColour(doc, first);
  const feeds = only && only.kind !== "track" ? feedsOf(doc, rig, only.id) : [];
  return (
    <ShownProvider value={shown}>
      <AloneContext value={aloneOf}>
        <aside ref={panel} className={classes.panel} aria-label="Inspector">
          <h2 className={inspector.title}>
            <span className={inspector.dot} style={{ background: colour ? dyeVar(colour) : "var(--ink)" }} />
            {only ? only.name || "A channel without a name" : counted(channels.length, "channel")}
          </h2>
          <Acts acts={acts.filter((act) => act.first && canBeDone(act))} />
          {only && <Steps heading="Down: where it goes" steps={wayOf(doc, rig, only)} colour={colour} onGo={onGo} />}
          {only && <HeardBy doc={doc} id={only.id} heard={heard} />}
          {feeds.length > 0 && <Steps heading="Up: what feeds it" steps={feeds} colour={colour} onGo={onGo} />}
          <ChannelFields doc={doc} channels={channels} />
          <HoldFields doc={doc} channels={channels} alone={alone} onAlone={setAlone} />
          {only && <LevelNote doc={doc} channel={only} />}
          {only && <Sends doc={doc} channel={only} />}
          <Acts acts={acts.filter((act) => !act.first && act.scope !== "list" && canBeDone(act))} />
        </aside>
      </AloneContext>
    </ShownProvider>
  );
});
FlowInspector.displayName = "FlowInspector";
