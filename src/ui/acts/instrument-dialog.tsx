import { Select, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import { Footer, submitting } from "./dialog-parts";

interface Asked {
  readonly name: string;
  readonly outputsText: string;
  readonly usedText: string;
  readonly midiPortId: string | null;
  readonly midiChannelText: string;
}

interface AskInstrument {
  readonly ports: readonly { readonly id: string; readonly label: string }[];
  readonly onDo: (asked: Asked) => boolean;
}

const NONE = "none";

const InstrumentForm = ({ ports, onDo }: AskInstrument) => {
  const [asked, setAsked] = useState<Asked>({ name: "", outputsText: "1", usedText: "", midiPortId: ports[0]?.id ?? null, midiChannelText: "" });
  const text = (field: keyof Asked) => ({
    value: asked[field] ?? "",
    maxLength: 200,
    onFocus: (event: React.FocusEvent<HTMLInputElement>) => event.target.select(),
    onChange: (event: React.ChangeEvent<HTMLInputElement>) => setAsked({ ...asked, [field]: event.currentTarget.value }),
  });
  return (
    <form onSubmit={submitting(() => onDo(asked))}>
      <Stack gap="sm">
        <TextInput label="Name" data-autofocus {...text("name")} />
        <TextInput label="How many stereo outputs" {...text("outputsText")} />
        <TextInput label="Which of them get a track" description="1-4, 7; empty: all of them." {...text("usedText")} />
        <Select
          label="Played from"
          data={[{ value: NONE, label: "no port" }, ...ports.map(({ id, label }) => ({ value: id, label }))]}
          value={asked.midiPortId ?? NONE}
          allowDeselect={false}
          onChange={(id) => setAsked({ ...asked, midiPortId: id === NONE ? null : id })}
        />
        <TextInput label="On MIDI channel" description="Empty: on every channel." {...text("midiChannelText")} />
      </Stack>
      <Footer does="Add the instrument" />
    </form>
  );
};

/** Asks for an instrument and which of its outputs get a track. */
export const askInstrument = (ask: AskInstrument): void => void modals.open({ title: "Add an instrument", children: <InstrumentForm {...ask} /> });
