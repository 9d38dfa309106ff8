"use client";

import { Button, Group, Loader, NativeSelect, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { IconAlertTriangle, IconCheck, IconHelpCircle } from "@tabler/icons-react";
import { useEffect, useState } from "react";
import type { ImportPreview, PreviewRow, RigList } from "@/contracts/answers";
import { MEANING_NAMES, MEANINGS, type Meaning } from "@/core/formats/input-list/meanings";
import type { Remark, Report } from "@/core/formats/input-list/list-types";
import { SESSION_KIND_NAMES, SESSION_KINDS } from "@/core/model/session-kinds";
import { counted } from "@/core/units/counted";
import { api, ServiceError } from "../shared/api";
import { Chosen } from "../shared/chooser";
import { useSubmit } from "../shared/use-submit";
import { dyeVar } from "../theme/tokens";
import classes from "./import-dialog.module.css";
import { RigField, rigOptions } from "./template-dialogs";

interface ImportDialogProps {
  readonly file: File;
  readonly rigs: RigList["rigs"];
  readonly onMade: (id: string) => void;
}

/** Rows shown of a long list; all of them are read. */
const SHOWN_ROWS = 200;

const REPORT_PARTS = [
  { key: "leftOut", title: "Could not be placed", Glyph: IconAlertTriangle, open: true },
  { key: "guessed", title: "Guessed", Glyph: IconHelpCircle, open: true },
  { key: "understood", title: "Understood", Glyph: IconCheck, open: false },
] as const;

const ReportPart = ({
  title,
  remarks,
  open,
  Glyph,
}: {
  readonly title: string;
  readonly remarks: readonly Remark[];
  readonly open: boolean;
  readonly Glyph: typeof IconCheck;
}) => {
  if (!remarks.length) return null;
  return (
    <details open={open} className={classes.part}>
      <summary>
        <Glyph size={15} stroke={1.9} aria-hidden /> {title}: {remarks.length}
      </summary>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reachable by keyboard */}
      <ul tabIndex={0} aria-label={title}>
        {remarks.map((remark, at) => (
          <li key={at}>{remark.message}</li>
        ))}
      </ul>
    </details>
  );
};

const ReportView = ({ report }: { readonly report: Report }) => (
  <div className={classes.report}>
    {REPORT_PARTS.map(({ key, ...part }) => (
      <ReportPart key={key} remarks={report[key]} {...part} />
    ))}
  </div>
);

const ITS_OWN = "its own";

const ColumnMeanings = ({
  preview,
  onChange,
}: {
  readonly preview: ImportPreview;
  readonly onChange: (columns: readonly Meaning[]) => void;
}) => (
  <fieldset className={classes.columns}>
    <legend>What each column means</legend>
    {preview.columns.map((column, at) => (
      <NativeSelect
        key={at}
        size="xs"
        label={column.heading}
        description={column.example ? `e.g. ${column.example.slice(0, 28)}` : "empty"}
        data={MEANINGS.map((meaning) => ({ value: meaning, label: MEANING_NAMES[meaning] }))}
        value={column.meaning}
        onChange={(event) => {
          const chosen = event.currentTarget.value as Meaning;
          onChange(
            preview.columns.map((other, index) =>
              index === at ? chosen : other.meaning === chosen && chosen !== "ignore" ? "ignore" : other.meaning,
            ),
          );
        }}
      />
    ))}
  </fieldset>
);

const PreviewTable = ({ rows }: { readonly rows: readonly PreviewRow[] }) => (
  // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
  <section className={classes.tableScroll} tabIndex={0} aria-label="Tracks it would make">
    <table className={`${classes.table} narrow`}>
      <thead>
        <tr>
          {["Input", "Track", "Microphone", "48 V", "", "Folder", "Player", "Note"].map((heading, at) => (
            <th key={at} scope="col">
              {heading || <span className="visually-hidden">Mono or stereo</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, SHOWN_ROWS).map((row) => (
          <tr key={row.row} data-trouble={row.trouble !== null || undefined}>
            <td className="mono">{row.inputs.join("–") || "–"}</td>
            <th scope="row">
              <span className={classes.colour} style={{ background: dyeVar(row.colour) }} title={row.colour} />
              {row.track}
            </th>
            <td>{row.microphone}</td>
            <td>{row.phantom ? "48 V" : ""}</td>
            <td>{row.layout}</td>
            <td>{row.folder}</td>
            <td>{row.player}</td>
            <td>
              {row.note} {row.trouble && <span className={classes.trouble}>{row.trouble}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
    {rows.length > SHOWN_ROWS && <p>and {rows.length - SHOWN_ROWS} more</p>}
  </section>
);

const isDocumentFile = (file: File): boolean => /\.json$/i.test(file.name);

interface PreviewRequest {
  readonly rigId: string | null;
  readonly columns: readonly Meaning[] | null;
  readonly setError: (message: string | null) => void;
}

/** What a file would become; read again whenever rig or columns change. A template document has no columns to show. */
const usePreview = (file: File, { rigId, columns, setError }: PreviewRequest): ImportPreview | null => {
  const [preview, setPreview] = useState<ImportPreview | null>(null);
  useEffect(() => {
    if (isDocumentFile(file)) return;
    const controller = new AbortController();
    api.previewImport({ file, ...(rigId ? { rigId } : {}), ...(columns ? { columns } : {}) }, controller.signal).then(
      (answer) => {
        setPreview(answer);
        setError(null);
      },
      (failure) => {
        if (!controller.signal.aborted)
          setError(failure instanceof ServiceError ? failure.message : "The file can't be read.");
      },
    );
    return () => controller.abort();
  }, [file, rigId, columns, setError]);
  return preview;
};

/**
 * Shows what an input list would become before it does: each column's meaning can be corrected, and what could not be
 * placed is told.
 */
export const ImportDialog = ({ file, rigs, onMade }: ImportDialogProps) => {
  const [rigId, setRigId] = useState<string | null>(isDocumentFile(file) ? null : (rigs[0]?.id ?? null));
  const [name, setName] = useState<string | null>(null);
  const [kind, setKind] = useState<string>("band");
  const [columns, setColumns] = useState<readonly Meaning[] | null>(null);
  const { busy, error, setError, submit } = useSubmit();
  const isDocument = isDocumentFile(file);
  const preview = usePreview(file, { rigId, columns, setError });
  const make = () =>
    submit(async () => {
      const fields = { ...(isDocument ? {} : { kind }), ...(rigId ? { rigId } : {}), ...(columns ? { columns } : {}) };
      const made = await api.importTemplate({ file, ...fields, ...(name?.trim() ? { name } : {}) });
      modals.closeAll();
      onMade(made.template.id);
    });
  return (
    <Stack
      gap="sm"
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      {!isDocument && (
        <Group grow align="flex-start">
          <TextInput
            label="Name"
            value={name ?? preview?.name ?? ""}
            onChange={(event) => setName(event.currentTarget.value)}
            maxLength={200}
          />
          <RigField rigs={rigs} rigId={rigId} onRig={setRigId} />
          <Chosen
            label="Kind of session"
            options={SESSION_KINDS.map((value) => ({ value, label: SESSION_KIND_NAMES[value] }))}
            value={kind}
            onChange={setKind}
          />
        </Group>
      )}
      {error && (
        <p role="alert" className={classes.error}>
          {error}
        </p>
      )}
      {!preview && !error && !isDocument && <Loader size="sm" aria-label="Reading the file" />}
      {isDocument && (
        <>
          <p>This is a template document. It is kept as a new template, with everything in it.</p>
          <Chosen
            label="Rig"
            options={[{ value: ITS_OWN, label: "the one it was made for" }, ...rigOptions(rigs)]}
            value={rigId ?? ITS_OWN}
            onChange={(id) => {
              setRigId(id === ITS_OWN ? null : id);
              setError(null);
            }}
          />
        </>
      )}
      {preview && (
        <>
          <ColumnMeanings preview={preview} onChange={setColumns} />
          {!error && <ReportView report={preview.report} />}
          {!error && <PreviewTable rows={preview.rows} />}
        </>
      )}
      <Group justify="flex-end">
        <Button variant="default" onClick={() => modals.closeAll()}>
          Cancel
        </Button>
        <Button type="submit" loading={busy} disabled={error !== null || (!preview && !isDocument)} data-autofocus>
          {preview && !error ? `Make template of ${counted(preview.rows.length, "track")}` : "Make template"}
        </Button>
      </Group>
    </Stack>
  );
};
