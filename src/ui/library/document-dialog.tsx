"use client";

import { Button, Group, Stack } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import type { RigList } from "@/contracts/answers";
import { api } from "../shared/api";
import { Chosen } from "../shared/chooser";
import { useSubmit } from "../shared/use-submit";
import { rigOptions } from "./template-dialogs";

const ITS_OWN = "its own";

interface DocumentDialogProps {
  readonly file: File;
  readonly rigs: RigList["rigs"];
  readonly onMade: (id: string) => void;
}

/** A template document on its way in: it is kept as it is, on its own rig or another. */
export const DocumentDialog = ({ file, rigs, onMade }: DocumentDialogProps) => {
  const [rigId, setRigId] = useState<string | null>(null);
  const { busy, error, setError, submit } = useSubmit();
  const make = () =>
    submit(async () => {
      const made = await api.importTemplate({ file, ...(rigId ? { rigId } : {}) });
      modals.closeAll();
      onMade(made.template.id);
    });
  return (
    <Stack
      gap="sm"
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      {error && <p role="alert">{error}</p>}
      <p>This is a template document. It is kept as a new template, with everything in it.</p>
      <Chosen
        label="Rig"
        options={[{ value: ITS_OWN, label: "the one it was made for" }, ...rigOptions(rigs)]}
        value={rigId ?? ITS_OWN}
        onChange={(id) => {
          setRigId(id === ITS_OWN ? null : id);
          setError(null);
        }}
      />
      <Group justify="flex-end">
        <Button variant="default" onClick={() => modals.closeAll()}>
          Cancel
        </Button>
        <Button type="submit" loading={busy} disabled={error !== null} data-autofocus>
          Make template
        </Button>
      </Group>
    </Stack>
  );
};
