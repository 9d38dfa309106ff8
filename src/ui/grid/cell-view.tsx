"use client";

import { IconAlertTriangle } from "@tabler/icons-react";
import type { Finding } from "@/core/checks/finding";
import type { Row } from "@/core/layout/rows";
import { gainPlans } from "@/core/levels/gain-plan";
import { bankLabel, rigInputOf } from "@/core/model/read-rig";
import { linesOfTrack, microphoneName } from "@/core/model/read-template";
import type { Rig } from "@/core/model/rig";
import { colourName } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { cellText, inputText } from "@/core/queries/cells";
import { type CellColumn, gridColumn } from "@/core/queries/columns";
import { bankUsage } from "@/core/queries/free-inputs";
import { dB, formatGain } from "@/core/units/decibels";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
import { useStudio } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import classes from "./grid.module.css";

type TrackRow = Extract<Row, { kind: "track" }>;

interface CellViewProps {
  readonly doc: Template;
  readonly rig: Rig;
  readonly row: TrackRow;
  readonly column: CellColumn;
  readonly finding: Finding | undefined;
  readonly bank: string | null;
  /** What a switch would become while it is being painted; null: what it is. */
  readonly preview: boolean | null;
}

/** The bank through which 48 V reaches a track only because others on it have it on; null when none does. */
export const throughBank = ({ doc, rig, row }: Pick<CellViewProps, "doc" | "rig" | "row">): string | null => {
  for (const line of row.lines) {
    const supply = rigInputOf(rig, line.portId)?.phantom;
    if (
      supply?.kind === "bank" &&
      !line.phantom &&
      bankUsage(doc, rig, { bankId: supply.bankId, except: row.lines.map((own) => own.id) }).powering.length
    )
      return bankLabel(rig, supply.bankId);
  }
  return null;
};

/** A switch in a cell; the grid turns it on a press and paints it on a drag. */
const Switch = ({
  on,
  word,
  off,
  says,
}: {
  readonly on: boolean;
  readonly word: string;
  readonly off: string;
  readonly says: string;
}) => (
  <span data-switch className={on ? classes.switchOn : classes.switchOff} title={says}>
    <span aria-hidden="true">{on ? word : off}</span>
    <span className="visually-hidden">{says}</span>
  </span>
);

/** How the switch of a column is marked and said. */
const switchOf = (column: CellColumn) => {
  const { on = "", off = "", mark = on, said = { on, off } } = gridColumn(column).field?.switched ?? {};
  return { mark, said };
};

const Phantom = (props: CellViewProps) => {
  const { row, preview } = props;
  const on = preview ?? row.lines.some((line) => line.phantom);
  const bank = on ? null : props.bank;
  if (!row.lines.length) return null;
  const { mark, said } = switchOf("phantom");
  return (
    <Switch
      on={on}
      word={mark}
      off={bank ? "bank" : "·"}
      says={on ? said.on : bank ? `bank ${bank} carries ${mark}` : said.off}
    />
  );
};

type Loose = Readonly<Record<string, unknown>>;

/** A switch of a line or of the track itself, marked and said as its description has it. */
const Flag = ({ row, column, preview }: CellViewProps) => {
  const { of, key } = gridColumn(column);
  const { mark, said } = switchOf(column);
  const entries = (of === "line" ? row.lines : [row.track]) as readonly unknown[] as readonly Loose[];
  const on = preview ?? entries.some((entry) => entry[key ?? ""] === true);
  return entries.length ? <Switch on={on} word={mark} off="·" says={on ? said.on : said.off} /> : null;
};

const Swatch = ({ row }: { readonly row: TrackRow }) => {
  const studio = useStudio();
  const name = colourName(row.colour, entriesOf(studio.colours));
  return (
    <span
      className={classes.swatch}
      data-own={row.track.colour !== null || undefined}
      style={{ ["--own" as never]: dyeVar(row.colour) }}
      title={row.track.colour ? name : `${name}, of the folder`}
    >
      <span className="visually-hidden">{name}</span>
    </span>
  );
};

/** One thread for mono, two for stereo. */
const Layout = ({ row }: { readonly row: TrackRow }) => {
  const stereo = row.track.input.kind === "pair";
  return (
    <svg
      width="20"
      height="12"
      viewBox="0 0 20 12"
      stroke="currentColor"
      strokeWidth="2"
      strokeLinecap="round"
      role="img"
      aria-label={stereo ? "stereo" : "mono"}
    >
      <path d={stereo ? "M1 3H19M1 9H19" : "M1 6H19"} />
    </svg>
  );
};

/** Text that is cut when the column is narrow, and whole in its title. */
const Text = ({ value }: { readonly value: string }) => (
  <span className={classes.text} title={value || undefined}>
    {value}
  </span>
);

/** The gain that is planned; where nobody has planned one, faintly the one that it would take. */
const Gain = ({ doc, rig, row: { track } }: CellViewProps) => {
  const studio = useStudio();
  const planned = cellText(doc, rig, { track, column: "gain" });
  if (planned) return <Text value={planned} />;
  const [line] = linesOfTrack(doc, track);
  const wanted = line && gainPlans(doc, rig, studio).get(line.id)?.wantedDb;
  return wanted == null ? null : (
    <span
      className={classes.soft}
      title={`Not planned; ${formatGain(dB(wanted))} dB would bring it to ${formatGain(doc.levels.targetDb)} dBFS or under its highest peak.`}
    >
      <i>≈ {formatGain(dB(Math.round(wanted)))}</i>
    </span>
  );
};

const content = (props: CellViewProps) => {
  const { doc, rig, row, column } = props;
  const { track } = row;
  switch (column) {
    case "icon":
      return track.icon ? (
        <span className={classes.glyph} title={ICON_NAMES[track.icon]}>
          <TrackIcon icon={track.icon} color={dyeVar(row.colour)} />
          <span className="visually-hidden">{ICON_NAMES[track.icon]}</span>
        </span>
      ) : null;
    case "colour":
      return <Swatch row={row} />;
    case "name":
      return (
        <>
          {track.name ? (
            <span className={track.parked ? classes.soft : classes.text}>{track.name}</span>
          ) : (
            <em className={classes.soft}>no name</em>
          )}
          {track.parked && <em className={classes.parked}>parked</em>}
        </>
      );
    case "layout":
      return <Layout row={row} />;
    case "input":
      if (track.input.kind === "bus" || track.input.kind === "instrument")
        return <Text value={inputText(doc, rig, track)} />;
      return inputText(doc, rig, track) || <span className={classes.soft}>–</span>;
    case "phantom":
      return <Phantom {...props} />;
    case "gain":
      return <Gain {...props} />;
    case "microphone":
      return (
        <Text
          value={[...new Set(linesOfTrack(doc, track).map((line) => microphoneName(rig, line.microphone)))].join(" + ")}
        />
      );
    default:
      return gridColumn(column).field?.kind === "flag" ? (
        <Flag {...props} />
      ) : (
        <Text value={cellText(doc, rig, { track, column })} />
      );
  }
};

/** What a cell shows when it is not edited; a finding that concerns it stands before it. */
export const CellView = (props: CellViewProps) => (
  <>
    {props.finding && (
      <span
        className={props.finding.severity === "problem" ? classes.problemMark : classes.hintMark}
        title={props.finding.message}
      >
        <IconAlertTriangle size={14} stroke={2} aria-hidden />
        <span className="visually-hidden">{props.finding.message}</span>
      </span>
    )}
    {content(props)}
  </>
);
