"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import { memo, type RefObject } from "react";
import type { JackGroup, JackView } from "@/core/layout/jack-field";
import { dyeVar } from "../theme/tokens";
import classes from "./jack-field.module.css";

export interface JackFieldProps {
  readonly groups: readonly JackGroup[];
  readonly scrollRef: RefObject<HTMLDivElement | null>;
  readonly onScroll: () => void;
  readonly selectedPorts: ReadonlySet<string>;
  readonly onJack: (jack: JackView) => void;
}

const Jack = memo(({ view, selected, onJack }: { readonly view: JackView; readonly selected: boolean; readonly onJack: (view: JackView) => void }) => {
  const { jack, caption, state, dye, says, trackId } = view;
  const blocked = state === "blocked";
  const drag = useDraggable({ id: `jack:${jack.port.id}`, data: { kind: "jack", id: jack.port.id, name: `Input ${jack.label}`, trackId }, disabled: blocked });
  const drop = useDroppable({ id: `socket:${jack.port.id}`, data: { kind: "jack", id: jack.port.id }, disabled: blocked });
  return (
    <button
      type="button"
      ref={(node: HTMLButtonElement | null) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      {...(drag.listeners as object)}
      className={classes.jack}
      data-state={state}
      data-selected={selected || undefined}
      data-over={drop.isOver || undefined}
      title={`${jack.label}: ${says}`}
      aria-label={`Input ${jack.label}, ${caption}: ${says}`}
      disabled={blocked}
      onClick={() => onJack(view)}
    >
      <span className={`${classes.number} mono`}>{jack.loopBack ? "LB" : jack.port.number}</span>
      <span className={classes.socket} style={dye ? { background: dyeVar(dye), borderColor: dyeVar(dye) } : undefined} />
      <span className={`${classes.caption} narrow`}>{blocked ? says : caption}</span>
    </button>
  );
});
Jack.displayName = "Jack";

/** Every input of every device as it sits: filled with the thread's colour when used, hatched with its reason when it can't be, free when free. A thread let go beside the jacks is unplugged. */
export const JackField = memo(({ groups, scrollRef, onScroll, selectedPorts, onJack }: JackFieldProps) => {
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
      {groups.map(({ device, jacks }) => (
        <div key={device.id}>
          <h2 className={classes.device}>
            {device.name}
            {device.shortName && <span className={`${classes.short} mono`}> {device.shortName}</span>}
          </h2>
          {jacks.map((view) => (
            <Jack key={view.jack.port.id} view={view} selected={selectedPorts.has(view.jack.port.id)} onJack={onJack} />
          ))}
        </div>
      ))}
    </section>
  );
});
JackField.displayName = "JackField";
