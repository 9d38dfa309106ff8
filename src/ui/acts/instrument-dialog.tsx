import { Group, Stack, TextInput } from "@mantine/core";
import { useState } from "react";
import type { ChannelId } from "@/core/model/ids";
import type { CueNeighbour } from "@/core/planning/join-cues";
import { Chooser, newIn } from "../shared/chooser";
import { openModal } from "../shared/open-modal";
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
  const [asked, setAsked] = useState({
    name: "",
    outputsText: "1",
    usedText: "",
    midiChannelText: "",
  });
  const [portId, setPortId] = useState<string | null>(ports[0]?.id ?? NONE);
  const [folder, setFolder] = useState<string | null>(null);
  const [output, setOutput] = useState<string | null>(NONE);
  const all = (): Asked => ({
    ...asked,
    midiPortId: portId === NONE ? null : portId,
    folderText: newIn(folder) ?? folder ?? "",
    outputText: output === NONE ? "" : (output ?? ""),
  });
  const text = (field: keyof typeof asked) => ({
    value: asked[field],
    maxLength: 200,
    onFocus: (event: React.FocusEvent<HTMLInputElement>) => event.target.select(),
    onChange: (event: React.ChangeEvent<HTMLInputElement>) =>
      setAsked({ ...asked, [field]: event.currentTarget.value }),
  });
  return (
    <form onSubmit={submitting(() => onDo({ ...all(), likeId: joins ? (like?.id ?? null) : null }))}>
      <Stack gap="sm">
        <TextInput label="Name" description="Several are parted by commas." data-autofocus {...text("name")} />
        <Group grow align="flex-end">
          <TextInput label="How many stereo outputs" {...text("outputsText")} />
          <TextInput label="Which of them get a track" placeholder="1-4, 7; empty: all" {...text("usedText")} />
        </Group>
        <Group grow align="flex-end">
          <Chooser
            label="Played from"
            options={[{ value: NONE, label: "no port" }, ...ports.map(({ id, label }) => ({ value: id, label }))]}
            value={portId}
            onChange={setPortId}
          />
          <TextInput label="On MIDI channel" placeholder="every channel" {...text("midiChannelText")} />
        </Group>
        <Chooser
          label="Folder of the tracks"
          placeholder="in none; one that is not there is made"
          options={[...new Set(folders)].map((name) => ({ value: name, label: name }))}
          value={folder}
          asNew={(text) => `New folder “${text}”`}
          onChange={setFolder}
        />
        <Chooser
          label="The tracks go to"
          options={[
            { value: NONE, label: "where the folder goes" },
            ...[...new Set(outputs)].map((label) => ({ value: label, label })),
          ]}
          value={output}
          onChange={setOutput}
        />
        <CuesField like={like} joins={joins} onJoins={setJoins} />
      </Stack>
      <Footer does={asked.name.includes(",") ? "Add the instruments" : "Add the instrument"} />
    </form>
  );
};

/** Asks for an instrument and which of its outputs get a track. */
export const askInstrument = (ask: AskInstrument): void =>
  openModal({ title: "Add instruments", children: <InstrumentForm {...ask} /> });
