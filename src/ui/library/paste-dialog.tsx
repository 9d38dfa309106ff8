"use client";

import { Button, Group, Textarea } from "@mantine/core";
import { type FormEvent, useState } from "react";

/** A list as text: out of a spreadsheet, a mail, a message. */
export const PasteDialog = ({ onText }: { readonly onText: (text: string) => void }) => {
  const [text, setText] = useState("");
  const [error, setError] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim()) onText(text);
    else setError("Paste the rows of a list here: one line for each input.");
  };
  return (
    <form onSubmit={submit}>
      <Textarea
        label="Rows of the list"
        description="With or without a heading row; cells parted by tabs, commas or semicolons"
        placeholder={"1\tBass drum\tmoving coil\n2\tSnare\tmoving coil"}
        value={text}
        error={error}
        autosize
        minRows={8}
        maxRows={16}
        data-autofocus
        styles={{ input: { fontFamily: "var(--mantine-font-family-monospace)" } }}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Group justify="flex-end" mt="md">
        <Button type="submit">Read the list</Button>
      </Group>
    </form>
  );
};
