"use client";

import { Autocomplete, Button, Select, Switch, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { memo, useState } from "react";
import { outputsInWords, wayOf } from "@/core/layout/way";
import { DYE_NAMES, type Dye } from "@/core/model/dyes";
import { ICONS } from "@/core/model/families";
import type { FolderId } from "@/core/model/ids";
import { hardwareOutputs } from "@/core/model/read-rig";
import { dyeOf, folderDye, linesOfTrack, trackOf, tracksByLine } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/rig";
import { MAIN_ID, type Output, type Sharing, type Track } from "@/core/model/template";
import { type CellColumn, cellText } from "@/core/planning/cells";
import { writeCell } from "@/core/planning/write-cell";
import { dropDown } from "../shared/combobox";
import { ICON_NAMES } from "../shared/track-icon";
import { useDesk, useDoing, useRig, useStudio } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import { newIds } from "./grid-focus";
import classes from "./inspector.module.css";
import type { Act } from "./use-acts";

const row = { classNames: { root: classes.row, label: classes.label, wrapper: classes.value, input: classes.field } } as const;
const list = dropDown(200, "bottom-end");

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly placeholder?: string;
  readonly data?: readonly string[];
  readonly onKeep: (text: string) => boolean;
}

/** A text that is kept on Enter or when the field is left, and put back on Esc or when it can't be taken. */
const TextField = ({ label, value, placeholder, data, onKeep }: TextFieldProps) => {
  const [draft, setDraft] = useState<string | null>(null);
  const keep = (text: string | null) => {
    if (text !== null && text !== value) onKeep(text);
    setDraft(null);
  };
  const common = {
    label,
    placeholder,
    value: draft ?? value,
    maxLength: 4000,
    onBlur: () => keep(draft),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === "Enter") keep(draft);
      if (event.key === "Escape") setDraft(null);
    },
    ...row,
  };
  return data ? (
    <Autocomplete {...common} data={[...new Set(data)]} limit={12} onChange={setDraft} onOptionSubmit={keep} {...list} />
  ) : (
    <TextInput {...common} onChange={(event) => setDraft(event.currentTarget.value)} />
  );
};

const useFields = (tracks: readonly Track[]) => {
  const doc = useDesk((desk) => desk.doc);
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
    write: (column: Exclude<CellColumn, "layout">) => (text: string) => actPlanned(writeCell(doc, rig, { trackIds, column, text, ids: newIds })),
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
const useDyes = (): { value: string; label: string }[] => {
  const studio = useStudio();
  return [...DYE_NAMES.map((dye) => ({ value: dye as string, label: dye as string })), ...entriesOf(studio.dyes).map((own) => ({ value: own.id as string, label: own.name }))];
};

const NO_ICON = "none";
const FOLDER_DYE = "folder";

const TrackFields = ({ tracks }: { readonly tracks: readonly Track[] }) => {
  const fields = useFields(tracks);
  const { doc, rig, common, write, lineIds } = fields;
  const mixed = (column: CellColumn): { value: string; placeholder?: string } =>
    common(column) === null ? { value: "", placeholder: "various" } : { value: common(column) ?? "" };
  const single = tracks.length === 1 ? tracks[0] : undefined;
  const studio = useStudio();
  const dyes = useDyes();
  return (
    <div className={classes.fields}>
      {single && <TextField label="Track" value={single.name} onKeep={write("name")} />}
      <TextField
        label="Player"
        data={[...entriesOf(studio.people).map((person) => person.name), ...entriesOf(doc.lines).flatMap((entry) => entry.player || [])]}
        onKeep={write("player")}
        {...mixed("player")}
      />
      <TextField label="Microphone" data={entriesOf(rig.microphones).map((item) => item.name)} onKeep={write("microphone")} {...mixed("microphone")} />
      <TextField label="Input" onKeep={write("input")} {...mixed("input")} />
      <TextField label="Gain in dB" placeholder="not planned" onKeep={write("gain")} {...mixed("gain")} />
      <Switch
        label="Phantom"
        labelPosition="left"
        checked={common("phantom") === "yes"}
        onChange={(event) => write("phantom")(event.currentTarget.checked ? "yes" : "no")}
        classNames={{ body: classes.switchBody, labelWrapper: classes.label }}
        disabled={!lineIds.length}
      />
      <Select
        label="Colour"
        data={[{ value: FOLDER_DYE, label: "as the folder" }, ...dyes]}
        value={common("dye") === null ? null : common("dye") || FOLDER_DYE}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(dye) => write("dye")(dye === FOLDER_DYE ? "" : (dye ?? ""))}
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
      <TextField label="Folder" data={entriesOf(doc.folders).map((folder) => folder.name)} onKeep={write("folder")} {...mixed("folder")} />
      <OutputField tracks={tracks} fields={fields} />
      <TextField label="Room" data={entriesOf(studio.rooms).map((room) => room.name)} onKeep={write("room")} {...mixed("room")} />
      <TextField label="Position" placeholder="where it stands" onKeep={write("position")} {...mixed("position")} />
      <TextField label="Note" onKeep={write("note")} {...mixed("note")} />
      {single && <SharingField track={single} fields={fields} />}
    </div>
  );
};

const Way = ({ track }: { readonly track: Track }) => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  return (
    <section aria-label="The way of this signal">
      <h3 className={classes.heading}>The way of this signal</h3>
      <ol className={classes.way} style={{ borderColor: dyeVar(dyeOf(doc, track)) }}>
        {wayOf(doc, rig, track).map(({ title, detail }, at) => (
          <li key={at}>
            <strong>{title}</strong> <span>{detail}</span>
          </li>
        ))}
      </ol>
    </section>
  );
};

/** What is done most; everything else is in the menu of the row, the palette and the list of keys. */
const SHOWN_ACTS: readonly string[] = ["pair", "split", "duplicate", "folder", "choose-family", "family", "remove", "nest", "unnest", "folder-family", "dissolve"];

const Acts = ({ acts }: { readonly acts: readonly Act[] }) => (
  <div className={classes.acts}>
    {acts
      .filter((act) => act.possible && SHOWN_ACTS.includes(act.id))
      .map((act) => (
        <Button
          key={act.id}
          variant="default"
          size="compact-sm"
          justify="space-between"
          rightSection={act.key ? <span className={`${classes.key} mono`}>{act.key}</span> : undefined}
          onClick={act.run}
        >
          {act.label}
        </Button>
      ))}
  </div>
);

const FolderFields = ({ folderId, acts }: { readonly folderId: FolderId; readonly acts: readonly Act[] }) => {
  const doc = useDesk((desk) => desk.doc);
  const { act } = useDoing();
  const folder = doc.folders[folderId];
  const dyes = useDyes();
  if (!folder) return null;
  return (
    <>
      <h2 className={classes.title}>
        <span className={classes.dot} style={{ background: dyeVar(folderDye(doc, folder)) }} />
        {folder.name}
      </h2>
      <div className={classes.fields}>
        <TextField label="Folder" value={folder.name} onKeep={(name) => act({ commands: [{ kind: "folders.set", folderIds: [folderId], set: { name } }] })} />
        <Select
          label="Colour"
          data={[{ value: "none", label: "none of its own" }, ...dyes]}
          value={folder.dye ?? "none"}
          allowDeselect={false}
          {...list}
          onChange={(dye) => act({ commands: [{ kind: "folders.set", folderIds: [folderId], set: { dye: dye === "none" ? null : (dye as Dye) } }] })}
          {...row}
        />
      </div>
      <Acts acts={acts.filter((entry) => entry.scope === "folder")} />
    </>
  );
};

/** How long the cursor rests before the fields follow it. */
const REST_MS = 120;

/** What is selected, in full: one track, several at once, or a folder. */
export const Inspector = memo(({ acts }: { readonly acts: readonly Act[] }) => {
  const doc = useDesk((desk) => desk.doc);
  // The fields follow when the cursor rests: going through the rows must not wait for them.
  const [cursor] = useDebouncedValue(
    useDesk((desk) => desk.cursor),
    REST_MS,
  );
  const [selected] = useDebouncedValue(
    useDesk((desk) => desk.selected),
    REST_MS,
  );
  const tracks = selected.flatMap((id) => trackOf(doc, id) ?? []);
  const first = tracks[0];
  const folderId = cursor && doc.folders[cursor.rowId as FolderId] ? (cursor.rowId as FolderId) : null;
  if (!first && !folderId) return null;
  return (
    <aside className={classes.panel} aria-label="Inspector">
      {first ? (
        <>
          <h2 className={classes.title}>
            <span className={classes.dot} style={{ background: dyeVar(dyeOf(doc, first)) }} />
            {tracks.length === 1 ? first.name : `${tracks.length} tracks`}
          </h2>
          <TrackFields key={selected.join()} tracks={tracks} />
          {tracks.length === 1 && <Way track={first} />}
          <Acts acts={acts} />
        </>
      ) : (
        folderId && <FolderFields folderId={folderId} acts={acts} />
      )}
    </aside>
  );
});
Inspector.displayName = "Inspector";
