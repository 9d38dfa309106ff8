"use client";

import { Stack, Textarea, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useState } from "react";
import { Footer } from "../acts/dialog-parts";
import type { VersionFields } from "../shared/api";
import { useSubmit } from "../shared/use-submit";

interface VersionDialogProps {
  readonly does: string;
  readonly first: { readonly name: string; readonly note: string; readonly tried: string };
  readonly onKeep: (fields: Omit<VersionFields, "revision">) => Promise<void>;
}

/** Asks for the name of a version, a note and what was tried. */
export const VersionDialog = ({ does, first, onKeep }: VersionDialogProps) => {
  const [fields, setFields] = useState(first);
  const { error, setError, submit } = useSubmit();
  const put = (field: keyof typeof fields) => (event: { readonly currentTarget: { readonly value: string } }) =>
    setFields({ ...fields, [field]: event.currentTarget.value });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!fields.name.trim()) return setError("A version needs a name, for example what was new in it.");
        void submit(async () => {
          await onKeep({ ...fields, name: fields.name.trim() });
          modals.closeAll();
        });
      }}
    >
      <Stack gap="sm">
        <TextInput
          data-autofocus
          label="Name"
          maxLength={100}
          value={fields.name}
          error={error}
          onChange={put("name")}
        />
        <TextInput
          label="What was tried"
          placeholder="plugged in once, all heard"
          maxLength={400}
          value={fields.tried}
          onChange={put("tried")}
        />
        <Textarea label="Note" autosize minRows={2} maxLength={4000} value={fields.note} onChange={put("note")} />
      </Stack>
      <Footer does={does} />
    </form>
  );
};
