"use client";

import { useDraggable } from "@dnd-kit/core";
import { ActionIcon, Button } from "@mantine/core";
import { IconAlertTriangle, IconCircleCheck, IconTrash } from "@tabler/icons-react";
import type { ChainId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { Processor } from "@/core/model/tables/chain-processors";
import type { Chain } from "@/core/model/tables/chains";
import { keptChains } from "@/core/planning/chain-plans";
import { chainShort } from "@/core/queries/chain-text";
import { keptProcessorsOf } from "@/core/queries/chains";
import { needsOf } from "@/core/queries/installed";
import { useStudio } from "../state/desk-context";
import classes from "./chain.module.css";

interface KeptProps {
  readonly chain: Chain;
  readonly short: string;
  readonly who: string;
  readonly onPut: () => void;
  readonly onForget: () => void;
}

const Kept = ({ chain, short, who, onPut, onForget }: KeptProps) => {
  const draggable = useDraggable({ id: `kept ${chain.id}`, data: { chainId: chain.id } });
  return (
    <li>
      <span className={classes.bar} style={{ background: "var(--act)" }} />
      <span
        ref={draggable.setNodeRef}
        className={classes.keptName}
        onPointerDown={draggable.listeners?.onPointerDown as never}
      >
        <strong>{chain.name}</strong>
        <span>{short}</span>
      </span>
      <Button variant="default" size="compact-xs" aria-label={`Put ${chain.name} on ${who}`} onClick={onPut}>
        Apply
      </Button>
      <ActionIcon variant="subtle" size="sm" aria-label={`No longer keep ${chain.name}`} onClick={onForget}>
        <IconTrash size={14} aria-hidden />
      </ActionIcon>
    </li>
  );
};

interface KeptChainsProps {
  readonly who: string;
  readonly onPut: (id: ChainId) => void;
  readonly onForget: (chain: Chain) => void;
}

/** The chains that the studio keeps: dragged onto the thread, or put on what is selected. */
export const KeptChains = ({ who, onPut, onForget }: KeptChainsProps) => {
  const studio = useStudio();
  const chains = keptChains(studio);
  return (
    <section aria-label="Chains kept">
      <h2>Chains kept</h2>
      <p className={classes.told}>
        {chains.length
          ? `Drag one onto the thread, or put it on ${who}.`
          : "None yet. Keep the chain of a channel under a name, and put it on others in one act."}
      </p>
      <ul className={classes.kept}>
        {chains.map((chain) => (
          <Kept
            key={chain.id}
            chain={chain}
            short={chainShort(keptProcessorsOf(studio, chain.id))}
            who={who}
            onPut={() => onPut(chain.id)}
            onForget={() => onForget(chain)}
          />
        ))}
      </ul>
    </section>
  );
};

/** What the processors of a chain ask for, and whether this rig has it. */
export const Needs = ({ processors, rig }: { readonly processors: readonly Processor[]; readonly rig: Rig }) => {
  const needs = needsOf(processors, rig);
  if (!needs.length) return null;
  return (
    <section aria-label="What it needs">
      <h2>Needs, installed on {rig.name}</h2>
      {needs.map(({ name, version, state, has, from }) => (
        <div key={name} className={classes.need}>
          {state === "there" ? (
            <IconCircleCheck size={15} color="var(--well)" aria-hidden />
          ) : (
            <IconAlertTriangle size={15} color="var(--problem)" aria-hidden />
          )}
          <strong>
            {name} {version}
          </strong>
          <span>
            {state === "there"
              ? `is there${has ? `, ${has}` : ""}`
              : state === "older"
                ? `${has || "an older one"} is there`
                : "is not there"}
            {state !== "there" && from ? `; get it from ${from}` : ""}
          </span>
        </div>
      ))}
    </section>
  );
};
