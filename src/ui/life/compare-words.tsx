"use client";

import { Button, Checkbox, TextInput } from "@mantine/core";
import { IconPrinter } from "@tabler/icons-react";
import { useState } from "react";
import { plain } from "@/core/model/families";
import { counted } from "@/core/units/counted";
import classes from "./compare.module.css";
import { DifferencesList } from "./differences-list";
import type { Compared } from "./use-compared";

/** What decides whether the right thing is recorded weighs so much. */
const HEAVY = 4;

interface CompareWordsProps {
  readonly compared: Compared;
  readonly chosen: ReadonlySet<string>;
  readonly canCarry: boolean;
  readonly busy: boolean;
  /** What the button says that carries what is chosen. */
  readonly does: string;
  /** Brings the older state back whole, where that can be done: what its button says, and how. */
  readonly bringBack: { readonly says: string; readonly run: () => void } | null;
  readonly onChoose: (chosen: ReadonlySet<string>) => void;
  readonly onToggle: (id: string) => void;
  readonly onCarry: () => void;
}

/** Which differences are shown: those that say what is looked for, or those that decide a take. */
const useFilter = ({ told }: Compared) => {
  const [filter, setFilter] = useState("");
  const [heavy, setHeavy] = useState(false);
  const words = plain(filter).split(" ").filter(Boolean);
  const shown = told.filter(
    (change) =>
      (!heavy || change.weight >= HEAVY) &&
      words.every((word) => plain(`${change.who} ${change.words}`).includes(word)),
  );
  return { filter, setFilter, heavy, setHeavy, shown };
};

/** The differences in words, each to be carried or left, with what can be done with those that are chosen. */
export const CompareWords = ({
  compared,
  chosen,
  canCarry,
  busy,
  does,
  bringBack,
  onChoose,
  onToggle,
  onCarry,
}: CompareWordsProps) => {
  const { filter, setFilter, heavy, setHeavy, shown } = useFilter(compared);
  const hidden = [...chosen].filter((id) => !shown.some((change) => change.id === id)).length;
  return (
    <>
      {compared.alike !== null && (
        <p className={classes.soft}>
          The two do not come from one another: {counted(compared.alike, "thing")} were taken as the same by name,
          source and place.
        </p>
      )}
      <div className={classes.filters}>
        <TextInput
          size="xs"
          aria-label="Filter the differences"
          placeholder="Fiddle, input, gain…"
          value={filter}
          onChange={(event) => setFilter(event.currentTarget.value)}
        />
        <Checkbox
          size="xs"
          label="Only what decides a take"
          checked={heavy}
          onChange={(event) => setHeavy(event.currentTarget.checked)}
        />
        {canCarry && compared.told.length > 0 && (
          <Button
            size="xs"
            variant="default"
            onClick={() => onChoose(chosen.size ? new Set() : new Set(compared.told.map(({ id }) => id)))}
          >
            {chosen.size ? "Leave all" : "Choose all"}
          </Button>
        )}
      </div>
      {!compared.told.length && <p className={classes.soft}>Nothing differs.</p>}
      {compared.told.length > 0 && !shown.length && <p className={classes.soft}>No difference says that.</p>}
      <DifferencesList
        changes={shown}
        chosen={chosen}
        descent={compared.descent}
        canCarry={canCarry}
        onToggle={onToggle}
      />
      <div className={`${classes.foot} no-print`}>
        {canCarry && (
          <Button disabled={!chosen.size} loading={busy} onClick={onCarry}>
            {does}
          </Button>
        )}
        {bringBack && (
          <Button variant="default" onClick={bringBack.run}>
            {bringBack.says}
          </Button>
        )}
        <Button variant="default" leftSection={<IconPrinter size={16} aria-hidden />} onClick={() => window.print()}>
          Print
        </Button>
        {hidden > 0 && (
          <span className={classes.soft}>
            {hidden} of the chosen {hidden === 1 ? "is" : "are"} not in view.
          </span>
        )}
      </div>
    </>
  );
};
