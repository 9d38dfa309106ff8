"use client";

import { Button, Checkbox, Switch } from "@mantine/core";
import { IconArrowRight } from "@tabler/icons-react";
import { useMemo, useState } from "react";
import type { ImportPreview, PreviewRow } from "@/contracts/answers";
import type { ResultField } from "@/core/formats/input-list/changes";
import type { Mark } from "@/core/formats/input-list/list-types";
import { MEANING_NAMES, MEANINGS, type Meaning } from "@/core/formats/input-list/meanings";
import { INPUT_QUESTION } from "@/core/formats/input-list/questions";
import { FAMILIES, FAMILY_DEFAULTS } from "@/core/model/families";
import { counted } from "@/core/units/counted";
import { type PartColumn, PartTable } from "../parts/part-table";
import { tellRefusal } from "../shared/notices";
import { dyeVar } from "../theme/tokens";
import classes from "./reading.module.css";
import { markOf, type ReadingRow, readingRows, unsureRows } from "./reading-rows";
import type { Reading } from "./use-reading";

/** Rows on one page: so many fields are drawn at once without a wait. */
const PAGE = 150;

interface TableProps {
  readonly preview: ImportPreview;
  readonly reading: Reading;
}

/** Whether it is still asked if a column is the number of the input. */
const isAsked = ({ questions }: ImportPreview, at: number): boolean =>
  questions.some(
    ({ id, answered, options }) =>
      id === INPUT_QUESTION && !answered && options.some(({ value }) => value === String(at)),
  );

/** The meaning of a column, chosen in its own heading. */
const MeaningChoice = ({ at, preview, reading }: TableProps & { readonly at: number }) => {
  const column = preview.columns[at];
  if (!column) return null;
  const choose = (chosen: Meaning): void =>
    reading.set({
      columns: preview.columns.map(({ meaning }, index) =>
        index === at ? chosen : meaning === chosen && chosen !== "ignore" ? "ignore" : meaning,
      ),
    });
  return (
    <select
      className={classes.meaning}
      aria-label={`What ${column.heading} means`}
      data-unsure={column.guessed || isAsked(preview, at) || undefined}
      value={column.meaning}
      onChange={(event) => choose(event.currentTarget.value as Meaning)}
    >
      {MEANINGS.map((meaning) => (
        <option key={meaning} value={meaning}>
          {MEANING_NAMES[meaning]}
        </option>
      ))}
    </select>
  );
};

/** As wide as what stands in a column needs, within bounds: pixels. */
const widthOf = ({ columns, source }: ImportPreview, at: number): number => {
  const longest = source.slice(0, PAGE).reduce((most, { cells }) => Math.max(most, cells[at]?.length ?? 0), 0);
  return Math.min(150, Math.max(84, longest * 6.6 + 16, Math.min(22, columns[at]?.heading.length ?? 0) * 6.2 + 14));
};

const originals = (props: TableProps): readonly PartColumn<ReadingRow>[] => {
  const { columns, source } = props.preview;
  const width = columns.length || Math.min(1, Math.max(0, ...source.map(({ cells }) => cells.length)));
  return Array.from({ length: width }, (_, at) => ({
    id: `column ${at}`,
    header: columns[at]?.heading ?? "As written",
    width: columns.length ? widthOf(props.preview, at) : 320,
    head: columns.length ? <MeaningChoice at={at} {...props} /> : undefined,
    text: ({ source: row }) => row?.cells[at] ?? "",
    shown: ({ source: row }) =>
      row && (
        <span className={classes.original} data-held={row.held.includes(at) || undefined}>
          {row.cells[at]}
          {row.held.includes(at) && " ↓"}
        </span>
      ),
    mark: ({ result }) => markOf(result, columns[at] ? [columns[at].meaning as Mark["field"]] : []),
  }));
};

interface ResultSpec {
  readonly field: ResultField;
  readonly header: string;
  readonly width: number;
  readonly text: (row: PreviewRow) => string;
  readonly marks: readonly Mark["field"][];
  readonly options?: readonly { readonly value: string; readonly label: string }[];
  /** Shown only where something is in it, or when all are asked for. */
  readonly rare?: true;
}

const OFF_ON = (on: string) => [
  { value: "no", label: "–" },
  { value: "yes", label: on },
];

const RESULTS: readonly ResultSpec[] = [
  { field: "track", header: "Track", width: 150, text: ({ track }) => track, marks: ["source", "track"] },
  { field: "input", header: "Input", width: 78, text: ({ inputs }) => inputs.join("–"), marks: ["input"] },
  {
    field: "microphone",
    header: "Microphone",
    width: 136,
    text: ({ microphone }) => microphone,
    marks: ["microphone"],
  },
  {
    field: "phantom",
    header: "48 V",
    width: 66,
    text: ({ phantom }) => (phantom ? "yes" : "no"),
    marks: ["phantom"],
    options: OFF_ON("48 V"),
  },
  { field: "folder", header: "Folder", width: 110, text: ({ folder }) => folder, marks: ["folder"] },
  {
    field: "family",
    header: "Family",
    width: 124,
    text: ({ family }) => family ?? "",
    marks: [],
    options: [
      { value: "", label: "not known" },
      ...FAMILIES.map((value) => ({ value, label: FAMILY_DEFAULTS[value].name })),
    ],
  },
  {
    field: "format",
    header: "Mono or stereo",
    width: 84,
    text: ({ layout }) => layout,
    marks: ["format"],
    options: [
      { value: "mono", label: "mono" },
      { value: "stereo", label: "stereo" },
    ],
  },
  {
    field: "polarity",
    header: "Polarity",
    width: 78,
    text: ({ polarity }) => (polarity ? "yes" : "no"),
    marks: ["polarity"],
    options: OFF_ON("Ø"),
    rare: true,
  },
  { field: "player", header: "Player", width: 120, text: ({ player }) => player, marks: ["player"], rare: true },
  { field: "note", header: "Note", width: 150, text: ({ note }) => note, marks: [], rare: true },
];

const results = ({ preview, reading }: TableProps, all: boolean): readonly PartColumn<ReadingRow>[] => {
  // What was set stands there while the list is read with it.
  const pending = (key: string, field: ResultField): string | undefined =>
    reading.busy ? reading.chosen.choices.changes?.[key]?.[field] : undefined;
  return RESULTS.filter(
    ({ rare, text }) => all || !rare || preview.rows.some((row) => !["", "no"].includes(text(row))),
  ).map(({ field, header, width, text, marks, options }) => ({
    id: field === "track" ? "name" : field,
    header,
    width,
    text: ({ result, says }) => (result ? (pending(result.key, field) ?? text(result)) : field === "track" ? says : ""),
    mark: ({ result }) => markOf(result, marks) ?? (field === "input" ? (result?.trouble ?? null) : null),
    editor: options ? { kind: "choice" as const, options: () => options } : { kind: "text" as const },
    still: ({ result }) => result === null,
    write: (value) => ({ [field]: value.trim() }),
  }));
};

const Name = ({ row }: { readonly row: ReadingRow }) => (
  <span className={classes.arrow}>
    <IconArrowRight size={15} stroke={1.7} aria-hidden />
    {row.result && <span className={classes.dye} style={{ background: dyeVar(row.result.colour) }} />}
  </span>
);

const becomes: PartColumn<ReadingRow> = {
  id: "becomes",
  header: "becomes",
  width: 62,
  text: () => "",
  shown: (row) => <Name row={row} />,
};

const onColumn = ({ reading }: TableProps): PartColumn<ReadingRow> => ({
  id: "on",
  header: "Read",
  width: 48,
  text: () => "",
  shown: ({ source, result }) =>
    source && (
      <Checkbox
        size="xs"
        aria-label={`Read row ${source.row}`}
        checked={!(result?.from ?? [source.row]).some((row) => reading.chosen.choices.off?.includes(row))}
        disabled={!result && source.became !== "off" && source.became !== "joined"}
        onChange={(event) => reading.turn(result?.from ?? [source.row], event.currentTarget.checked)}
      />
    ),
});

const LOOKS: Readonly<Record<string, "off" | "joined" | undefined>> = {
  off: "off",
  "left out": "off",
  outside: "off",
  heading: "off",
};

/** Each row of the list beside what it becomes; columns, cells and rows are corrected where they stand. */
export const ReadingTable = (props: TableProps) => {
  const { preview, reading } = props;
  const [showLeft, setShowLeft] = useState(false);
  const [everyColumn, setEveryColumn] = useState(false);
  const [onlyUnsure, setOnlyUnsure] = useState(false);
  const [page, setPage] = useState(0);
  const rows = useMemo(() => {
    const all = readingRows(preview, showLeft);
    return onlyUnsure ? all.filter(({ result }) => result && (result.marks.length > 0 || result.trouble)) : all;
  }, [preview, showLeft, onlyUnsure]);
  const pages = Math.max(1, Math.ceil(rows.length / PAGE));
  const at = Math.min(page, pages - 1);
  const shown = rows.slice(at * PAGE, (at + 1) * PAGE);
  const unsure = unsureRows(preview.rows);
  const columns: readonly PartColumn<ReadingRow>[] = [
    onColumn(props),
    ...originals(props),
    becomes,
    ...results(props, everyColumn),
  ];
  const set = (ids: readonly string[], change: Readonly<Record<string, unknown>>): boolean => {
    const [[field, value] = ["", ""]] = Object.entries(change);
    const keys = ids.filter((id) => preview.rows.some(({ key }) => key === id));
    if (keys.length) reading.change(keys, field as ResultField, String(value));
    return keys.length > 0;
  };
  return (
    <section aria-label="Rows of the list and what they become" className={classes.tableBox}>
      <div className={classes.tools}>
        <Switch
          size="xs"
          label="Rows that are left out"
          checked={showLeft}
          onChange={(event) => setShowLeft(event.currentTarget.checked)}
        />
        <Switch
          size="xs"
          label="Every column"
          checked={everyColumn}
          onChange={(event) => setEveryColumn(event.currentTarget.checked)}
        />
        <Switch
          size="xs"
          label={unsure ? `Only what is not sure (${counted(unsure, "track")})` : "Only what is not sure"}
          disabled={!unsure && !onlyUnsure}
          checked={onlyUnsure}
          onChange={(event) => setOnlyUnsure(event.currentTarget.checked)}
        />
        <Switch
          size="xs"
          label="Short names in full"
          checked={reading.chosen.choices.inFull ?? false}
          onChange={(event) => {
            const inFull = event.currentTarget.checked;
            reading.choose((old) => ({ ...old, inFull }));
          }}
        />
        {pages > 1 && (
          <span className={classes.pages}>
            <Button size="compact-xs" variant="default" disabled={at === 0} onClick={() => setPage(at - 1)}>
              Rows before
            </Button>
            {`${at * PAGE + 1}–${at * PAGE + shown.length} of ${rows.length}`}
            <Button size="compact-xs" variant="default" disabled={at === pages - 1} onClick={() => setPage(at + 1)}>
              Rows after
            </Button>
          </span>
        )}
      </div>
      <PartTable
        label="Rows of the list"
        rows={shown}
        columns={columns}
        nameOf={({ result, source }) => result?.track || `row ${source?.row ?? ""}`}
        onSet={set}
        onRefused={tellRefusal}
        selectable
        wide
        lookOf={({ source, result }) =>
          result ? undefined : source?.became === "joined" ? "joined" : LOOKS[source?.became ?? ""]
        }
        empty={onlyUnsure ? "Nothing is unsure." : "No row of the list is an input."}
      />
    </section>
  );
};
