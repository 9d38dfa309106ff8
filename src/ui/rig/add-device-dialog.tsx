"use client";

import { Button, Group, NumberInput, Select, Stack, TextInput, UnstyledButton } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import { type BareDevice, BLUEPRINTS, type Blueprint } from "@/core/blueprints/blueprints";
import { DEVICE_KINDS } from "@/core/model/tables/devices";
import { readLevels } from "@/core/reading/rig-cells";
import classes from "./add-device.module.css";

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
  const inside = { comboboxProps: { withinPortal: false }, allowDeselect: false } as const;
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
          value={name}
          maxLength={60}
          required
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <Select
          label="Kind"
          data={KINDS}
          value={kind}
          onChange={(value) => setKind(value as BareDevice["kind"])}
          {...inside}
        />
        <Group grow>
          <NumberInput label="Inputs" min={0} max={128} value={inputs} onChange={setInputs} />
          <NumberInput label="Outputs" min={0} max={128} value={outputs} onChange={setOutputs} />
        </Group>
        <Select
          label="Inputs take"
          data={LEVELS}
          value={levels}
          onChange={(value) => setLevels(value ?? "line")}
          {...inside}
        />
        <Select
          label="Phantom"
          data={[
            { value: "own", label: "a switch for each input" },
            { value: "bank", label: "one switch for all" },
            { value: "none", label: "none" },
          ]}
          value={phantom}
          onChange={(value) => setPhantom(value as BareDevice["phantom"])}
          {...inside}
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

/** A device as somebody builds it, or one from scratch. */
export const AddDevice = ({ onBlueprint, onBare }: AddDeviceProps) => {
  const [scratch, setScratch] = useState(false);
  if (scratch) return <FromScratch onBare={onBare} />;
  return (
    <Stack gap={4}>
      {BLUEPRINTS.map((blueprint, at) => (
        <UnstyledButton
          key={blueprint.id}
          className={classes.blueprint}
          data-autofocus={at === 0 || undefined}
          onClick={() => {
            onBlueprint(blueprint);
            modals.closeAll();
          }}
        >
          <strong>{blueprint.name}</strong>
          <span>{blueprint.says}</span>
        </UnstyledButton>
      ))}
      <UnstyledButton className={classes.blueprint} onClick={() => setScratch(true)}>
        <strong>From scratch…</strong>
        <span>Any device: say how many inputs and outputs it has.</span>
      </UnstyledButton>
    </Stack>
  );
};
