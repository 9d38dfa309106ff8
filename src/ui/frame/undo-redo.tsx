"use client";

import { ActionIcon, Tooltip } from "@mantine/core";
import { IconArrowBackUp, IconArrowForwardUp } from "@tabler/icons-react";
import { useDesk, useDoing } from "../state/desk-context";

const plainWhenDisabled = { background: "transparent" } as const;

/** Undo and redo, each saying what it would do. */
export const UndoRedo = () => {
  const last = useDesk((desk) => desk.history.past.at(-1)?.name);
  const next = useDesk((desk) => desk.history.future.at(-1)?.name);
  const { undo, redo } = useDoing();
  const undoLabel = last ? `Undo: ${last}` : "Nothing to undo";
  const redoLabel = next ? `Redo: ${next}` : "Nothing to redo";
  return (
    <>
      <Tooltip label={`${undoLabel} (Ctrl Z)`}>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={undoLabel}
          data-disabled={!last || undefined}
          aria-disabled={!last}
          style={plainWhenDisabled}
          onClick={() => last && undo()}
        >
          <IconArrowBackUp size={19} stroke={1.7} color={last ? "var(--ink)" : "var(--soft)"} opacity={last ? 1 : 0.45} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label={`${redoLabel} (Ctrl Shift Z)`}>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={redoLabel}
          data-disabled={!next || undefined}
          aria-disabled={!next}
          style={plainWhenDisabled}
          onClick={() => next && redo()}
        >
          <IconArrowForwardUp size={19} stroke={1.7} color={next ? "var(--ink)" : "var(--soft)"} opacity={next ? 1 : 0.45} />
        </ActionIcon>
      </Tooltip>
    </>
  );
};
