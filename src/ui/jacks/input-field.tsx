"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import { memo, type RefObject } from "react";
import type { InputGroup, InputView } from "@/core/layout/input-field";
import { dyeVar } from "../theme/tokens";
import classes from "./input-field.module.css";

export interface InputFieldProps {
  readonly groups: readonly InputGroup[];
  readonly scrollRef: RefObject<HTMLDivElement | null>;
  readonly onScroll: () => void;
  readonly selectedPorts: ReadonlySet<string>;
  readonly onRigInput: (rigInput: InputView) => void;
}

const RigInput = memo(
  ({
    view,
    selected,
    onRigInput,
  }: {
    readonly view: InputView;
    readonly selected: boolean;
    readonly onRigInput: (view: InputView) => void;
  }) => {
    const { rigInput, caption, state, colour, says, trackId } = view;
    const blocked = state === "blocked";
    const number = rigInput.loopBack ? "LB" : String(rigInput.port.number);
    const shown = blocked ? says : caption;
    const drag = useDraggable({
      id: `jack:${rigInput.port.id}`,
      data: { kind: "jack", id: rigInput.port.id, name: `Input ${rigInput.label}`, trackId },
      disabled: blocked,
    });
    const drop = useDroppable({
      id: `socket:${rigInput.port.id}`,
      data: { kind: "jack", id: rigInput.port.id },
      disabled: blocked,
    });
    return (
      <button
        type="button"
        ref={(node: HTMLButtonElement | null) => {
          drag.setNodeRef(node);
          drop.setNodeRef(node);
        }}
        {...(drag.listeners as object)}
        className={classes.rigInput}
        data-state={state}
        data-selected={selected || undefined}
        data-over={drop.isOver || undefined}
        title={`${rigInput.label}: ${says}`}
        aria-label={`Input ${rigInput.label}, ${number} ${shown}${blocked ? "" : `: ${says}`}`}
        disabled={blocked}
        onClick={() => onRigInput(view)}
      >
        <span className={`${classes.number} mono`}>{number}</span>{" "}
        <span
          className={classes.socket}
          style={colour ? { background: dyeVar(colour), borderColor: dyeVar(colour) } : undefined}
        />
        <span className={`${classes.caption} narrow`}>{shown}</span>
      </button>
    );
  },
);
RigInput.displayName = "Jack";

/**
 * Every input of every device as it sits: filled with the thread's colour when used, hatched with its reason when it
 * can't be, free when free. A thread let go beside the jacks is unplugged.
 */
export const InputField = memo(({ groups, scrollRef, onScroll, selectedPorts, onRigInput }: InputFieldProps) => {
  const { setNodeRef } = useDroppable({ id: "jack-field", data: { kind: "field" } });
  return (
    <section
      className={classes.field}
      aria-label="Inputs of the rig"
      ref={(node: HTMLDivElement | null) => {
        scrollRef.current = node;
        setNodeRef(node);
      }}
      onScroll={onScroll}
    >
      {groups.map(({ device, rigInputs }) => (
        <div key={device.id}>
          <h2 className={classes.device}>
            {device.name}
            {device.shortName && <span className={`${classes.short} mono`}> {device.shortName}</span>}
          </h2>
          {rigInputs.map((view) => (
            <RigInput
              key={view.rigInput.port.id}
              view={view}
              selected={selectedPorts.has(view.rigInput.port.id)}
              onRigInput={onRigInput}
            />
          ))}
        </div>
      ))}
    </section>
  );
});
InputField.displayName = "JackField";
