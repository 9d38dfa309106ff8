"use client";

import { Autocomplete, Select, Switch, TextInput } from "@mantine/core";
import { startTransition, useEffect, useRef, useState } from "react";
import { outputsInWords } from "@/core/layout/signal-path";
import { COLOUR_NAMES } from "@/core/model/colours";
import { ICONS } from "@/core/model/families";
import { hardwareOutputs } from "@/core/model/read-rig";
import { linesOfTrack, tracksByLine } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/table";
import { MAIN_ID, type Output, type Sharing, type Track } from "@/core/model/tables/channels";
import { cellText } from "@/core/planning/cells";
import type { CellColumn } from "@/core/planning/columns";
import { writeCell } from "@/core/planning/write-cell";
import { dropDown } from "../shared/combobox";
import { tellLost } from "../shared/notices";
import { offer } from "../shared/offered";
import { ICON_NAMES } from "../shared/track-icon";
import { useDeskStore, useDoing, useRig, useStudio } from "../state/desk-context";
import { asNew, untaken } from "./cell-editor";
import { newIds } from "./grid-focus";
import classes from "./inspector.module.css";
import { useShown } from "./shown";

export const row = { classNames: { root: classes.row, label: classes.label, wrapper: classes.value, input: classes.field } } as const;
export const list = dropDown(200, "bottom-end");

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly placeholder?: string;
  readonly data?: readonly string[];
  /** How a text that is not in `data` is offered. */
  readonly asNew?: (text: string) => string;
  /** Why one is not kept that was neither chosen nor said to be new; absent where any text can be kept. */
  readonly unchosen?: string | null;
  readonly onKeep: (text: string) => boolean;
}

/** What is typed in a field, for as long as the inspector shows the rows it was typed for. When those go away under it, it is told. */
const useDraft = (label: string, value: string) => {
  const { selected } = useShown();
  const [typed, setTyped] = useState<{ readonly of: typeof selected; readonly text: string } | null>(null);
  const waiting = useRef<string | null>(null);
  const setDraft = (text: string | null): void => {
    waiting.current = text !== value ? text : null;
    setTyped(text === null ? null : { of: selected, text });
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the rows it was typed for are what it hangs on
  useEffect(
    () => () => {
      if (waiting.current !== null) tellLost(waiting.current, label, "what it was typed for is no longer selected, or was removed.");
      waiting.current = null;
    },
    [selected],
  );
  const settled = (): void => {
    waiting.current = null;
  };
  return [typed?.of === selected ? typed.text : null, setDraft, settled] as const;
};

/** A text that is kept on Enter or when the field is left, and put back on Esc. One that can't be taken stays to be mended; leaving it tells what it was. */
export const TextField = ({ label, value, placeholder, data, asNew, unchosen, onKeep }: TextFieldProps) => {
  const [draft, setDraft, settled] = useDraft(label, value);
  const steered = useRef(false);
  const chosen = useRef(false);
  const offered = offer({ text: draft ?? value, untouched: draft === null, known: data ?? [], ...(asNew ? { asNew } : {}) });
  const put = (): void => {
    settled();
    // Together with the new value, which the inspector takes up in the same way.
    startTransition(() => setDraft(null));
  };
  const keep = (text: string): boolean => {
    const kept = text === value || onKeep(text);
    if (kept) put();
    return kept;
  };
  const leave = (): void => {
    if (draft === null) return;
    if (unchosen && draft.trim() && draft !== value && !offered.exact) tellLost(draft, label, unchosen);
    else if (keep(offered.exact ?? draft)) return;
    put();
  };
  const common = {
    label,
    placeholder,
    value: draft ?? value,
    maxLength: 4000,
    "data-kept": true,
    "data-draft": (draft !== null && draft !== value) || undefined,
    onBlur: leave,
    onKeyDown: (event: React.KeyboardEvent<HTMLInputElement>) => {
      if (event.key === "ArrowDown" || event.key === "ArrowUp") steered.current = true;
      // What is marked in the list is taken by the list itself.
      const marked = data && (draft?.trim() || steered.current) ? event.currentTarget.getAttribute("aria-activedescendant") : null;
      if (event.key === "Enter" && draft !== null && !marked) keep(draft);
      if (event.key === "Escape") put();
    },
    ...row,
  };
  return data ? (
    <Autocomplete
      {...common}
      data={[...offered.data]}
      filter={({ options }) => options}
      selectFirstOptionOnChange
      onChange={(text) => {
        steered.current = false;
        // The list puts what was chosen into the field as well; it is kept already, and the field shows what was kept.
        if (!chosen.current) setDraft(text);
        chosen.current = false;
      }}
      onOptionSubmit={(option) => {
        chosen.current = true;
        if (!keep(offered.meant(option))) setDraft(offered.meant(option));
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
    write: (column: Exclude<CellColumn, "layout">) => (text: string) => actPlanned(writeCell(desk.getState().doc, rig, { trackIds, column, text, ids: newIds })),
  };
};

type Fields = ReturnType<typeof useFields>;

const keyOfOutput = (output: Output): string =>
  output.kind === "channel" ? `channel ${output.channelId}` : output.kind === "nowhere" ? "nowhere" : `ports ${output.portIds.join(" ")}`;

const OutputField = ({ tracks, fields }: { readonly tracks: readonly Track[]; readonly fields: Fields }) => {
  const { doc, rig, act, trackIds } = fields;
  const ports = hardwareOutputs(rig);
  const pairs = ports.flatMap((port, at) => (port.number % 2 === 1 && ports[at + 1] ? [[port.id, ports[at + 1]?.id ?? port.id]] : []));
  const outputs: readonly { readonly output: Output; readonly label: string }[] = [
    { output: { kind: "channel", channelId: MAIN_ID }, label: doc.channels[MAIN_ID]?.name ?? "Main" },
    ...pairs.map((portIds) => ({ output: { kind: "hardware", portIds } as const, label: outputsInWords(rig, portIds) })),
    { output: { kind: "nowhere" }, label: "Nowhere" },
  ];
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
        if (chosen) act({ commands: [{ kind: "tracks.set", trackIds, set: { output: chosen.output } }] });
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
        fields.act({ commands: [{ kind: "tracks.share", trackIds: [track.id, ...others.map((other) => other.id)], sharing: sharing as Exclude<Sharing, null> }] })
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

const SWITCHES = [
  { column: "phantom", label: "Phantom", on: "yes", off: "no" },
  { column: "pad", label: "Pad", on: "yes", off: "no" },
  { column: "polarity", label: "Inverted", on: "inverted", off: "normal" },
] as const;

const NO_ICON = "none";
const FOLDER_COLOUR = "folder";

export const TrackFields = ({ tracks }: { readonly tracks: readonly Track[] }) => {
  const fields = useFields(tracks);
  const { doc, rig, common, write, lineIds } = fields;
  const mixed = (column: CellColumn): { value: string; placeholder?: string } =>
    common(column) === null ? { value: "", placeholder: "various" } : { value: common(column) ?? "" };
  const single = tracks.length === 1 ? tracks[0] : undefined;
  const studio = useStudio();
  const colours = useColours();
  return (
    <div className={classes.fields}>
      {single && <TextField label="Track" value={single.name} onKeep={write("name")} />}
      <TextField
        label="Player"
        data={[...entriesOf(studio.people).map((person) => person.name), ...entriesOf(doc.lines).flatMap((entry) => entry.player || [])]}
        asNew={asNew("player")}
        onKeep={write("player")}
        {...mixed("player")}
      />
      <TextField
        label="Microphone"
        data={entriesOf(rig.microphones).map((item) => item.name)}
        asNew={asNew("microphone")}
        unchosen={untaken("microphone")}
        onKeep={write("microphone")}
        {...mixed("microphone")}
      />
      <TextField label="Input" onKeep={write("input")} {...mixed("input")} />
      <TextField label="Source" placeholder="as the track" onKeep={write("source")} {...mixed("source")} />
      <TextField label="Gain in dB" placeholder="not planned" onKeep={write("gain")} {...mixed("gain")} />
      {SWITCHES.map(({ column, label, on, off }) => (
        <Switch
          key={column}
          label={label}
          labelPosition="left"
          checked={common(column) === on}
          onChange={(event) => write(column)(event.currentTarget.checked ? on : off)}
          classNames={{ body: classes.switchBody, labelWrapper: classes.label }}
          disabled={!lineIds.length}
        />
      ))}
      <Select
        label="Colour"
        data={[{ value: FOLDER_COLOUR, label: "as the folder" }, ...colours]}
        value={common("colour") === null ? null : common("colour") || FOLDER_COLOUR}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(colour) => write("colour")(colour === FOLDER_COLOUR ? "" : (colour ?? ""))}
        {...row}
      />
      <Select
        label="Icon"
        data={[{ value: NO_ICON, label: "no icon" }, ...ICONS.map((icon) => ({ value: icon as string, label: ICON_NAMES[icon] }))]}
        value={common("icon") === null ? null : common("icon") || NO_ICON}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(icon) => write("icon")(icon === NO_ICON ? "" : (icon ?? ""))}
        {...row}
      />
      <TextField
        label="Folder"
        data={entriesOf(doc.folders).map((folder) => folder.name)}
        asNew={asNew("folder")}
        unchosen={untaken("folder")}
        onKeep={write("folder")}
        {...mixed("folder")}
      />
      <OutputField tracks={tracks} fields={fields} />
      <TextField label="Room" data={entriesOf(studio.rooms).map((room) => room.name)} asNew={asNew("room")} onKeep={write("room")} {...mixed("room")} />
      <TextField label="Position" placeholder="where it stands" onKeep={write("position")} {...mixed("position")} />
      <TextField label="Note" onKeep={write("note")} {...mixed("note")} />
      {single && <SharingField track={single} fields={fields} />}
    </div>
  );
};
