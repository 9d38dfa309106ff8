"use client";

import { UnstyledButton } from "@mantine/core";
import type { RefObject } from "react";
import type { JackGroup, JackView } from "@/core/layout/jack-field";
import { dyeVar } from "../theme/tokens";
import classes from "./jack-field.module.css";

interface JackFieldProps {
  readonly groups: readonly JackGroup[];
  readonly scrollRef: RefObject<HTMLDivElement | null>;
  readonly onScroll: () => void;
  readonly selectedPorts: ReadonlySet<string>;
  readonly onJack: (jack: JackView) => void;
}

const Jack = ({ view, selected, onJack }: { readonly view: JackView; readonly selected: boolean; readonly onJack: (view: JackView) => void }) => {
  const { jack, caption, state, dye, says } = view;
  return (
    <UnstyledButton
      className={classes.jack}
      data-state={state}
      data-selected={selected || undefined}
      title={`${jack.label}: ${says}`}
      aria-label={`Input ${jack.label}, ${caption}: ${says}`}
      disabled={state === "blocked"}
      onClick={() => onJack(view)}
    >
      <span className={`${classes.number} mono`}>{jack.port.number}</span>
      <span className={classes.socket} style={dye ? { background: dyeVar(dye), borderColor: dyeVar(dye) } : undefined} />
      <span className={`${classes.caption} narrow`}>{caption}</span>
    </UnstyledButton>
  );
};

/** Every input of every device as it sits: filled with the thread's colour when used, hatched when it can't be, free when free. */
export const JackField = ({ groups, scrollRef, onScroll, selectedPorts, onJack }: JackFieldProps) => (
  <section className={classes.field} aria-label="Inputs of the rig" ref={scrollRef} onScroll={onScroll}>
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
