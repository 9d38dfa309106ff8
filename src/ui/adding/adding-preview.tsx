"use client";

import { IconHelpCircle } from "@tabler/icons-react";
import { useMemo } from "react";
import type { SessionPlan } from "@/core/formats/session-line/plan-session";
import type { Changeable, SessionGroup, SessionRow } from "@/core/formats/session-line/session-row";
import { FAMILIES, FAMILY_DEFAULTS } from "@/core/model/families";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import { counted } from "@/core/units/counted";
import { type PartColumn, PartTable } from "../parts/part-table";
import { tellRefusal } from "../shared/notices";
import { TrackIcon } from "../shared/track-icon";
import { dyeVar } from "../theme/tokens";
import classes from "./adding.module.css";
import type { Adding } from "./adding-draft";

type Row = SessionRow & { readonly id: string };

const NOT_KNOWN = { value: "", label: "not known" };
const FAMILY_OPTIONS = [NOT_KNOWN, ...FAMILIES.map((value) => ({ value, label: FAMILY_DEFAULTS[value].name }))];

const sureOf = (row: Row, ...fields: readonly string[]): string | null => {
  const found = row.marks.filter(({ field }) => fields.includes(field));
  return found.length ? found.map(({ says }) => says).join(" ") : null;
};

const set = (field: Changeable) => (text: string) => ({ [field]: text.trim() });

const choice = (options: readonly { readonly value: string; readonly label: string }[]) =>
  ({ kind: "choice", options: () => options }) as const;

type Column = PartColumn<Row>;

/** What it is called and how it looks. */
const CALLED: readonly Column[] = [
  {
    id: "look",
    header: "Icon",
    width: 44,
    text: () => "",
    shown: ({ icon, colour }) => (
      <span className={classes.icon}>
        <TrackIcon icon={icon} color={dyeVar(colour)} />
      </span>
    ),
  },
  {
    id: "name",
    header: "Track",
    width: 150,
    text: ({ name }) => name,
    editor: { kind: "text" },
    write: set("name"),
    mark: (row) => sureOf(row, "source", "track"),
  },
  {
    id: "layout",
    header: "Mono or stereo",
    width: 84,
    text: ({ lines }) => (lines.length === 2 ? "stereo" : "mono"),
    editor: choice(["mono", "stereo"].map((value) => ({ value, label: value }))),
    write: set("layout"),
    mark: (row) => sureOf(row, "format"),
  },
];

/** What is plugged in where. */
const plugged = (microphones: readonly string[]): readonly Column[] => [
  {
    id: "input",
    header: "Input",
    width: 76,
    text: ({ inputs }) => inputs.join("–"),
    editor: { kind: "text", placeholder: "none" },
    write: set("input"),
    mark: (row) => sureOf(row, "input"),
  },
  {
    id: "microphone",
    header: "Microphone",
    width: 140,
    text: ({ microphone }) => microphone,
    editor: { kind: "text", placeholder: "not known", suggestions: microphones },
    write: set("microphone"),
    mark: (row) => sureOf(row, "microphone"),
  },
  {
    id: "phantom",
    header: "48 V",
    width: 70,
    text: ({ phantom }) => (phantom ? "yes" : "no"),
    editor: choice([
      { value: "no", label: "–" },
      { value: "yes", label: "48 V" },
    ]),
    write: set("phantom"),
    mark: (row) => sureOf(row, "phantom"),
  },
];

/** What is asked of it, where it goes and who plays it. */
const PLACED: readonly Column[] = [
  {
    id: "asks",
    header: "Of note",
    width: 214,
    text: (row) => toldOf(row),
    shown: (row) => (
      <span data-asks={row.asks !== null || undefined} className={classes.told}>
        {row.asks && <IconHelpCircle size={14} stroke={1.9} aria-hidden />} {toldOf(row)}
      </span>
    ),
  },
  {
    id: "family",
    header: "Family",
    width: 126,
    text: ({ family }) => family ?? "",
    editor: choice(FAMILY_OPTIONS),
    write: set("family"),
  },
  {
    id: "folder",
    header: "Folder",
    width: 120,
    text: ({ folder }) => folder,
    editor: { kind: "text", placeholder: "none" },
    write: set("folder"),
  },
  {
    id: "player",
    header: "Player",
    width: 110,
    text: ({ player }) => player,
    editor: { kind: "text" },
    write: set("player"),
    mark: (row) => sureOf(row, "player"),
  },
];

const columnsOf = (rig: Rig): readonly Column[] => [
  ...CALLED,
  ...plugged(entriesOf(rig.microphones).map(({ name }) => name)),
  ...PLACED,
];

const toldOf = ({ asks, usual, polarity, pad, note }: SessionRow): string =>
  [asks, usual ? "usual" : "", polarity ? "polarity turned over" : "", pad ? "pad in" : "", note]
    .filter(Boolean)
    .join(", ");

const GroupHead = ({ group, columns }: { readonly group: SessionGroup; readonly columns: number }) => (
  <tr className={classes.group}>
    <th scope="rowgroup" colSpan={columns + 1}>
      <span className={classes.groupLine} style={{ borderInlineStartColor: dyeVar(group.colour) }}>
        <strong>{group.folder || "No folder"}</strong>
        <span>{counted(group.rows.length, "track")}</span>
        <span>{group.says}</span>
      </span>
    </th>
  </tr>
);

/** What would be added, by folder: each cell can be changed before anything is done. */
export const AddingPreview = ({
  plan,
  rig,
  adding,
}: {
  readonly plan: SessionPlan;
  readonly rig: Rig;
  readonly adding: Adding;
}) => {
  const columns = useMemo(() => columnsOf(rig), [rig]);
  const rows = plan.groups.flatMap((group) => group.rows.map((row): Row => ({ ...row, id: row.key })));
  const firstOf = new Map(plan.groups.map((group) => [group.rows[0]?.key ?? "", group]));
  if (!rows.length) return null;
  return (
    <PartTable
      label="Tracks to be added"
      rows={rows}
      columns={columns}
      nameOf={({ name }) => name}
      onSet={(ids, change) => {
        const [[field, value] = ["", ""]] = Object.entries(change);
        adding.change(ids, field as Changeable, String(value));
        return true;
      }}
      onRefused={tellRefusal}
      selectable
      wide
      over={(row) => {
        const group = firstOf.get(row.key);
        return group && <GroupHead group={group} columns={columns.length} />;
      }}
      empty=""
    />
  );
};
