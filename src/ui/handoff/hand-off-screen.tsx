"use client";

import { Button } from "@mantine/core";
import { IconDownload, IconPrinter } from "@tabler/icons-react";
import { useCallback, useMemo, useState } from "react";
import { alikeAsOne } from "@/core/checks/alike";
import { countFindings } from "@/core/checks/finding";
import { PHANTOM_WORDS, patchingSheet, type SheetRow, sharedWords } from "@/core/layout/patching-sheet";
import { entriesOf } from "@/core/model/table";
import { needsOf } from "@/core/queries/installed";
import type { Act } from "../acts/act-model";
import { FindingsPanel } from "../frame/findings-later";
import { usePageActs } from "../frame/page-acts";
import { tellRefusal } from "../shared/notices";
import { useDesk, useFindings, useRig, useSaver } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import classes from "./hand-off.module.css";

const FORMATS = [
  { format: "pdf", label: "Patching sheet (PDF)" },
  { format: "csv", label: "Input list (CSV)" },
  { format: "json", label: "Template (JSON)" },
] as const;

/** Files are made of what is saved, so what is still on its way is waited for. */
const useSaving = () => {
  const id = useDesk((desk) => desk.doc.id);
  const saver = useSaver();
  const [busy, setBusy] = useState<string | null>(null);
  const save = useCallback(
    async (format: string) => {
      setBusy(format);
      const saved = await saver.flush();
      setBusy(null);
      if (!saved)
        return tellRefusal(
          "The last edits are not saved yet, because the server is away. They are kept in this window; try again when it is back.",
          "No file made",
        );
      const link = document.createElement("a");
      link.href = `/api/templates/${id}/export?format=${format}`;
      link.download = "";
      link.click();
    },
    [id, saver],
  );
  const acts = useCallback(
    (): readonly Act[] => [
      { id: "print", label: "Print the patching sheet", run: () => window.print() },
      ...FORMATS.map(({ format, label }) => ({ id: format, label: `Save: ${label}`, run: () => void save(format) })),
    ],
    [save],
  );
  return { busy, save, acts };
};

const SaveButtons = ({ busy, save }: Pick<ReturnType<typeof useSaving>, "busy" | "save">) =>
  FORMATS.map(({ format, label }) => (
    <Button
      key={format}
      variant="default"
      leftSection={<IconDownload size={16} stroke={1.8} aria-hidden />}
      loading={busy === format}
      onClick={() => void save(format)}
    >
      {label}
    </Button>
  ));

const Row = ({ row }: { readonly row: SheetRow }) => (
  <tr>
    <td className={classes.tick}>
      <span className={classes.box} aria-hidden="true" />
    </td>
    <th scope="row" className={`${classes.input} mono`} data-label="Input">
      <span className={classes.colour} style={{ background: dyeVar(row.colour) }} aria-hidden="true" />
      {row.input || "–"}
    </th>
    <td data-label="Through">{row.through}</td>
    <td className={classes.source} data-label="Source">
      {row.source}
      {row.sharedWith.length > 0 && <span className={classes.shared}>{sharedWords(row)}</span>}
    </td>
    <td data-label="Microphone">{row.microphone}</td>
    <td className={classes.phantom} data-label="48 V">
      {row.phantom ? PHANTOM_WORDS[row.phantom] : ""}
    </td>
    <td data-label="Preamp">{row.settings}</td>
    <td data-label="Player">{row.player}</td>
    <td data-label="Note" className={classes.note}>
      {row.note}
    </td>
  </tr>
);

const ASKED_STATE = { there: "there", older: "older than asked for", missing: "not on this rig" } as const;

/**
 * Every processor that the template asks for by name, with version and where it is from, and whether it is on this rig.
 */
const Asked = () => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const needs = useMemo(() => needsOf(entriesOf(doc.processors), rig), [doc, rig]);
  if (!needs.length) return null;
  return (
    <section>
      <h2>Processors asked for by name</h2>
      <table className={classes.table}>
        <thead>
          <tr>
            {["Processor", "Version", "From", "On", `On ${rig.name}`].map((heading) => (
              <th key={heading} scope="col">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {needs.map(({ name, version, from, state, has, processors }) => (
            <tr key={name}>
              <th scope="row" data-label="Processor">
                {name}
              </th>
              <td data-label="Version">{version || "any"}</td>
              <td data-label="From">{from || "not said"}</td>
              <td data-label="On">
                {[...new Set(processors.map(({ channelId }) => doc.channels[channelId]?.name ?? ""))].join(", ")}
              </td>
              <td data-label="Here">
                {ASKED_STATE[state]}
                {has && state !== "missing" ? `: ${has}` : ""}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
};

/** The columns and how much of the width each takes, the same in every section, so that the eye goes straight down. */
const HEADINGS = [
  { heading: "Input", width: "8%" },
  { heading: "Through", width: "13%" },
  { heading: "Source", width: "17%" },
  { heading: "Microphone or box", width: "17%" },
  { heading: "48 V", width: "9%" },
  { heading: "Preamp", width: "10%" },
  { heading: "Player", width: "11%" },
  { heading: "Note", width: "15%" },
];

/** The patching sheet as it is printed, and the files to hand over. */
export const HandOffScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const revision = useDesk((desk) => desk.base.revision);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const rig = useRig();
  const { problems } = countFindings(alikeAsOne(useFindings()));
  const sheet = useMemo(() => patchingSheet(doc, rig), [doc, rig]);
  const { busy, save, acts } = useSaving();
  usePageActs(acts, "the hand-off");
  return (
    <div className={classes.screen}>
      <div className={classes.scroll}>
        <div className={`${classes.tools} no-print`}>
          <Button leftSection={<IconPrinter size={16} stroke={1.8} aria-hidden />} onClick={() => window.print()}>
            Print
          </Button>
          <SaveButtons busy={busy} save={save} />
          {problems > 0 && (
            <p className={classes.warning}>
              {problems} {problems === 1 ? "problem is" : "problems are"} still open. The sheet shows the plan as it is.
            </p>
          )}
        </div>
        <article className={classes.paper} aria-label="Patching sheet">
          <h1>{sheet.title}</h1>
          <p className={classes.subtitle}>
            Patching sheet · {sheet.subtitle} · {sheet.lineCount} lines, {sheet.phantomCount} with 48 V · revision{" "}
            {revision}
          </p>
          {sheet.sections.length === 0 && (
            <p className={classes.subtitle}>
              No lines yet. Lay some in the input list; they appear here input by input.
            </p>
          )}
          {sheet.sections.map((section) => (
            <section key={section.title}>
              <h2>{section.title}</h2>
              <table className={classes.table}>
                <thead>
                  <tr>
                    <td className={classes.tick} />
                    {HEADINGS.map(({ heading, width }) => (
                      <th key={heading} scope="col" style={{ width }}>
                        {heading}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {section.rows.map((row) => (
                    <Row key={row.key} row={row} />
                  ))}
                </tbody>
              </table>
            </section>
          ))}
          <Asked />
        </article>
      </div>
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
