"use client";

import { useState } from "react";
import { Chooser, newIn } from "../shared/chooser";
import { Footer, submitting } from "./dialog-parts";

interface FolderDialogProps {
  readonly names: readonly string[];
  /** Only a folder that is there can be chosen. */
  readonly existing?: boolean;
  readonly onChoose: (name: string) => boolean;
}

const newFolder = (text: string): string => `New folder “${text}”`;

/** Asks for a folder by name: one that is there, or a new one, which the button says. */
export const FolderDialog = ({ names, existing = false, onChoose }: FolderDialogProps) => {
  const [value, setValue] = useState<string | null>(null);
  const fresh = newIn(value);
  return (
    <form onSubmit={submitting(() => value !== null && onChoose(fresh ?? value))}>
      <Chooser
        first
        label="Folder"
        description={existing ? "Choose one" : "Choose one, or type a name for a new one"}
        options={[...new Set(names)].map((name) => ({ value: name, label: name }))}
        value={value}
        needed="Choose a folder."
        {...(existing ? {} : { asNew: newFolder })}
        onChange={setValue}
      />
      <Footer does={fresh === null ? "Put in folder" : `Make the folder “${fresh.slice(0, 30)}”`} />
    </form>
  );
};
