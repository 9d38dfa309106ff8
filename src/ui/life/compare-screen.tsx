"use client";

import { Button } from "@mantine/core";
import { IconArrowsExchange } from "@tabler/icons-react";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import type { Life } from "@/contracts/answers";
import type { ToldChange } from "@/core/difference/words";
import { counted } from "@/core/units/counted";
import type { Act } from "../acts/act-model";
import { FindingsPanel } from "../frame/findings-later";
import { usePageActs } from "../frame/page-acts";
import { api } from "../shared/api";
import { type Choice, Chooser } from "../shared/chooser";
import { useGo } from "../shared/going";
import { useSteady } from "../shared/steady";
import { useDesk } from "../state/desk-context";
import classes from "./compare.module.css";
import { CompareWords } from "./compare-words";
import { sayDay } from "./dates";
import { SelvedgesPicture } from "./selvedges-picture";
import { useCarrying, useChosen } from "./use-carrying";
import { type Compared, readSide, type Side, useCompared, writeSide } from "./use-compared";
import { useLife } from "./use-life";
import { useLifeActs } from "./use-life-acts";

const sidesOf = (life: Life, others: readonly Choice[]): readonly Choice[] => [
  { value: "now", label: "Now", note: `revision ${life.head}` },
  ...[...life.versions]
    .reverse()
    .map(({ revision, name }) => ({ value: String(revision), label: name, note: `revision ${revision}` })),
  ...life.sessions.map(({ id, name, date }) => ({ value: id, label: name, note: sayDay(date) })),
  ...life.descendants.map(({ id, name }) => ({ value: id, label: name, note: "branched off" })),
  ...(life.ancestor && !life.ancestor.gone
    ? [{ value: life.ancestor.id, label: life.ancestor.name, note: "what this one came from" }]
    : []),
  ...others,
];

/** Other templates of the library that can be compared with. */
const useOthers = (life: Life | null): readonly Choice[] => {
  const [others, setOthers] = useState<readonly Choice[]>([]);
  useEffect(() => {
    if (!life) return;
    const known = new Set([life.id, life.ancestor?.id, ...life.descendants.map(({ id }) => id)]);
    api
      .listTemplates({})
      .then(({ templates }) =>
        setOthers(
          templates.flatMap(({ id, name, unreadable }) =>
            known.has(id) || unreadable ? [] : [{ value: id, label: name, note: "another template" }],
          ),
        ),
      )
      .catch(() => setOthers([]));
  }, [life]);
  return others;
};

const countsOf = ({ told, changes }: Compared): string => {
  const tracks = (kind: ToldChange["kind"]) =>
    told.filter((change) => change.table === "channels" && change.group === "tracks" && change.kind === kind).length;
  const parts = [
    [tracks("moved"), "moved"],
    [tracks("gone"), "gone"],
    [tracks("new"), "new"],
  ] as const;
  const said = parts.filter(([count]) => count).map(([count, word]) => `${counted(count, "track")} ${word}`);
  const shown = counted(told.length, "difference");
  return [shown, ...said, ...(told.length || !changes.length ? [] : ["only keys of the order"])].join(" · ");
};

const nameOf = (options: readonly Choice[], side: Side): string =>
  options.find(({ value }) => value === writeSide(side))?.label ??
  (side.kind === "revision" ? `revision ${side.revision}` : "the other one");

const doesWords = (count: number, left: Side, leftName: string): string =>
  left.kind === "now"
    ? `Carry ${count} onto this template`
    : `Carry ${count} onto ${leftName}, as a template of its own`;

interface SidesProps {
  readonly options: readonly Choice[];
  readonly left: Side;
  readonly right: Side;
  readonly onShow: (left: Side, right: Side) => void;
}

/** From which state to which: a template can be carried onto as it is now, and as it was. */
const Sides = ({ options, left, right, onShow }: SidesProps) => (
  <div className={classes.sides}>
    <Chooser
      key={`left ${writeSide(left)} ${options.length}`}
      label="From"
      options={options.filter(({ value }) => value === "now" || /^\d+$/.test(value))}
      value={writeSide(left)}
      onChange={(value) => value && value !== writeSide(left) && onShow(readSide(value), right)}
    />
    <Button
      variant="default"
      className={classes.turn ?? ""}
      aria-label="Turn the two sides round"
      disabled={right.kind === "other"}
      onClick={() => onShow(right, left)}
    >
      <IconArrowsExchange size={16} aria-hidden />
    </Button>
    <Chooser
      key={`right ${writeSide(right)} ${options.length}`}
      label="To"
      options={options}
      value={writeSide(right)}
      onChange={(value) => value && value !== writeSide(right) && onShow(left, readSide(value))}
    />
  </div>
);

/** The two sides as the address names them, and what they are called. */
const useSides = (life: Life | null) => {
  const params = useSearchParams();
  const go = useGo();
  const id = useDesk((desk) => desk.doc.id);
  const [left, right] = [readSide(params.get("left")), readSide(params.get("right"))];
  const others = useOthers(life);
  const options = useMemo(() => (life ? sidesOf(life, others) : []), [life, others]);
  return {
    left,
    right,
    options,
    names: { left: nameOf(options, left), right: nameOf(options, right) },
    show: (one: Side, other: Side): void =>
      go(`/templates/${id}/compare?left=${writeSide(one)}&right=${writeSide(other)}`),
  };
};

/** What differs between two states, as two selvedges with threads between and in words, each to be carried or left. */
export const CompareScreen = () => {
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const { life, error: lifeError, reload } = useLife();
  const { bringBack } = useLifeActs(reload);
  const { left, right, options, names, show } = useSides(life);
  const { compared, error } = useCompared(life, left, right);
  const { chosen, setChosen, toggle } = useChosen(compared);
  const { busy, carry } = useCarrying();
  const takeOver = (): void => {
    if (compared && chosen.size) void carry(compared, chosen, left, names.right);
  };
  const gather = useSteady((): readonly Act[] => [
    {
      id: "carry",
      label: "Carry what is chosen",
      whyNot: chosen.size ? undefined : "Choose what is to be carried first.",
      run: takeOver,
    },
    { id: "turn", label: "Turn the two sides round", run: () => show(right, left) },
    { id: "print", label: "Print the differences", run: () => window.print() },
  ]);
  usePageActs(gather, "the comparison");
  const told = error ?? lifeError;
  const older = left.kind === "revision" && right.kind === "now" ? left.revision : null;
  return (
    <div className={classes.screen}>
      <div className={classes.picture}>
        <div className={classes.head}>
          <h1>What changed</h1>
          <span className={classes.soft}>{compared ? countsOf(compared) : told ? "" : "Being compared…"}</span>
        </div>
        {life && <Sides options={options} left={left} right={right} onShow={show} />}
        {told && <p role="alert">{told}</p>}
        {compared && <SelvedgesPicture selvedges={compared.selvedges} />}
      </div>
      <div className={classes.words}>
        {compared && (
          <CompareWords
            compared={compared}
            chosen={chosen}
            canCarry={left.kind !== "other"}
            busy={busy}
            does={doesWords(chosen.size, left, names.left)}
            bringBack={
              older === null ? null : { says: `Bring ${names.left} back`, run: () => void bringBack(older, names.left) }
            }
            onChoose={setChosen}
            onToggle={toggle}
            onCarry={takeOver}
          />
        )}
      </div>
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
