"use client";

import { UnstyledButton } from "@mantine/core";
import { IconPencil } from "@tabler/icons-react";
import { tellRefusal } from "../shared/notices";
import { useTyped } from "../shared/typed";
import { useDoc, useDocContext } from "../state/doc-context";
import classes from "./frame.module.css";

/** The name of what is shown, edited where it stands: Enter keeps, Esc leaves it. */
export const DocumentName = () => {
  const name = useDoc((state) => state.doc.name);
  const { what, rename } = useDocContext();
  const label = `Name of the ${what}`;
  const { draft, open, setDraft, close } = useTyped({ label, value: name, of: what, gone: "another one is shown." });
  const keep = () => {
    const refusal = open && draft !== null && draft.trim() !== name ? rename(draft) : null;
    if (refusal) tellRefusal(refusal);
    close();
  };
  if (draft === null || !open)
    return (
      <UnstyledButton className={classes.name} aria-label={`Rename the ${what} ${name}`} onClick={() => setDraft(name)}>
        {name} <IconPencil size={14} stroke={1.7} aria-hidden style={{ verticalAlign: "-2px", marginLeft: 4 }} />
      </UnstyledButton>
    );
  return (
    <input
      className={classes.nameInput}
      aria-label={label}
      value={draft}
      maxLength={200}
      // biome-ignore lint/a11y/noAutofocus: the field stands where the button was that was pressed
      autoFocus
      onFocus={(event) => event.target.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === "Enter") keep();
        if (event.key === "Escape") close();
      }}
    />
  );
};
