"use client";

import { Button, Loader, NativeSelect, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { IconAlertTriangle, IconCheck, IconHelpCircle } from "@tabler/icons-react";
import type { ImportPreview, RigList } from "@/contracts/answers";
import type { Remark, Report } from "@/core/formats/input-list/list-types";
import { SESSION_KIND_NAMES, SESSION_KINDS } from "@/core/model/session-kinds";
import { counted } from "@/core/units/counted";
import { api } from "../shared/api";
import { useSubmit } from "../shared/use-submit";
import classes from "./reading.module.css";
import { ReadingQuestions } from "./reading-questions";
import { ReadingTable } from "./reading-table";
import { correctedIn, remember } from "./remember";
import { type Reading, useReading } from "./use-reading";

interface ReadingScreenProps {
  readonly file: File;
  readonly rigs: RigList["rigs"];
  readonly onMade: (id: string) => void;
}

const REPORT_PARTS = [
  { key: "leftOut", title: "Left out", Glyph: IconAlertTriangle },
  { key: "guessed", title: "Guessed", Glyph: IconHelpCircle },
  { key: "understood", title: "Understood", Glyph: IconCheck },
] as const;

const ReportPart = ({
  title,
  remarks,
  Glyph,
}: {
  readonly title: string;
  readonly remarks: readonly Remark[];
  readonly Glyph: typeof IconCheck;
}) =>
  remarks.length > 0 && (
    <details className={classes.part}>
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

const ReportView = ({ report }: { readonly report: Report }) => (
  <div className={classes.report}>
    {REPORT_PARTS.map(({ key, ...part }) => (
      <ReportPart key={key} remarks={report[key]} {...part} />
    ))}
  </div>
);

/** "11 inputs on 10 rows", and what speaks for it: the sums of the list. */
const Head = ({ preview }: { readonly preview: ImportPreview }) => {
  const { balance, outside } = preview;
  const numbers = [
    ...(balance.gaps.length ? [`${balance.gaps.join(", ")} missing`] : []),
    ...(balance.doubles.length ? [`${balance.doubles.join(", ")} twice`] : []),
  ];
  const parts = [
    `${counted(balance.tracks, "track")}${balance.pairs ? `, ${balance.pairs} of them ${balance.pairs === 1 ? "a pair" : "pairs"}` : ""}`,
    balance.joined ? `${counted(balance.joined, "row")} joined` : "",
    `${preview.rows.filter(({ phantom }) => phantom).length} with 48 V`,
    balance.withoutInput ? `${balance.withoutInput} without input` : "",
    numbers.join(", ") || (balance.withoutInput ? "" : "every number is there, none twice"),
  ].filter(Boolean);
  const left = [
    ...outside.map(({ names, title }) => `${names.length} of ${title}`),
    balance.leftOut ? `${counted(balance.leftOut, "row")} in all` : "",
  ].filter(Boolean);
  return (
    <div className={classes.head}>
      <h3>
        {counted(balance.lines, "input")} on {counted(balance.rows, "row")}
      </h3>
      <p>{parts.join(" · ")}</p>
      {left.length > 0 && <p>left out: {left.join(", ")}</p>}
    </div>
  );
};

const NO_RIG = "made on the way";

const openQuestions = ({ questions }: ImportPreview): number => questions.filter(({ answered }) => !answered).length;

const makeLabel = (preview: ImportPreview | null): string => {
  if (!preview) return "Make template";
  const open = openQuestions(preview);
  return `Make template of ${counted(preview.rows.length, "track")}${open ? `, ${counted(open, "question")} open` : ""}`;
};

interface BarProps extends ReadingScreenProps {
  readonly reading: Reading;
  readonly busy: boolean;
  readonly onMake: () => void;
}

const Bar = ({ file, rigs, reading, busy, onMake }: BarProps) => {
  const { preview, chosen, error } = reading;
  const unusable = error !== null || !preview || preview.rows.length === 0;
  return (
    <div className={classes.bar}>
      <div className={classes.what}>
        <h2>Reading “{file.name}”</h2>
        <span className={classes.by}>{preview?.by}</span>
      </div>
      <span className={classes.space} />
      <div className={classes.fields}>
        {preview && preview.sheets.length > 1 && (
          <NativeSelect
            size="xs"
            label="Sheet"
            data={preview.sheets.map((label, at) => ({ value: String(at), label }))}
            value={String(preview.sheet)}
            onChange={(event) => reading.toSheet(Number(event.currentTarget.value))}
          />
        )}
        <TextInput
          size="xs"
          label="Name"
          value={chosen.name ?? preview?.name ?? ""}
          onChange={(event) => reading.set({ name: event.currentTarget.value })}
          maxLength={200}
        />
        <NativeSelect
          size="xs"
          label="Kind of session"
          data={SESSION_KINDS.map((value) => ({ value, label: SESSION_KIND_NAMES[value] }))}
          value={chosen.kind}
          onChange={(event) => reading.set({ kind: event.currentTarget.value })}
        />
        <NativeSelect
          size="xs"
          label="Rig"
          disabled={!rigs.length}
          data={
            rigs.length
              ? rigs.map(({ id, name, inputs }) => ({ value: id, label: `${name}, ${inputs} inputs` }))
              : [{ value: "", label: NO_RIG }]
          }
          value={chosen.rigId ?? preview?.rigId ?? ""}
          onChange={(event) => reading.set({ rigId: event.currentTarget.value })}
        />
      </div>
      <div className={classes.buttons}>
        <Button variant="default" size="sm" onClick={() => modals.closeAll()}>
          Cancel
        </Button>
        <Button size="sm" loading={busy} disabled={unusable} onClick={onMake} data-autofocus>
          {makeLabel(preview)}
        </Button>
      </div>
    </div>
  );
};

/**
 * A list on its way in, over the whole window: what it leaves open, and each of its rows beside what it becomes. Nothing
 * is made before a person says so.
 */
export const ReadingScreen = ({ file, rigs, onMade }: ReadingScreenProps) => {
  const reading = useReading(file);
  const { preview, chosen, error } = reading;
  const { busy, error: refused, submit } = useSubmit();
  const make = (): Promise<void> =>
    submit(async () => {
      const { rigId, columns, choices, kind, name } = chosen;
      const made = await api.importTemplate({
        file,
        kind,
        choices,
        ...((rigId ?? preview?.rigId) && rigs.length ? { rigId: rigId ?? preview?.rigId ?? "" } : {}),
        ...(columns ? { columns } : {}),
        ...(name?.trim() ? { name } : {}),
      });
      if (preview) await remember(correctedIn(preview, { columns, choices }));
      reading.done();
      modals.closeAll();
      onMade(made.template.id);
    });
  return (
    <div className={classes.screen}>
      <Bar {...{ file, rigs, onMade, reading, busy }} onMake={() => void make()} />
      <div className={classes.work} aria-busy={reading.busy}>
        {(error ?? refused) && (
          <p role="alert" className={classes.error}>
            {error ?? refused}
          </p>
        )}
        {!preview && !error && <Loader size="sm" aria-label="Reading the file" />}
        {preview && (
          <>
            <Head preview={preview} />
            <ReadingQuestions preview={preview} reading={reading} />
            <ReadingTable preview={preview} reading={reading} />
            <ReportView report={preview.report} />
          </>
        )}
      </div>
    </div>
  );
};
