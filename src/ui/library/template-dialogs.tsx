"use client";

import { Button, Group, Radio, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { type FormEvent, useState } from "react";
import type { RigList } from "@/contracts/answers";
import { SESSION_KIND_NAMES, SESSION_KINDS } from "@/core/model/session-kinds";
import type { Starter } from "@/core/starters/starters";
import { api } from "../shared/api";
import { Chosen } from "../shared/chooser";
import { useSubmit } from "../shared/use-submit";

interface NewTemplateDialogProps {
  readonly starters: readonly Starter[];
  /** The starter to begin with; the dialog offers the others as well. */
  readonly starter?: Starter;
  readonly rigs: RigList["rigs"];
  readonly onMade: (id: string) => void;
}

const EMPTY = "empty";

/** Where a studio has no rig yet, one is made on the way. */
const NO_RIG_YET = "None yet: one that fits is made of the devices that ship with it";

export const rigOptions = (rigs: RigList["rigs"]) =>
  rigs.map((rig) => ({ value: rig.id, label: `${rig.name}, ${rig.inputs} inputs` }));

/** The rig of a new template; where there is none yet, what becomes of it. */
export const RigField = ({
  rigs,
  rigId,
  onRig,
}: {
  readonly rigs: RigList["rigs"];
  readonly rigId: string | null;
  readonly onRig: (id: string) => void;
}) =>
  rigs.length && rigId !== null ? (
    <Chosen label="Rig" options={rigOptions(rigs)} value={rigId} onChange={onRig} />
  ) : (
    <TextInput label="Rig" disabled placeholder={NO_RIG_YET} />
  );

export const NewTemplateDialog = ({ rigs, starters, starter, onMade }: NewTemplateDialogProps) => {
  const [name, setName] = useState(starter?.name ?? "");
  const [kind, setKind] = useState<string>(starter?.kind ?? "band");
  const [begin, setBegin] = useState<string>(starter?.id ?? EMPTY);
  const offered = starters.filter((candidate) => candidate.kind === kind);
  const [rigId, setRigId] = useState<string | null>(rigs[0]?.id ?? null);
  const { busy, error, setError, submit } = useSubmit();
  const make = async (event: FormEvent) => {
    event.preventDefault();
    if (!name.trim()) return setError("A template needs a name.");
    await submit(async () => {
      const made = await api.createTemplate({
        name,
        kind,
        ...(rigId ? { rigId } : {}),
        ...(begin === EMPTY ? {} : { starter: begin }),
      });
      modals.closeAll();
      onMade(made.document.id);
    });
  };
  return (
    <form onSubmit={(event) => void make(event)}>
      <Stack>
        <TextInput
          label="Name"
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
          error={error}
          data-autofocus
          maxLength={200}
        />
        <Radio.Group
          label="Kind of session"
          value={kind}
          onChange={(value) => {
            setKind(value);
            setBegin(EMPTY);
          }}
        >
          <Group gap="md" mt={6}>
            {SESSION_KINDS.map((value) => (
              <Radio key={value} value={value} label={SESSION_KIND_NAMES[value]} />
            ))}
          </Group>
        </Radio.Group>
        <Radio.Group label="Begin with" value={begin} onChange={setBegin}>
          <Stack gap={6} mt={6}>
            <Radio value={EMPTY} label="Nothing: an empty template" />
            {offered.map((candidate) => (
              <Radio key={candidate.id} value={candidate.id} label={candidate.name} description={candidate.says} />
            ))}
          </Stack>
        </Radio.Group>
        <RigField rigs={rigs} rigId={rigId} onRig={setRigId} />
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

export const RenameDialog = ({
  name,
  onRename,
}: {
  readonly name: string;
  readonly onRename: (name: string) => Promise<void>;
}) => {
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
