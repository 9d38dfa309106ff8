"use client";

import { Checkbox } from "@mantine/core";
import { GROUP_NAMES, GROUPS, type Group, type ToldChange } from "@/core/difference/words";
import { dyeVar } from "../theme/tokens";
import classes from "./compare.module.css";

interface DifferencesListProps {
  readonly changes: readonly ToldChange[];
  readonly chosen: ReadonlySet<string>;
  /** Whose a difference is, is known. */
  readonly descent: boolean;
  readonly canCarry: boolean;
  readonly onToggle: (id: string) => void;
}

const SIDES = { theirs: "", ours: "changed here only", both: "changed on both sides" } as const;

/** Differences in words, by group: each to be carried or left. */
export const DifferencesList = ({ changes, chosen, descent, canCarry, onToggle }: DifferencesListProps) =>
  GROUPS.map((group: Group) => {
    const those = changes.filter((change) => change.group === group);
    if (!those.length) return null;
    return (
      <section key={group} aria-label={GROUP_NAMES[group]}>
        <h2 className={classes.group}>
          {GROUP_NAMES[group]} <span>{those.length}</span>
        </h2>
        <ul className={classes.changes}>
          {those.map(({ id, who, words, colour, side }) => {
            const on = chosen.has(id);
            return (
              <li key={id} className={classes.change}>
                <Checkbox
                  size="sm"
                  checked={on}
                  disabled={!canCarry}
                  onChange={() => onToggle(id)}
                  aria-label={`${on ? "Carry" : "Leave"} ${who}: ${words}`}
                />
                <span
                  className={classes.dye}
                  style={{ background: colour ? dyeVar(colour) : "var(--hairline)" }}
                  aria-hidden="true"
                />
                <p>
                  <strong>{who}</strong> <span>{words}</span>
                  {descent && SIDES[side] && <em data-side={side}>{SIDES[side]}</em>}
                </p>
                <span className={classes.outcome} aria-hidden="true">
                  {on ? "carry" : "leave"}
                </span>
              </li>
            );
          })}
        </ul>
      </section>
    );
  });
