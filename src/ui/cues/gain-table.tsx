import { type KeyboardEvent, useMemo, useRef } from "react";
import { gainScale, type PreampThread, preampThread } from "@/core/layout/preamp-thread";
import type { GainPlan } from "@/core/levels/gain-plan";
import type { LineId } from "@/core/model/ids";
import { lineName } from "@/core/model/line-name";
import { rigInputOf } from "@/core/model/read-rig";
import { colourOf, linesOf, microphoneName, tracksByLine } from "@/core/model/read-template";
import type { Track } from "@/core/model/tables/channels";
import type { Line } from "@/core/model/tables/lines";
import type { Template } from "@/core/model/template";
import { dB, formatGain } from "@/core/units/decibels";
import { alongList, inList, useDrawnRows, wayOf } from "../shared/grid-core";
import { keepFocus } from "../shared/keep-focus";
import { useRig } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import classes from "./levels.module.css";

/** The headings stand above the lines and stay there; as in the styles. */
const HEADINGS = 26;
const ROW = 33;

const FITS: { readonly [F in GainPlan["fit"]]: string } = {
  fits: "fits",
  pad: "the pad",
  "too-hot": "too loud",
  "too-weak": "too weak",
  clips: "clips",
  unknown: "not known",
};
const one = (db: number | null): string => (db === null ? "–" : formatGain(dB(Math.round(db * 10) / 10)));

/** Lines that a page goes on by. */
const PAGE = 10;

interface GainTableProps {
  readonly doc: Template;
  readonly plans: ReadonlyMap<string, GainPlan>;
  readonly chosen: LineId | null;
  readonly onChoose: (id: LineId) => void;
}

const HEADINGS_IN_WORDS = ["Line", "Microphone", "Input", "dB SPL", "Preamp", "Gain, dB"];

const Headings = () => (
  <div role="row" aria-rowindex={1} className={classes.headings}>
    {HEADINGS_IN_WORDS.map((heading) => (
      <span key={heading} role="columnheader">
        {heading}
      </span>
    ))}
  </div>
);

/** The range of a preamp as a thread, dyed up to its knot, which is where it comes to stand. */
const Preamp = ({
  thread,
  colour,
  says,
}: {
  readonly thread: PreampThread | null;
  readonly colour: string;
  readonly says: string;
}) => (
  <span role="gridcell" className={classes.preamp} title={says} aria-label={says}>
    {thread ? (
      <svg width="100%" height="16" aria-hidden="true">
        <line
          x1={`${thread.from * 100}%`}
          x2={`${thread.to * 100}%`}
          y1="8"
          y2="8"
          stroke="var(--hairline)"
          strokeWidth="5"
          strokeLinecap="round"
        />
        {thread.knot !== null && (
          <>
            <line
              x1={`${thread.from * 100}%`}
              x2={`${thread.knot * 100}%`}
              y1="8"
              y2="8"
              stroke={colour}
              strokeWidth="3.4"
              strokeLinecap="round"
            />
            <circle
              cx={`${thread.knot * 100}%`}
              cy="8"
              r="5.2"
              fill="var(--raised)"
              stroke={colour}
              strokeWidth="2.4"
            />
          </>
        )}
      </svg>
    ) : (
      <i>no gain control</i>
    )}
  </span>
);

interface LineRowProps extends Pick<GainTableProps, "doc" | "onChoose"> {
  readonly line: Line;
  readonly plan: GainPlan;
  /** From 0. */
  readonly index: number;
  /** Pixels below the headings. */
  readonly top: number;
  readonly name: string;
  readonly colour: string;
  readonly scale: ReturnType<typeof gainScale>;
  readonly chosen: boolean;
}

/** What stands in the column of the preamp, for whoever does not see it. */
const preampInWords = ({ range, fit, gainDb, wantedDb }: GainPlan): string =>
  [
    range ? `${one(range.min)} to ${one(range.max)} dB` : "no gain control",
    ...(gainDb === null ? [] : [`stands at ${one(gainDb)}`]),
    ...(fit === "fits" || wantedDb === null ? [] : [`${one(wantedDb)} would be wanted`]),
    FITS[fit],
  ].join(", ");

const LineRow = ({ doc, line, plan, index, top, name, colour, scale, chosen, onChoose }: LineRowProps) => {
  const rig = useRig();
  const bad = plan.fit !== "fits" && plan.fit !== "unknown";
  const gain = line.gainDb ?? plan.gainDb;
  return (
    <div
      id={`gain-${line.id}`}
      role="row"
      tabIndex={-1}
      aria-rowindex={index + 2}
      aria-selected={chosen}
      className={classes.line}
      style={{ transform: `translateY(${top}px)` }}
      onPointerDown={() => onChoose(line.id)}
    >
      <span role="gridcell" className={classes.named}>
        <i style={{ background: colour }} />
        {name}
      </span>
      <span role="gridcell">{microphoneName(rig, line.microphone) || "–"}</span>
      <span role="gridcell" className="mono">
        {rigInputOf(rig, line.portId)?.label ?? "–"}
      </span>
      <span role="gridcell">{plan.byCable ? `${one(plan.sourceDbu)} dBu` : one(plan.splDb)}</span>
      <Preamp thread={preampThread({ ...plan, gainDb: gain }, scale)} colour={colour} says={preampInWords(plan)} />
      <span role="gridcell" data-over={bad || plan.peakDb > doc.levels.peakDb + 0.005 || undefined}>
        {bad && <em>{FITS[plan.fit]} </em>}
        {line.gainDb === null ? (
          <i title="Not planned yet: the gain that is wanted">{signed(gain)}</i>
        ) : (
          <b>{signed(gain)}</b>
        )}
      </span>
    </div>
  );
};

/** A gain as it is set: with its sign. */
const signed = (db: number | null): string => (db === null ? "–" : db > 0 ? `+${one(db)}` : one(db));

const colourOfLine = (doc: Template, track: Track | undefined): string =>
  track ? dyeVar(colourOf(doc, track)) : "var(--soft)";

/** What every line brings, and the gain that it needs. */
export const GainTable = ({ doc, plans, chosen, onChoose }: GainTableProps) => {
  const lines = linesOf(doc);
  const tracks = tracksByLine(doc);
  const place = useRef<HTMLDivElement>(null);
  const scale = useMemo(() => gainScale(plans.values()), [plans]);
  const virtual = useDrawnRows({ count: lines.length, place, height: ROW, headings: HEADINGS, beyond: 10 });
  const press = (event: KeyboardEvent): void => {
    const way = wayOf(event, PAGE);
    const at = lines.findIndex(({ id }) => id === chosen);
    const by = way && alongList(way);
    const line = by ? lines[inList(at + by, lines.length)] : undefined;
    if (!line) return;
    event.preventDefault();
    onChoose(line.id);
    virtual.scrollToIndex(lines.indexOf(line));
  };
  return (
    <section className={classes.gains} aria-label="Gain plan">
      <h2>
        Gain to set <span>the thread is the preamp's range; the knot is where it comes to stand</span>
      </h2>
      {lines.length === 0 ? (
        <p className={classes.none}>No lines yet. Lay tracks in the input list.</p>
      ) : (
        <div
          ref={place}
          role="grid"
          aria-label="Gain of each line"
          aria-rowcount={lines.length + 1}
          tabIndex={0}
          className={classes.table}
          aria-activedescendant={chosen ? `gain-${chosen}` : undefined}
          onMouseDown={keepFocus}
          onKeyDown={press}
        >
          <Headings />
          <div style={{ height: virtual.getTotalSize(), position: "relative" }}>
            {virtual.getVirtualItems().map(({ index, start }) => {
              const line = lines[index];
              const plan = line && plans.get(line.id);
              if (!line || !plan) return null;
              return (
                <LineRow
                  key={line.id}
                  {...{ doc, line, plan, index, onChoose }}
                  top={start - HEADINGS}
                  name={lineName(line, tracks.get(line.id) ?? [])}
                  colour={colourOfLine(doc, tracks.get(line.id)?.[0])}
                  scale={scale}
                  chosen={line.id === chosen}
                />
              );
            })}
          </div>
        </div>
      )}
    </section>
  );
};
