"use client";

import { ActionIcon, Tooltip } from "@mantine/core";
import { IconArrowBackUp, IconArrowForwardUp } from "@tabler/icons-react";
import { useDocLater, useUndoing } from "../state/doc-context";

interface StepButtonProps {
  readonly does: "Undo" | "Redo";
  readonly shortcut: string;
  /** What it would do; absent when there is nothing. */
  readonly name: string | undefined;
  readonly Glyph: typeof IconArrowBackUp;
  readonly onStep: () => void;
}

const StepButton = ({ does, shortcut, name, Glyph, onStep }: StepButtonProps) => {
  const label = name ? `${does}: ${name}` : `Nothing to ${does.toLowerCase()}`;
  return (
    <Tooltip label={`${label} (${shortcut})`}>
      <ActionIcon
        variant="subtle"
        color="gray"
        aria-label={label}
        aria-disabled={!name}
        data-disabled={!name || undefined}
        style={{ background: "transparent" }}
        onClick={() => name && onStep()}
      >
        <Glyph size={19} stroke={1.7} color={name ? "var(--ink)" : "var(--soft)"} opacity={name ? 1 : 0.45} />
      </ActionIcon>
    </Tooltip>
  );
};

/** Undo and redo, each saying what it would do. */
export const UndoRedo = () => {
  const last = useDocLater((desk) => desk.history.past.at(-1)?.name);
  const next = useDocLater((desk) => desk.history.future.at(-1)?.name);
  const { undo, redo } = useUndoing();
  return (
    <>
      <StepButton does="Undo" shortcut="Ctrl Z" name={last} Glyph={IconArrowBackUp} onStep={undo} />
      <StepButton does="Redo" shortcut="Ctrl Shift Z" name={next} Glyph={IconArrowForwardUp} onStep={redo} />
    </>
  );
};
