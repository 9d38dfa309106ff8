"use client";

import { Autocomplete, Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";

interface FolderDialogProps {
  readonly names: readonly string[];
  /** Only a folder that is there can be chosen. */
  readonly existing?: boolean;
  readonly onChoose: (name: string) => boolean;
}

/** Asks for a folder by name: one that is there, or a new one. */
export const FolderDialog = ({ names, existing = false, onChoose }: FolderDialogProps) => {
  const [name, setName] = useState("");
  const choose = () => {
    if (name.trim() && onChoose(name)) modals.closeAll();
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
        data={[...new Set(names)]}
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
        <Button type="submit" disabled={!name.trim()}>
          Put in folder
        </Button>
      </Group>
    </form>
  );
};
