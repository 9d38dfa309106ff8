"use client";

import { Select } from "@mantine/core";
import { CHANNELS, type Instrument } from "@/core/model/tables/channels";
import { midiChoices } from "@/core/planning/add-instrument";
import { planned, unplanned } from "@/core/planning/gesture";
import { fieldText, readField } from "@/core/reading/field-text";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDoing, useRig } from "../state/desk-context";

const NONE = "none";

/** What plays an instrument, and how many outputs it has. */
export const InstrumentFields = ({ instrument }: { readonly instrument: Instrument }) => {
  const { act, actPlanned } = useDoing();
  const rig = useRig();
  const set = (values: Partial<Pick<Instrument, "midiPortId" | "midiChannel" | "outputs">>) =>
    act({ edits: [{ kind: "entries.set", table: "channels", ids: [instrument.id], set: values }] });
  const fields = CHANNELS.kinds.instrument;
  const typed = (field: "midiChannel" | "outputs") => (text: string) => {
    const read = readField(fields[field], text.trim() || String(fields[field].initial));
    return actPlanned(
      read.ok
        ? planned([{ kind: "entries.set", table: "channels", ids: [instrument.id], set: { [field]: read.value } }])
        : unplanned(`“${text.trim()}” ${read.says}.`),
    );
  };
  const ports = midiChoices(rig);
  const gone = instrument.midiPortId !== null && !ports.some(({ id }) => id === instrument.midiPortId);
  return (
    <>
      <Select
        label="Played from"
        data={[
          { value: NONE, label: "no port" },
          ...ports.map(({ id, label }) => ({ value: id, label })),
          ...(gone && instrument.midiPortId
            ? [{ value: instrument.midiPortId, label: "a port that is not here" }]
            : []),
        ]}
        value={instrument.midiPortId ?? NONE}
        allowDeselect={false}
        {...list}
        onChange={(id) => set({ midiPortId: id === NONE ? null : id })}
        {...row}
      />
      <TextField
        label="MIDI channel"
        value={instrument.midiChannel ? fieldText(fields.midiChannel, instrument.midiChannel) : ""}
        placeholder="every channel"
        onKeep={typed("midiChannel")}
      />
      <TextField label="Outputs" value={fieldText(fields.outputs, instrument.outputs)} onKeep={typed("outputs")} />
    </>
  );
};
