import { Autocomplete, Group, Select, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import type { ChannelId } from "@/core/model/ids";
import type { CueNeighbour } from "@/core/planning/join-cues";
import { CuesField } from "./cues-field";
import { Footer, submitting } from "./dialog-parts";

interface Asked {
  readonly name: string;
  readonly outputsText: string;
  readonly usedText: string;
  readonly midiPortId: string | null;
  readonly midiChannelText: string;
  readonly folderText: string;
  readonly outputText: string;
}

interface AskInstrument {
  readonly ports: readonly { readonly id: string; readonly label: string }[];
  readonly folders: readonly string[];
  readonly outputs: readonly string[];
  /** Whose levels in the cues their tracks would take. */
  readonly like: CueNeighbour | null;
  readonly onDo: (asked: Asked & { readonly likeId: ChannelId | null }) => boolean;
}

const NONE = "none";

const InstrumentForm = ({ ports, folders, outputs, like, onDo }: AskInstrument) => {
  const [joins, setJoins] = useState(true);
  const [asked, setAsked] = useState<Asked>({
    name: "",
    outputsText: "1",
    usedText: "",
    midiPortId: ports[0]?.id ?? null,
    midiChannelText: "",
    folderText: "",
    outputText: "",
  });
  const text = (field: keyof Asked) => ({
    value: asked[field] ?? "",
    maxLength: 200,
    onFocus: (event: React.FocusEvent<HTMLInputElement>) => event.target.select(),
    onChange: (event: React.ChangeEvent<HTMLInputElement>) =>
      setAsked({ ...asked, [field]: event.currentTarget.value }),
  });
  return (
    <form onSubmit={submitting(() => onDo({ ...asked, likeId: joins ? (like?.id ?? null) : null }))}>
      <Stack gap="sm">
        <TextInput label="Name" description="Several are parted by commas." data-autofocus {...text("name")} />
        <Group grow align="flex-end">
          <TextInput label="How many stereo outputs" {...text("outputsText")} />
          <TextInput label="Which of them get a track" placeholder="1-4, 7; empty: all" {...text("usedText")} />
        </Group>
        <Group grow align="flex-end">
          <Select
            label="Played from"
            data={[{ value: NONE, label: "no port" }, ...ports.map(({ id, label }) => ({ value: id, label }))]}
            value={asked.midiPortId ?? NONE}
            allowDeselect={false}
            onChange={(id) => setAsked({ ...asked, midiPortId: id === NONE ? null : id })}
          />
          <TextInput label="On MIDI channel" placeholder="every channel" {...text("midiChannelText")} />
        </Group>
        <Autocomplete
          label="Folder of the tracks"
          placeholder="in none; one that is not there is made"
          data={[...new Set(folders)]}
          value={asked.folderText}
          maxLength={200}
          maxDropdownHeight={160}
          onChange={(folderText) => setAsked({ ...asked, folderText })}
        />
        <Select
          label="The tracks go to"
          data={[
            { value: NONE, label: "where the folder goes" },
            ...[...new Set(outputs)].map((label) => ({ value: label, label })),
          ]}
          value={asked.outputText || NONE}
          allowDeselect={false}
          maxDropdownHeight={160}
          onChange={(output) => setAsked({ ...asked, outputText: output === NONE ? "" : (output ?? "") })}
        />
        <CuesField like={like} joins={joins} onJoins={setJoins} />
      </Stack>
      <Footer does={asked.name.includes(",") ? "Add the instruments" : "Add the instrument"} />
    </form>
  );
};

/** Asks for an instrument and which of its outputs get a track. */
export const askInstrument = (ask: AskInstrument): void =>
  void modals.open({ title: "Add instruments", children: <InstrumentForm {...ask} /> });
