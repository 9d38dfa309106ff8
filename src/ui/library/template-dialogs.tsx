"use client";

import { Button, Group, Radio, Select, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { type FormEvent, useState } from "react";
import type { RigList } from "@/contracts/answers";
import { SESSION_KIND_NAMES, SESSION_KINDS } from "@/core/model/template";
import { api } from "../shared/api";
import { useSubmit } from "../shared/use-submit";

interface NewTemplateDialogProps {
  readonly rigs: RigList["rigs"];
  readonly onMade: (id: string) => void;
}

export const rigOptions = (rigs: RigList["rigs"]) => rigs.map((rig) => ({ value: rig.id, label: `${rig.name}, ${rig.inputs} inputs` }));

export const NewTemplateDialog = ({ rigs, onMade }: NewTemplateDialogProps) => {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<string>("band");
  const [rigId, setRigId] = useState<string | null>(rigs[0]?.id ?? null);
  const { busy, error, setError, submit } = useSubmit();
  const make = async (event: FormEvent) => {
    event.preventDefault();
    if (!name.trim()) return setError("A template needs a name.");
    await submit(async () => {
      const made = await api.createTemplate({ name, kind, ...(rigId ? { rigId } : {}) });
      modals.closeAll();
      onMade(made.document.id);
    });
  };
  return (
    <form onSubmit={(event) => void make(event)} noValidate>
      <Stack>
        <TextInput label="Name" value={name} onChange={(event) => setName(event.currentTarget.value)} error={error} data-autofocus maxLength={200} />
        <Radio.Group label="Kind of session" value={kind} onChange={setKind}>
          <Group gap="md" mt={6}>
            {SESSION_KINDS.map((value) => (
              <Radio key={value} value={value} label={SESSION_KIND_NAMES[value]} />
            ))}
          </Group>
        </Radio.Group>
        <Select label="Rig" data={rigOptions(rigs)} value={rigId} onChange={setRigId} allowDeselect={false} />
        <Group justify="flex-end">
          <Button variant="default" onClick={() => modals.closeAll()}>
            Cancel
          </Button>
          <Button type="submit" loading={busy}>
            Make template
          </Button>
        </Group>
      </Stack>
    </form>
  );
};

export const RenameDialog = ({ name, onRename }: { readonly name: string; readonly onRename: (name: string) => Promise<void> }) => {
  const [text, setText] = useState(name);
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    if (!text.trim()) return;
    if (text.trim() !== name) await onRename(text.trim());
    modals.closeAll();
  };
  return (
    <form onSubmit={(event) => void keep(event)}>
      <TextInput
        label="Name"
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
        error={text.trim() ? null : "A template needs a name."}
        data-autofocus
        maxLength={200}
      />
      <Group justify="flex-end" mt="md">
        <Button variant="default" onClick={() => modals.closeAll()}>
          Cancel
        </Button>
        <Button type="submit" disabled={!text.trim()}>
          Rename
        </Button>
      </Group>
    </form>
  );
};
