"use client";

import { Select, Switch } from "@mantine/core";
import type { Field } from "@/core/model/describe/fields";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import { CHAIN_PROCESSORS, type Processor } from "@/core/model/tables/chain-processors";
import { PROCESSOR_KINDS } from "@/core/model/tables/processor-settings";
import { planned, unplanned } from "@/core/planning/gesture";
import { fieldText, readField } from "@/core/reading/field-text";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDoing } from "../state/desk-context";
import classes from "./chain.module.css";

/** Units by the end of a field's name. */
const UNITS: readonly (readonly [end: string, unit: string])[] = [
  ["Ns", "ns a sample"],
  ["Db", "dB"],
  ["Ms", "ms"],
  ["Hz", "Hz"],
  ["Percent", "%"],
  ["Samples", "samples"],
  ["S", "s"],
];

/** "Threshold, dB": a field as its label has it. */
export const settingLabel = (key: string, { word }: Pick<Field, "word">): string => {
  const bare = word.replace(/^the /, "");
  const unit = key === "slopeDb" ? "dB an octave" : UNITS.find(([end]) => key.endsWith(end))?.[1];
  return `${bare.charAt(0).toUpperCase()}${bare.slice(1)}${unit ? `, ${unit}` : ""}`;
};

export const useSetProcessor = (processor: Processor) => {
  const { act, actPlanned } = useDoing();
  return {
    set: (set: Readonly<Record<string, unknown>>): boolean =>
      act({ edits: [{ kind: "entries.set", table: "processors", ids: [processor.id], set }] }),
    typed:
      (key: string, field: Field) =>
      (text: string): boolean => {
        const read = readField(field, text);
        return actPlanned(
          read.ok
            ? planned([{ kind: "entries.set", table: "processors", ids: [processor.id], set: { [key]: read.value } }])
            : unplanned(`“${text.trim()}” ${read.says}.`),
        );
      },
  };
};

const OPTION_WORDS: Readonly<Record<string, string>> = { itself: "what goes through", others: "what steers it" };

/** What an empty text means. */
const EMPTY: Readonly<Record<string, string>> = {
  name: "its kind",
  installed: "any of its kind",
  version: "any",
  from: "nothing said",
  note: "none",
  cabinet: "none",
  delayDoubleSamples: "as at 48 kHz",
  delayQuadrupleSamples: "as at 96 kHz",
  costNs: "estimated",
};

interface SettingProps {
  readonly processor: Processor;
  readonly name: string;
  readonly field: Field;
}

/** One setting by its description: a number with its unit, a switch, one of several, a text. */
const Setting = ({ processor, name, field }: SettingProps) => {
  const { set, typed } = useSetProcessor(processor);
  const value = (processor as unknown as Readonly<Record<string, unknown>>)[name];
  const label = settingLabel(name, field);
  if (field.kind === "flag")
    return (
      <Switch
        label={label}
        classNames={{ body: inspector.switchBody, labelWrapper: inspector.label }}
        labelPosition="left"
        checked={value === true}
        onChange={(event) => set({ [name]: event.currentTarget.checked })}
      />
    );
  if (field.kind === "choice")
    return (
      <Select
        label={label}
        data={(field.options ?? []).map((option) => ({
          value: String(option),
          label: OPTION_WORDS[String(option)] ?? String(option),
        }))}
        value={String(value)}
        allowDeselect={false}
        {...list}
        onChange={(chosen) => set({ [name]: field.options?.find((option) => String(option) === chosen) })}
        {...row}
      />
    );
  return (
    <TextField
      label={label}
      placeholder={EMPTY[name] ?? ""}
      value={fieldText(field, value)}
      onKeep={typed(name, field)}
    />
  );
};

const settingsOf = ({ kind }: Processor): readonly (readonly [string, Field])[] =>
  (Object.entries(PROCESSOR_KINDS[kind]) as unknown as readonly (readonly [string, Field])[]).filter(
    ([, field]) => field.kind !== "closed",
  );

/** Through which send and return of the rig an insert goes. */
const Loop = ({
  processor,
  rig,
}: {
  readonly processor: Extract<Processor, { readonly kind: "insert" }>;
  readonly rig: Rig;
}) => {
  const { set } = useSetProcessor(processor);
  const loops = entriesOf(rig.loops);
  const same = (a: readonly string[], b: readonly string[]) => a.length > 0 && a.every((id) => b.includes(id));
  const chosen = loops.find(
    ({ sendPortIds, returnPortIds }) =>
      same(processor.sendPortIds, sendPortIds) && same(processor.returnPortIds, returnPortIds),
  );
  if (!loops.length) return <p>{rig.name} has no send and return. Add one on the page of the rig.</p>;
  return (
    <Select
      label="Through"
      placeholder="nothing yet"
      data={loops.map(({ id, name }) => ({ value: id, label: name }))}
      value={chosen?.id ?? null}
      allowDeselect={false}
      {...list}
      onChange={(id) => {
        const loop = loops.find((one) => one.id === id);
        if (loop)
          set({
            name: loop.name,
            sendPortIds: loop.sendPortIds.slice(0, 2),
            returnPortIds: loop.returnPortIds.slice(0, 2),
          });
      }}
      {...row}
    />
  );
};

/** A setting that a controller of the rig moves. */
const Steering = ({ processor, rig }: { readonly processor: Processor; readonly rig: Rig }) => {
  const { set } = useSetProcessor(processor);
  const controllers = entriesOf(rig.midiPorts).filter(({ direction }) => direction === "in");
  const numbers = settingsOf(processor).filter(([, field]) => field.kind === "number");
  const { steering } = processor;
  if (!numbers.length || (!controllers.length && !steering)) return null;
  const none = "none";
  const known = controllers.map(({ id, name, usage }) => ({ value: id as string, label: name || usage }));
  const gone =
    steering && !known.some(({ value }) => value === steering.midiPortId)
      ? [{ value: steering.midiPortId, label: "not on this rig" }]
      : [];
  return (
    <>
      <Select
        label="Moved by"
        data={[{ value: none, label: "nothing" }, ...known, ...gone]}
        value={steering?.midiPortId ?? none}
        allowDeselect={false}
        {...list}
        onChange={(id) =>
          set({
            steering:
              id === none || id === null ? null : { field: steering?.field ?? numbers[0]?.[0] ?? "", midiPortId: id },
          })
        }
        {...row}
      />
      {steering && (
        <Select
          label="It moves"
          data={numbers.map(([key, field]) => ({ value: key, label: settingLabel(key, field) }))}
          value={steering.field}
          allowDeselect={false}
          {...list}
          onChange={(field) => field && set({ steering: { ...steering, field } })}
          {...row}
        />
      )}
    </>
  );
};

const ASKED = [
  "delayDoubleSamples",
  "delayQuadrupleSamples",
  "costNs",
  "installed",
  "version",
  "from",
  "note",
] as const;

/** All settings of a processor; what is rarely set, and what it asks for, is folded away. */
export const SettingsFields = ({ processor, rig }: { readonly processor: Processor; readonly rig: Rig }) => (
  <>
    <div className={inspector.fields}>
      {settingsOf(processor).map(([name, field]) => (
        <Setting key={name} processor={processor} name={name} field={field} />
      ))}
      {processor.kind === "insert" && <Loop processor={processor} rig={rig} />}
    </div>
    <details className={classes.rare}>
      <summary>name, load, delay by rate, what is needed, what moves it</summary>
      <div className={inspector.fields}>
        <Steering processor={processor} rig={rig} />
        <Setting processor={processor} name="name" field={CHAIN_PROCESSORS.fields.name} />
        {ASKED.map((name) => (
          <Setting key={name} processor={processor} name={name} field={CHAIN_PROCESSORS.fields[name]} />
        ))}
      </div>
    </details>
  </>
);
