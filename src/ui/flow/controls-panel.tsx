"use client";

import { ActionIcon, Button, Select, Switch } from "@mantine/core";
import { IconPlus, IconTrash, IconX } from "@tabler/icons-react";
import { useMemo } from "react";
import type { ChannelId, ControlId } from "@/core/model/ids";
import { entriesOf } from "@/core/model/table";
import { CONTROLS, type Control } from "@/core/model/tables/controls";
import type { Template } from "@/core/model/template";
import { ridersOf } from "@/core/planning/edits/hold-edits";
import { planned, unplanned } from "@/core/planning/gesture";
import { fieldText, readField } from "@/core/reading/field-text";
import { askTexts } from "../acts/chain-dialogs";
import { newIds } from "../grid/grid-focus";
import { ShownProvider } from "../grid/shown";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDesk, useDeskStore, useDoing } from "../state/desk-context";
import classes from "./flow.module.css";

interface ControlProps {
  readonly doc: Template;
  readonly control: Control;
  readonly onGo: (id: ChannelId) => void;
}

const NONE = "none";

const ControlRow = ({ doc, control, onGo }: ControlProps) => {
  const { act, actPlanned } = useDoing();
  const set = (values: Partial<Omit<Control, "id">>) =>
    act({ edits: [{ kind: "entries.set", table: "controls", ids: [control.id], set: values }] });
  const level = (text: string): boolean => {
    const read = readField(CONTROLS.fields.faderDb, text);
    return actPlanned(
      read.ok
        ? planned([
            { kind: "entries.set", table: "controls", ids: [control.id], set: { faderDb: read.value as never } },
          ])
        : unplanned(`“${text.trim()}” ${read.says}.`),
    );
  };
  const { channels } = ridersOf(doc, control.id);
  const others = entriesOf(doc.controls).filter(({ id }) => id !== control.id);
  return (
    <li>
      <div className={classes.sendHead}>
        <span className={classes.sendName}>{control.name}</span>
        <ActionIcon
          variant="subtle"
          size="sm"
          aria-label={`Remove the control fader ${control.name}`}
          onClick={() => act({ edits: [{ kind: "entries.remove", table: "controls", ids: [control.id] }] })}
        >
          <IconTrash size={14} aria-hidden />
        </ActionIcon>
      </div>
      <div className={inspector.fields}>
        <TextField label="Name" value={control.name} onKeep={(name) => set({ name })} />
        <TextField label="Fader in dB" value={fieldText(CONTROLS.fields.faderDb, control.faderDb)} onKeep={level} />
        <Switch
          label="Muted"
          classNames={{ body: inspector.switchBody, labelWrapper: inspector.label }}
          labelPosition="left"
          checked={control.muted}
          onChange={(event) => set({ muted: event.currentTarget.checked })}
        />
        {others.length > 0 && (
          <Select
            label="Under"
            data={[
              { value: NONE, label: "nothing" },
              ...others.map(({ id, name }) => ({ value: id as string, label: name })),
            ]}
            value={control.parentId ?? NONE}
            allowDeselect={false}
            {...list}
            onChange={(id) => set({ parentId: id === NONE || id === null ? null : (id as ControlId) })}
            {...row}
          />
        )}
      </div>
      <p className={classes.more}>
        {channels.length === 0 && "Over nothing yet: select channels, and put it over them by Alt Shift O."}
        {channels.map(({ id, name }, at) => (
          <span key={id}>
            {at > 0 && ", "}
            <button type="button" className={classes.step} onClick={() => onGo(id)}>
              {name || "a channel without a name"}
            </button>
          </span>
        ))}
      </p>
    </li>
  );
};

/** The control faders of a template: what they add, and over what. */
export const ControlsPanel = ({
  onGo,
  onClose,
}: {
  readonly onGo: (id: ChannelId) => void;
  readonly onClose: () => void;
}) => {
  const doc = useDesk((desk) => desk.doc);
  const desk = useDeskStore();
  const { act } = useDoing();
  const controls = entriesOf(doc.controls);
  // What is typed here belongs to the panel, whatever is selected in the picture.
  const shown = useMemo((): readonly ChannelId[] => [], []);
  const add = (): void =>
    askTexts({
      title: "Add a control fader",
      fields: [
        {
          label: "Name",
          description: desk.getState().selected.length
            ? "It is laid over what is selected."
            : "Put it over channels afterwards.",
        },
      ],
      does: "Add the control fader",
      onDo: ([name = ""]) => {
        const channelIds = desk.getState().selected.filter((id) => doc.channels[id]?.kind !== "main");
        return act({
          edits: [{ kind: "controls.add", control: { id: newIds<ControlId>("control"), name }, channelIds }],
        });
      },
    });
  return (
    <ShownProvider value={{ doc, cursor: null, selected: shown }}>
      <aside className={classes.panel} aria-label="Control faders">
        <div className={classes.sendHead}>
          <h2 className={`${inspector.title} ${classes.sendName}`}>Control faders</h2>
          <ActionIcon variant="subtle" size="sm" aria-label="Close" onClick={onClose}>
            <IconX size={15} aria-hidden />
          </ActionIcon>
        </div>
        <p className={classes.more}>They carry no sound: each adds its dB and its mute to everything under it.</p>
        <Button variant="default" size="compact-sm" leftSection={<IconPlus size={14} aria-hidden />} onClick={add}>
          Add a control fader…
        </Button>
        <ul className={classes.sends}>
          {controls.map((control) => (
            <ControlRow key={control.id} doc={doc} control={control} onGo={onGo} />
          ))}
        </ul>
      </aside>
    </ShownProvider>
  );
};
