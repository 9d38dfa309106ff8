"use client";

import { Button, MultiSelect, Switch } from "@mantine/core";
import type { ControlId } from "@/core/model/ids";
import { entriesOf } from "@/core/model/table";
import type { Channel } from "@/core/model/tables/channels";
import { type Gang, HELD_ATTRIBUTES, type HeldAttribute } from "@/core/model/tables/gangs";
import type { Template } from "@/core/model/template";
import { controlledBy } from "@/core/queries/controls";
import { formatDb, formatLevel } from "@/core/units/decibels";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDoing } from "../state/desk-context";
import classes from "./flow.module.css";

type Passing = Exclude<Channel, { readonly kind: "main" }>;

const WORDS: { readonly [A in HeldAttribute]: string } = {
  level: "Levels",
  mute: "Mutes",
  pan: "Pans",
  sends: "Sends",
};
const switches = {
  classNames: { body: inspector.switchBody, labelWrapper: inspector.label },
  labelPosition: "left",
} as const;

interface GangFieldsProps {
  readonly doc: Template;
  readonly gang: Gang;
  readonly channels: readonly Passing[];
  readonly alone: boolean;
  readonly onAlone: (alone: boolean) => void;
}

/** The gang that holds what is selected: what moves together, and leaving one out for one move. */
const GangFields = ({ doc, gang, channels, alone, onAlone }: GangFieldsProps) => {
  const { act } = useDoing();
  const set = (values: Partial<Gang>) =>
    act({ edits: [{ kind: "entries.set", table: "gangs", ids: [gang.id], set: values }] });
  const members = entriesOf<Channel>(doc.channels).filter(
    (channel): channel is Passing => channel.kind !== "main" && channel.gangId === gang.id,
  );
  const past = channels.filter(({ pastEndDb }) => pastEndDb !== 0);
  const silent = gang.level ? members.filter(({ faderDb }) => faderDb === null) : [];
  return (
    <section aria-label="Held together">
      <h3 className={inspector.heading}>Held together</h3>
      <div className={inspector.fields}>
        <TextField label="Name" value={gang.name} placeholder="no name" onKeep={(name) => set({ name })} />
        {HELD_ATTRIBUTES.map((attribute) => (
          <Switch
            key={attribute}
            label={WORDS[attribute]}
            {...switches}
            checked={gang[attribute]}
            onChange={(event) => set({ [attribute]: event.currentTarget.checked })}
          />
        ))}
        <Switch
          label="Next move alone"
          {...switches}
          checked={alone}
          onChange={(event) => onAlone(event.currentTarget.checked)}
        />
      </div>
      <p className={classes.more}>{members.map(({ name }) => name || "a channel without a name").join(", ")}</p>
      {past.map(({ id, name, pastEndDb }) => (
        <p key={id} className={classes.more}>
          {name} would stand {formatDb(pastEndDb)} past the end of its fader; it comes back to the same difference.
        </p>
      ))}
      {silent.map(({ id, name, beforeSilenceDb }) => (
        <p key={id} className={classes.more}>
          {beforeSilenceDb === null
            ? `${name} was silent by itself: it stays at −∞ whatever the others do, until it is set.`
            : `${name} stood at ${formatLevel(beforeSilenceDb)} before silence; when one of them is set it comes back with the same difference.`}
        </p>
      ))}
      <Button
        variant="default"
        size="compact-sm"
        onClick={() => act({ edits: [{ kind: "gangs.join", channelIds: channels.map(({ id }) => id), gangId: null }] })}
      >
        Let {channels.length === 1 ? "it" : "them"} move alone from now on
      </Button>
    </section>
  );
};

const RideFields = ({ doc, channels }: Pick<GangFieldsProps, "doc" | "channels">) => {
  const { act } = useDoing();
  const controls = entriesOf(doc.controls);
  const [first] = channels;
  if (!controls.length || !first) return null;
  const held = first.controlIds.filter((id) => channels.every(({ controlIds }) => controlIds.includes(id)));
  const ride = (ids: readonly string[]): void => {
    const channelIds = channels.map(({ id }) => id);
    const on = ids.find((id) => !held.includes(id as ControlId));
    const off = held.find((id) => !ids.includes(id));
    if (on) act({ edits: [{ kind: "controls.ride", channelIds, controlId: on as ControlId, on: true }] });
    else if (off) act({ edits: [{ kind: "controls.ride", channelIds, controlId: off, on: false }] });
  };
  const { db, muted } = controlledBy(doc, first);
  return (
    <section aria-label="Control faders over it">
      <div className={inspector.fields}>
        <MultiSelect
          label="Control faders"
          data={controls.map(({ id, name }) => ({ value: id as string, label: name }))}
          value={held}
          placeholder={held.length ? "" : "nothing"}
          {...list}
          onChange={ride}
          {...row}
        />
      </div>
      {channels.length === 1 && held.length > 0 && (
        <p className={classes.more}>
          {db === 0 ? "They add nothing now" : `They add ${formatLevel(db)}`}
          {muted ? ", and mute it" : ""}.
        </p>
      )}
    </section>
  );
};

interface HoldFieldsProps {
  readonly doc: Template;
  readonly channels: readonly Channel[];
  readonly alone: boolean;
  readonly onAlone: (alone: boolean) => void;
}

/** What holds the selected channels: a gang, control faders. */
export const HoldFields = ({ doc, channels, alone, onAlone }: HoldFieldsProps) => {
  const passing = channels.filter((channel): channel is Passing => channel.kind !== "main");
  const [first] = passing;
  if (!first || passing.length !== channels.length) return null;
  const gang =
    first.gangId && passing.every(({ gangId }) => gangId === first.gangId) ? doc.gangs[first.gangId] : undefined;
  return (
    <>
      {gang && <GangFields doc={doc} gang={gang} channels={passing} alone={alone} onAlone={onAlone} />}
      <RideFields doc={doc} channels={passing} />
    </>
  );
};
