"use client";

import { Button, Group, NumberInput, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import { type BareDevice, BLUEPRINTS, type Blueprint } from "@/core/blueprints/blueprints";
import { DEVICE_KINDS } from "@/core/model/tables/devices";
import { readLevels } from "@/core/reading/rig-cells";
import { Footer, submitting } from "../acts/dialog-parts";
import { Chooser, Chosen } from "../shared/chooser";

interface AddDeviceProps {
  readonly onBlueprint: (blueprint: Blueprint) => void;
  readonly onBare: (device: BareDevice) => void;
}

const KINDS = DEVICE_KINDS.map((value) => ({
  value,
  label: value === "preamp" ? "outside preamp" : value.replace("-", " "),
}));
const LEVELS = ["microphone, line", "microphone", "line", "instrument", "microphone, line, instrument"];

const FromScratch = ({ onBare }: Pick<AddDeviceProps, "onBare">) => {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<BareDevice["kind"]>("interface");
  const [inputs, setInputs] = useState<number | string>(8);
  const [outputs, setOutputs] = useState<number | string>(8);
  const [levels, setLevels] = useState<string>("microphone, line");
  const [phantom, setPhantom] = useState<BareDevice["phantom"]>("own");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!name.trim()) return;
        onBare({
          name: name.trim(),
          kind,
          inputs: Number(inputs) || 0,
          outputs: Number(outputs) || 0,
          inputLevels: readLevels(levels) ?? ["line"],
          phantom,
        });
        modals.closeAll();
      }}
    >
      <Stack gap="xs">
        <TextInput
          label="Name"
          data-autofocus
          value={name}
          maxLength={60}
          required
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <Chosen label="Kind" options={KINDS} value={kind} onChange={(value) => setKind(value as BareDevice["kind"])} />
        <Group grow>
          <NumberInput label="Inputs" min={0} max={128} value={inputs} onChange={setInputs} />
          <NumberInput label="Outputs" min={0} max={128} value={outputs} onChange={setOutputs} />
        </Group>
        <Chosen
          label="Inputs accept"
          options={LEVELS.map((level) => ({ value: level, label: level }))}
          value={levels}
          onChange={(value) => setLevels(value)}
        />
        <Chosen
          label="Phantom"
          options={[
            { value: "own", label: "a switch for each input" },
            { value: "bank", label: "one switch for all" },
            { value: "none", label: "none" },
          ]}
          value={phantom}
          onChange={(value) => setPhantom(value as BareDevice["phantom"])}
        />
      </Stack>
      <Group justify="flex-end" mt="md">
        <Button type="submit" disabled={!name.trim()}>
          Add it
        </Button>
      </Group>
    </form>
  );
};

const SCRATCH = "scratch";

/** A device as somebody builds it, or one from scratch. */
export const AddDevice = ({ onBlueprint, onBare }: AddDeviceProps) => {
  const [scratch, setScratch] = useState(false);
  const [value, setValue] = useState<string | null>(null);
  if (scratch) return <FromScratch onBare={onBare} />;
  const choose = (): boolean => {
    const blueprint = BLUEPRINTS.find(({ id }) => id === value);
    if (blueprint) onBlueprint(blueprint);
    else setScratch(true);
    return blueprint !== undefined;
  };
  return (
    <form onSubmit={submitting(choose)}>
      <Chooser
        first
        label="Device"
        description="As its maker builds it; what is special about yours is set afterwards."
        options={[
          ...BLUEPRINTS.map(({ id, name, says }) => ({ value: id, label: name, note: says, words: [says] })),
          {
            value: SCRATCH,
            label: "From scratch…",
            note: "Any device: say how many inputs and outputs it has.",
            words: ["new", "other", "own"],
          },
        ]}
        value={value}
        needed="Choose a device."
        onChange={setValue}
      />
      <Footer does={value === SCRATCH ? "Say what it has…" : "Add it"} />
    </form>
  );
};
