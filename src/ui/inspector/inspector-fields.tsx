"use client";

import { Autocomplete, Select, Switch, TextInput } from "@mantine/core";
import { Fragment, useRef, useState } from "react";
import { COLOUR_NAMES } from "@/core/model/colours";
import { ICONS } from "@/core/model/families";
import { rigInputsOf } from "@/core/model/read-rig";
import { linesOf, linesOfTrack, tracksByLine } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/table";
import type { Output, Sharing } from "@/core/model/tables/channel-fields";
import type { Track } from "@/core/model/tables/channels";
import { writeCell } from "@/core/planning/write-cell";
import { cellText } from "@/core/queries/cells";
import { type CellColumn, fieldLabel, type GridColumn, INSPECTED_COLUMNS } from "@/core/queries/columns";
import { freeInputs } from "@/core/queries/free-inputs";
import { microphonesOffered } from "@/core/queries/microphones-offered";
import { outputChoices } from "@/core/queries/outputs";
import { asNew, isPicked, untaken } from "../grid/cell-editor";
import { newIds } from "../grid/grid-focus";
import { useShown } from "../grid/shown";
import { dropDown } from "../shared/combobox";
import { tellLost, tellRefusal } from "../shared/notices";
import { offer } from "../shared/offered";
import { ICON_NAMES } from "../shared/track-icon";
import { useTyped } from "../shared/typed";
import { useDeskStore, useDoing, useRig, useStudio } from "../state/desk-context";
import classes from "./inspector.module.css";

export const row = {
  classNames: { root: classes.row, label: classes.label, wrapper: classes.value, input: classes.field },
} as const;
export const list = dropDown(200, "bottom-end");

interface TextFieldProps {
  readonly label: string;
  /** Its label is for screen readers only, as it stands in a table that has headings. */
  readonly bare?: true;
  readonly value: string;
  readonly placeholder?: string;
  /**
   * What is offered, asked for once the field has the keys: there are many fields, and lists as long as the template.
   */
  readonly data?: () => readonly string[];
  /** How a text that is not in `data` is offered. */
  readonly asNew?: (text: string) => string;
  /** Why one is not kept that was neither chosen nor said to be new; absent where any text can be kept. */
  readonly unchosen?: string | null;
  /** Taken only by its whole name, or chosen from the list. */
  readonly picked?: boolean;
  readonly onKeep: (text: string) => boolean;
}

/**
 * A text that is kept on Enter or when the field is left, and put back on Esc. One that can't be taken stays to be
 * mended; leaving it tells what it was.
 */
export const TextField = ({
  label,
  bare,
  value,
  placeholder,
  data,
  asNew,
  unchosen,
  picked = false,
  onKeep,
}: TextFieldProps) => {
  const { selected } = useShown();
  const { draft, open, setDraft, close } = useTyped({
    label,
    value,
    of: selected,
    gone: "what it was typed for is no longer selected, or was removed.",
  });
  const steered = useRef(false);
  const chosen = useRef(false);
  const entered = useRef(false);
  const [inHand, setInHand] = useState(false);
  const offered = offer({
    text: draft ?? value,
    untouched: draft === null,
    known: inHand || draft !== null ? (data?.() ?? []) : [],
    ...(asNew ? { asNew } : {}),
  });
  const keep = (text: string): boolean => {
    const kept = text === value || onKeep(text);
    if (kept) close();
    return kept;
  };
  const leave = (): void => {
    if (draft === null || !open) return;
    if (unchosen && draft.trim() && draft !== value && !offered.exact) tellLost(draft, label, unchosen);
    else if (keep(offered.exact ?? draft)) return;
    close();
  };
  /** What only begins like something on the shelf is not taken for it. */
  const enter = (text: string): void => {
    if (picked && unchosen && text.trim() && text !== value && !offered.exact)
      tellRefusal(`“${text.trim()}”: ${unchosen}`);
    else keep(picked ? (offered.exact ?? text) : text);
  };
  const common = {
    ...(bare ? { "aria-label": label } : { label }),
    placeholder,
    value: draft ?? value,
    maxLength: 4000,
    "data-kept": true,
    "data-draft": (open && draft !== value) || undefined,
    onFocus: () => setInHand(true),
    onBlur: () => {
      leave();
      setInHand(false);
    },
    onKeyDown: (event: React.KeyboardEvent<HTMLInputElement>) => {
      if (event.key === "ArrowDown" || event.key === "ArrowUp") steered.current = true;
      // What is marked in the list is taken by the list itself.
      const marked =
        data && (draft?.trim() || steered.current) ? event.currentTarget.getAttribute("aria-activedescendant") : null;
      if (event.key === "Enter" && draft !== null && open && !marked) {
        // The list takes the same key after this; what was kept by it is not kept again.
        entered.current = true;
        queueMicrotask(() => {
          entered.current = false;
        });
        enter(draft);
      }
      if (event.key === "Escape") close();
    },
    ...row,
  };
  return data ? (
    <Autocomplete
      {...common}
      data={[...offered.data]}
      filter={({ options }) => options}
      selectFirstOptionOnChange={!picked}
      onChange={(text) => {
        steered.current = false;
        // The list puts what was chosen into the field as well; it is kept already, and the field shows what was kept.
        if (!chosen.current) setDraft(text);
        chosen.current = false;
      }}
      onOptionSubmit={(option) => {
        chosen.current = true;
        if (!entered.current && !keep(offered.meant(option))) setDraft(offered.meant(option));
      }}
      {...list}
    />
  ) : (
    <TextInput {...common} onChange={(event) => setDraft(event.currentTarget.value)} />
  );
};

const useFields = (tracks: readonly Track[]) => {
  const desk = useDeskStore();
  const { doc } = useShown();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  const texts = (column: CellColumn) => [...new Set(tracks.map((track) => cellText(doc, rig, { track, column })))];
  const trackIds = tracks.map((track) => track.id);
  return {
    doc,
    rig,
    act,
    lineIds: [...new Set(tracks.flatMap((track) => linesOfTrack(doc, track).map((line) => line.id)))],
    trackIds,
    /** The common value; null when the tracks differ. */
    common: (column: CellColumn): string | null => {
      const [only, ...others] = texts(column);
      return others.length ? null : (only ?? "");
    },
    write: (column: Exclude<CellColumn, "layout">) => (text: string) =>
      actPlanned(
        writeCell(desk.getState().doc, rig, { trackIds, column, text, ids: newIds, studio: desk.getState().studio }),
      ),
  };
};

type Fields = ReturnType<typeof useFields>;

const keyOfOutput = (output: Output): string =>
  output.kind === "channel"
    ? `channel ${output.channelId}`
    : output.kind === "nowhere"
      ? "nowhere"
      : `ports ${output.portIds.join(" ")}`;

const OutputField = ({ tracks, fields }: { readonly tracks: readonly Track[]; readonly fields: Fields }) => {
  const { doc, rig, act, trackIds } = fields;
  const outputs = outputChoices(doc, rig);
  const keys = [...new Set(tracks.map((track) => keyOfOutput(track.output)))];
  return (
    <Select
      label="Output"
      data={outputs.map(({ output, label }) => ({ value: keyOfOutput(output), label }))}
      value={keys.length === 1 ? keys[0] : null}
      placeholder="various"
      allowDeselect={false}
      {...list}
      onChange={(key) => {
        const chosen = outputs.find(({ output }) => keyOfOutput(output) === key);
        if (chosen)
          act({ edits: [{ kind: "entries.set", table: "channels", ids: trackIds, set: { output: chosen.output } }] });
      }}
      {...row}
    />
  );
};

const SharingField = ({ track, fields }: { readonly track: Track; readonly fields: Fields }) => {
  const first = linesOfTrack(fields.doc, track)[0];
  const others = first ? (tracksByLine(fields.doc).get(first.id) ?? []).filter((other) => other.id !== track.id) : [];
  if (!others.length) return null;
  return (
    <Select
      label={`Line shared with ${others.map((other) => other.name).join(", ")}`}
      data={[
        { value: "by-turns", label: "recorded by turns" },
        { value: "at-once", label: "recorded at once" },
      ]}
      value={track.sharing}
      placeholder="not said"
      allowDeselect={false}
      {...list}
      onChange={(sharing) =>
        fields.act({
          edits: [
            {
              kind: "entries.set",
              table: "channels",
              ids: [track.id, ...others.map((other) => other.id)],
              set: { sharing: sharing as Exclude<Sharing, null> },
            },
          ],
        })
      }
    />
  );
};

/** The dyes that can be chosen: those of the house, then the studio's own. */
export const useColours = (): { value: string; label: string }[] => {
  const studio = useStudio();
  return [
    ...COLOUR_NAMES.map((colour) => ({ value: colour as string, label: colour as string })),
    ...entriesOf(studio.colours).map((own) => ({ value: own.id as string, label: own.name })),
  ];
};

const NO_ICON = "none";
const FOLDER_COLOUR = "folder";

type Written = Exclude<CellColumn, "layout">;

interface FieldProps {
  readonly column: GridColumn & { readonly id: Written };
  readonly fields: Fields;
}

const mixed = ({ common }: Fields, column: GridColumn): { value: string; placeholder?: string } => {
  const value = common(column.id);
  return value === null
    ? { value: "", placeholder: "various" }
    : { value, ...(column.empty ? { placeholder: column.empty } : {}) };
};

const SwitchField = ({ column, fields }: FieldProps) => {
  const { on = "", off = "" } = column.field?.switched ?? {};
  return (
    <Switch
      label={fieldLabel(column)}
      labelPosition="left"
      checked={fields.common(column.id) === on}
      onChange={(event) => fields.write(column.id)(event.currentTarget.checked ? on : off)}
      classNames={{ body: classes.switchBody, labelWrapper: classes.label }}
      disabled={column.of === "line" && !fields.lineIds.length}
    />
  );
};

interface ChoiceFieldProps extends FieldProps {
  readonly data: readonly { readonly value: string; readonly label: string }[];
  /** What is chosen where the field is empty. */
  readonly none: string;
}

const ChoiceField = ({ column, fields, data, none }: ChoiceFieldProps) => {
  const value = fields.common(column.id);
  return (
    <Select
      label={fieldLabel(column)}
      data={[...data]}
      value={value === null ? null : value || none}
      placeholder="various"
      allowDeselect={false}
      {...list}
      onChange={(chosen) => fields.write(column.id)(chosen === none ? "" : (chosen ?? ""))}
      {...row}
    />
  );
};

/** What is offered for a field whose texts are known from somewhere. */
const useKnown = (): Partial<Readonly<Record<CellColumn, (fields: Fields) => readonly string[]>>> => {
  const studio = useStudio();
  return {
    player: ({ doc }) => [
      ...entriesOf(studio.people).map((person) => person.name),
      ...linesOf(doc).flatMap((entry) => entry.player || []),
    ],
    microphone: ({ doc, rig }) => microphonesOffered(doc, rig).map(({ name }) => name),
    // Those that nothing is plugged into first.
    input: ({ doc, rig }) => [
      ...freeInputs(doc, rig).map(({ label }) => label),
      ...rigInputsOf(rig).map(({ label }) => label),
    ],
    folder: ({ doc }) => entriesOf(doc.folders).map((folder) => folder.name),
    room: () => entriesOf(studio.rooms).map((room) => room.name),
  };
};

/**
 * The field of a column, by what its description says: a switch, something to choose, or a text, with what is known of
 * it offered.
 */
const ColumnField = ({ column, fields }: FieldProps) => {
  const colours = useColours();
  const known = useKnown()[column.id];
  const { id, field } = column;
  if (field?.kind === "flag") return <SwitchField column={column} fields={fields} />;
  if (id === "colour")
    return (
      <ChoiceField
        column={column}
        fields={fields}
        none={FOLDER_COLOUR}
        data={[{ value: FOLDER_COLOUR, label: "as the folder" }, ...colours]}
      />
    );
  if (id === "icon") {
    const icons = ICONS.map((icon) => ({ value: icon as string, label: ICON_NAMES[icon] }));
    return (
      <ChoiceField
        column={column}
        fields={fields}
        none={NO_ICON}
        data={[{ value: NO_ICON, label: "no icon" }, ...icons]}
      />
    );
  }
  if (field?.kind === "choice") {
    const options = (field.options ?? []).map((option) => ({
      value: String(option ?? "none"),
      label: String(option ?? "none"),
    }));
    return <ChoiceField column={column} fields={fields} none="none" data={options} />;
  }
  const offered = known
    ? { data: () => known(fields), asNew: asNew(id), unchosen: untaken(id), picked: isPicked(id) }
    : {};
  return <TextField label={fieldLabel(column)} onKeep={fields.write(id)} {...mixed(fields, column)} {...offered} />;
};

const isWritten = (column: GridColumn): column is GridColumn & { readonly id: Written } =>
  column.id !== "layout" && column.id !== "name";
const FIELDS = INSPECTED_COLUMNS.filter(isWritten);

/** Every field that tracks and their lines are described with, for one track or several at once. */
export const TrackFields = ({ tracks }: { readonly tracks: readonly Track[] }) => {
  const fields = useFields(tracks);
  const single = tracks.length === 1 ? tracks[0] : undefined;
  return (
    <div className={classes.fields}>
      {single && <TextField label="Track" value={single.name} onKeep={fields.write("name")} />}
      {FIELDS.map((column) => (
        <Fragment key={column.id}>
          {column.id === "output" ? (
            <OutputField tracks={tracks} fields={fields} />
          ) : (
            <ColumnField column={column} fields={fields} />
          )}
        </Fragment>
      ))}
      {single && <SharingField track={single} fields={fields} />}
    </div>
  );
};
