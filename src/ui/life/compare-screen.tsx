"use client";

import { Button, Checkbox, TextInput } from "@mantine/core";
import { IconArrowsExchange, IconPrinter } from "@tabler/icons-react";
import { nanoid } from "nanoid";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import type { Life } from "@/contracts/answers";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { patchesOf, withNeeds, withoutNeeding } from "@/core/difference/carry";
import type { ToldChange } from "@/core/difference/words";
import { plain } from "@/core/model/families";
import { counted } from "@/core/units/counted";
import type { Act } from "../acts/act-model";
import { FindingsPanel } from "../frame/findings-later";
import { usePageActs } from "../frame/page-acts";
import { api, ServiceError } from "../shared/api";
import { type Choice, Chooser } from "../shared/chooser";
import { useGo } from "../shared/going";
import { tell, tellRefusal } from "../shared/notices";
import { useSteady } from "../shared/steady";
import { useDesk, useDoing } from "../state/desk-context";
import classes from "./compare.module.css";
import { sayDay } from "./dates";
import { DifferencesList } from "./differences-list";
import { SelvedgesPicture } from "./selvedges-picture";
import { type Compared, readSide, type Side, useCompared, writeSide } from "./use-compared";
import { useLife } from "./use-life";
import { useLifeActs } from "./use-life-acts";

/** What decides whether the right thing is recorded weighs so much. */
const HEAVY = 4;

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

const useChosen = (compared: Compared | null) => {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const ids = compared?.told.map(({ id }) => id).join(" ") ?? "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: begins anew with other differences
  useEffect(() => {
    if (!compared) return;
    // Of one descent what only the other one changed is meant to be carried; else nothing is.
    setChosen(
      new Set(compared.descent ? compared.told.filter(({ side }) => side === "theirs").map(({ id }) => id) : []),
    );
  }, [ids]);
  const toggle = (id: string): void => {
    if (!compared) return;
    if (chosen.has(id)) {
      const left = withoutNeeding(compared.changes, chosen, id);
      const more = chosen.size - left.size - 1;
      if (more > 0)
        tell(
          `${counted(more, "difference")} that ${more === 1 ? "needs" : "need"} it ${more === 1 ? "is" : "are"} left as well.`,
        );
      setChosen(left);
      return;
    }
    const found = withNeeds(compared.changes, [...chosen, id]);
    const shown = compared.told.filter((change) => found.has(change.id) && !chosen.has(change.id) && change.id !== id);
    if (shown.length) tell(`Chosen with it, as it needs them: ${shown.map(({ who }) => who).join(", ")}.`);
    setChosen(new Set([...chosen, id, ...shown.map((change) => change.id)]));
  };
  return { chosen, setChosen, toggle };
};

const nameOf = (options: readonly Choice[], side: Side): string =>
  options.find(({ value }) => value === writeSide(side))?.label ??
  (side.kind === "revision" ? `revision ${side.revision}` : "the other one");

/** Carries what is chosen onto the template as it is, or onto an older revision as a template of its own. */
const useCarrying = () => {
  const { act } = useDoing();
  const go = useGo();
  const id = useDesk((desk) => desk.doc.id);
  const own = useDesk((desk) => desk.doc.name);
  const [busy, setBusy] = useState(false);
  const carry = async (
    compared: Compared,
    chosen: ReadonlySet<string>,
    left: Side,
    rightName: string,
  ): Promise<void> => {
    const patches = patchesOf(compared.changes, chosen);
    const name = `Carry ${counted(chosen.size, "difference")} from ${rightName}`;
    if (left.kind === "now") {
      if (act({ edits: [{ kind: "changes.carry", name, patches }] })) tell(`${name}: done. Ctrl Z takes it back.`);
      return;
    }
    if (left.kind !== "revision") return;
    setBusy(true);
    try {
      const made = await api.createTemplate({
        copyOf: id,
        copyRevision: left.revision,
        name: `${own.slice(0, 150)}, carried on`,
      });
      await api.templates.save(made.document.id, {
        base: made.revision,
        baseSavedAt: made.savedAt,
        batch: nanoid(12),
        made: GESTURE_VERSION,
        name,
        commands: [{ kind: "restore", undoes: name.slice(0, 400), carries: true, patches }],
      });
      go(`/templates/${made.document.id}/inputs`);
    } catch (failure) {
      if (!(failure instanceof ServiceError)) throw failure;
      tellRefusal(failure.message);
    } finally {
      setBusy(false);
    }
  };
  return { busy, carry };
};

const doesWords = (count: number, left: Side, leftName: string): string =>
  left.kind === "now"
    ? `Carry ${count} onto this template`
    : `Carry ${count} onto ${leftName}, as a template of its own`;

/** What differs between two states, as two selvedges with threads between and in words, each to be carried or left. */
export const CompareScreen = () => {
  const params = useSearchParams();
  const go = useGo();
  const id = useDesk((desk) => desk.doc.id);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const { life, error: lifeError, reload } = useLife();
  const { bringBack } = useLifeActs(reload);
  const [left, right] = [readSide(params.get("left")), readSide(params.get("right"))];
  const { compared, error } = useCompared(life, left, right);
  const others = useOthers(life);
  const options = useMemo(() => (life ? sidesOf(life, others) : []), [life, others]);
  const { chosen, setChosen, toggle } = useChosen(compared);
  const { busy, carry } = useCarrying();
  const [filter, setFilter] = useState("");
  const [heavy, setHeavy] = useState(false);
  const show = (one: Side, other: Side): void =>
    go(`/templates/${id}/compare?left=${writeSide(one)}&right=${writeSide(other)}`);
  const words = plain(filter).split(" ").filter(Boolean);
  const shown =
    compared?.told.filter(
      (change) =>
        (!heavy || change.weight >= HEAVY) &&
        words.every((word) => plain(`${change.who} ${change.words}`).includes(word)),
    ) ?? [];
  const canCarry = left.kind !== "other";
  const names = { left: nameOf(options, left), right: nameOf(options, right) };
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
  return (
    <div className={classes.screen}>
      <div className={classes.picture}>
        <div className={classes.head}>
          <h1>What changed</h1>
          <span className={classes.soft}>{compared ? countsOf(compared) : told ? "" : "Being compared…"}</span>
        </div>
        {life && (
          <div className={classes.sides}>
            <Chooser
              key={`left ${writeSide(left)} ${options.length}`}
              label="From"
              options={options.filter(({ value }) => value === "now" || /^\d+$/.test(value))}
              value={writeSide(left)}
              onChange={(value) => value && value !== writeSide(left) && show(readSide(value), right)}
            />
            <Button
              variant="default"
              className={classes.turn ?? ""}
              aria-label="Turn the two sides round"
              disabled={right.kind === "other"}
              onClick={() => show(right, left)}
            >
              <IconArrowsExchange size={16} aria-hidden />
            </Button>
            <Chooser
              key={`right ${writeSide(right)} ${options.length}`}
              label="To"
              options={options}
              value={writeSide(right)}
              onChange={(value) => value && value !== writeSide(right) && show(left, readSide(value))}
            />
          </div>
        )}
        {told && <p role="alert">{told}</p>}
        {compared && <SelvedgesPicture selvedges={compared.selvedges} />}
      </div>
      <div className={classes.words}>
        {compared && (
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
                  onClick={() => setChosen(chosen.size ? new Set() : new Set(compared.told.map((change) => change.id)))}
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
              onToggle={toggle}
            />
            <div className={`${classes.foot} no-print`}>
              {canCarry && (
                <Button disabled={!chosen.size} loading={busy} onClick={takeOver}>
                  {doesWords(chosen.size, left, names.left)}
                </Button>
              )}
              {left.kind === "revision" && right.kind === "now" && (
                <Button variant="default" onClick={() => void bringBack(left.revision, names.left)}>
                  Bring {names.left} back
                </Button>
              )}
              <Button
                variant="default"
                leftSection={<IconPrinter size={16} aria-hidden />}
                onClick={() => window.print()}
              >
                Print
              </Button>
              {shown.length < compared.told.length && (
                <span className={classes.soft}>
                  {[...chosen].filter((one) => !shown.some((change) => change.id === one)).length} of the chosen are not
                  in view.
                </span>
              )}
            </div>
          </>
        )}
      </div>
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
