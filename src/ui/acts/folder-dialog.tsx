"use client";

import { Autocomplete, Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import { offer } from "../shared/offered";

interface FolderDialogProps {
  readonly names: readonly string[];
  /** Only a folder that is there can be chosen. */
  readonly existing?: boolean;
  readonly onChoose: (name: string) => boolean;
}

/** Asks for a folder by name: one that is there, or a new one, which the button says. */
export const FolderDialog = ({ names, existing = false, onChoose }: FolderDialogProps) => {
  const [name, setName] = useState("");
  const { data, exact } = offer({ text: name, untouched: false, known: names });
  const choose = () => {
    if (name.trim() && onChoose(exact ?? name)) modals.closeAll();
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        choose();
      }}
    >
      <Autocomplete
        label="Folder"
        description={existing ? "Choose one" : "Choose one, or type a name for a new one"}
        data={[...data]}
        filter={({ options }) => options}
        selectFirstOptionOnChange={name.trim() !== "" && exact === null}
        value={name}
        onChange={setName}
        data-autofocus
        maxLength={200}
        comboboxProps={{ withinPortal: false }}
      />
      <Group justify="flex-end" mt="md">
        <Button variant="default" onClick={() => modals.closeAll()}>
          Cancel
        </Button>
        <Button type="submit" disabled={!name.trim() || (existing && exact === null)}>
          {exact || existing || !name.trim() ? "Put in folder" : `Make the folder “${name.trim().slice(0, 30)}”`}
        </Button>
      </Group>
    </form>
  );
};
