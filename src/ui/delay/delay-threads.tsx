import { IconAlertTriangle, IconCheck, IconChevronRight, IconCircleDashed } from "@tabler/icons-react";
import { type CSSProperties, type KeyboardEvent, useState } from "react";
import { axisMs, type DelayRow, foldDelays, foldedInWords, ticksMs } from "@/core/layout/delay-rows";
import type { ChainProcessorId } from "@/core/model/ids";
import { processorName } from "@/core/model/tables/processor-names";
import type { Template } from "@/core/model/template";
import type { PathPart, Timeliness } from "@/core/timing/hearing";
import { formatMs } from "@/core/units/milliseconds";
import { alongList, inList, wayOf } from "../shared/grid-core";
import { dyeVar } from "../theme/tokens";
import classes from "./delay.module.css";

const STATES: { readonly [S in Timeliness]: { readonly word: string; readonly Icon: typeof IconCheck } } = {
  "on-time": { word: "on time", Icon: IconCheck },
  near: { word: "near", Icon: IconAlertTriangle },
  late: { word: "late", Icon: IconAlertTriangle },
  wet: { word: "wet", Icon: IconCircleDashed },
  untold: { word: "no target", Icon: IconCircleDashed },
};

const PART_WORDS: { readonly [K in PathPart["kind"]]: string } = {
  converter: "converter",
  mixer: "interface's mixer",
  buffer: "buffer and driver",
  chain: "chain",
};

const partTitle = (doc: Template, { kind, ms, channelId }: PathPart): string =>
  `${kind === "chain" && channelId ? `chain of ${doc.channels[channelId]?.name}` : PART_WORDS[kind]}, ${formatMs(ms)}`;

const namedProcessor = (doc: Template, id: ChainProcessorId): string => {
  const processor = doc.processors[id];
  return processor ? `${processorName(processor)} (${doc.channels[processor.channelId]?.name})` : "a processor";
};

/** Threads that a page goes on by. */
const PAGE = 5;

interface ThreadsProps {
  readonly doc: Template;
  readonly rows: readonly DelayRow[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

const metres = (value: number): string => `${value.toFixed(1)} m`;

const Axis = ({ axis, share }: { readonly axis: number; readonly share: (ms: number) => string }) => (
  <div className={classes.axis} aria-hidden>
    <span />
    <span />
    <span className={classes.scale}>
      {ticksMs(axis).map((ms) => (
        <i key={ms} style={{ left: share(ms) }}>
          {ms}
          {ms === 0 ? " ms" : ""}
        </i>
      ))}
    </span>
    <span />
  </div>
);

interface ThreadProps {
  readonly doc: Template;
  readonly row: DelayRow;
  /** The row above is of the same cue, whose name is not said again. */
  readonly again: boolean;
  readonly chosen: boolean;
  /** The one that Tab comes to. */
  readonly first: boolean;
  readonly share: (ms: number) => string;
  readonly onChoose: (id: string) => void;
}

const Thread = ({ doc, row, again, chosen, first, share, onChoose }: ThreadProps) => {
  const { path } = row;
  const { word, Icon } = STATES[path.state];
  return (
    <div
      id={`delay-${row.id}`}
      role="option"
      aria-selected={chosen}
      tabIndex={first ? 0 : -1}
      className={classes.thread}
      data-state={path.state}
      data-chosen={chosen || undefined}
      style={{ "--thread": row.colour ? dyeVar(row.colour) : "var(--soft)" } as CSSProperties}
      aria-label={`${row.cueName}, ${row.what}, ${row.way}: ${path.ms.toFixed(1)} ms, ${metres(row.metres)}, ${word}${path.targetMs === null || path.wet ? "" : `, target ${path.targetMs} ms`}${row.aheadMs > 0 ? `, ${formatMs(row.aheadMs)} before the rest` : ""}. ${path.parts.map((part) => partTitle(doc, part)).join("; ")}`}
      onPointerDown={() => onChoose(row.id)}
      onFocus={() => onChoose(row.id)}
    >
      <span className={classes.who}>
        <i />
        <b>{again ? "" : row.cueName}</b> <span title={row.what}>{row.what}</span>
      </span>{" "}
      <span className={classes.way} title={row.way}>
        {row.way}
      </span>{" "}
      <span className={classes.lane}>
        <span className={classes.rail} />
        <span className={classes.parts}>
          {path.parts.map((part, n) => (
            <i key={n} data-part={part.kind} title={partTitle(doc, part)} style={{ width: share(part.ms) }} />
          ))}
        </span>
        {row.aheadMs > 0 && (
          <i
            className={classes.ahead}
            title={`the rest of the mix comes ${formatMs(row.aheadMs)} later`}
            style={{ left: share(path.ms), width: share(row.aheadMs) }}
          />
        )}
        <i className={classes.end} style={{ left: share(path.ms) }} />
        {path.targetMs !== null && !path.wet && (
          <i className={classes.pin} style={{ left: share(path.targetMs) }} title={`should be ${path.targetMs} ms`} />
        )}
      </span>
      <span className={classes.figure}>
        <b>{path.ms.toFixed(1)} ms</b> <span>{metres(row.metres)}</span>{" "}
        <span className={classes.state}>
          <Icon size={14} stroke={1.9} aria-hidden /> {word}
        </span>
      </span>
    </div>
  );
};

/** The chosen thread, part by part. */
const InWords = ({ doc, shown }: { readonly doc: Template; readonly shown: DelayRow }) => (
  <p className={classes.partsInWords} role="status">
    <b>
      {shown.cueName}, {shown.what}, {shown.way}:
    </b>{" "}
    {shown.path.parts.map((part) => partTitle(doc, part)).join(" · ")}; {shown.path.ms.toFixed(4)} ms in all,{" "}
    {shown.metres.toFixed(3)} m in air
    {shown.path.processorIds.length > 0 &&
      `; made late by ${shown.path.processorIds.map((id) => namedProcessor(doc, id)).join(", ")}`}
    {shown.aheadMs > 0 && `; not held back, so ${formatMs(shown.aheadMs)} before the rest of the mix`}.
  </p>
);

/** Everybody's own sound as threads: as long as they are late, the pin where they should end. */
export const DelayThreads = ({ doc, rows, chosen, onChoose }: ThreadsProps) => {
  const axis = axisMs(rows);
  const shown = rows.find(({ id }) => id === chosen);
  const [all, setAll] = useState(false);
  const { apart, folded } = foldDelays(rows, chosen);
  const seen = all ? rows : apart;
  const share = (ms: number): string => `${(100 * ms) / axis}%`;
  const move = (event: KeyboardEvent): void => {
    const at = seen.findIndex(({ id }) => id === chosen);
    const way = wayOf(event, PAGE);
    const by = way && alongList(way);
    const row = by ? seen[inList(at + by, seen.length)] : undefined;
    if (!row) return;
    event.preventDefault();
    onChoose(row.id);
    document.getElementById(`delay-${row.id}`)?.focus();
  };
  return (
    <section className={classes.threads} aria-label="How late each hears their own sound">
      <header className={classes.title}>
        <h2>How late each hears their own sound</h2>
        <span>length of thread is time · the pin is the target · in air, 1 ms is 0.34 m</span>
      </header>
      <Axis axis={axis} share={share} />
      <div role="listbox" aria-label="Threads" tabIndex={-1} className={classes.list} onKeyDown={move}>
        {seen.map((row, at) => (
          <Thread
            key={row.id}
            doc={doc}
            row={row}
            again={at > 0 && seen[at - 1]?.cueId === row.cueId}
            chosen={chosen === row.id}
            first={chosen === row.id || (chosen === null && at === 0)}
            share={share}
            onChoose={onChoose}
          />
        ))}
      </div>
      {folded.length > 0 && (
        <button type="button" className={classes.fold} aria-expanded={all} onClick={() => setAll(!all)}>
          <IconChevronRight size={14} stroke={1.9} aria-hidden data-open={all || undefined} />
          {all ? "Fold what is on time" : `${foldedInWords(folded)}: show them`}
        </button>
      )}
      {shown ? (
        <InWords doc={doc} shown={shown} />
      ) : (
        <p className={classes.partsInWords}>Choose a thread to read what it is built of.</p>
      )}
      <p className={classes.legend} aria-hidden>
        <i data-part="converter" /> converter <i data-part="chain" /> chain <i data-part="mixer" /> interface's mixer{" "}
        <i data-part="buffer" /> buffer and driver <i className={classes.ahead} /> the rest of the mix, held back
      </p>
    </section>
  );
};
