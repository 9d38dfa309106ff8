import { type KeyboardEvent, useRef } from "react";
import type { GainPlan } from "@/core/levels/gain-plan";
import type { LineId } from "@/core/model/ids";
import { lineName } from "@/core/model/line-name";
import { rigInputOf } from "@/core/model/read-rig";
import { linesOf, microphoneName, tracksByLine } from "@/core/model/read-template";
import type { Line } from "@/core/model/tables/lines";
import type { Template } from "@/core/model/template";
import { dB, formatGain } from "@/core/units/decibels";
import { alongList, inList, useDrawnRows, wayOf } from "../shared/grid-core";
import { keepFocus } from "../shared/keep-focus";
import { useRig } from "../state/desk-context";
import classes from "./levels.module.css";

/** The headings stand above the lines and stay there; as in the styles. */
const HEADINGS = 26;

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

const HEADINGS_IN_WORDS = [
  "Line",
  "Microphone",
  "Input",
  "SPL, dB",
  "dBu",
  "Gain wanted",
  "Gain",
  "Level",
  "Peak",
  "Preamp",
];

const Headings = () => (
  <div role="row" aria-rowindex={1} className={classes.headings}>
    {HEADINGS_IN_WORDS.map((heading) => (
      <span key={heading} role="columnheader">
        {heading}
      </span>
    ))}
  </div>
);

interface LineRowProps extends Pick<GainTableProps, "doc" | "onChoose"> {
  readonly line: Line;
  readonly plan: GainPlan;
  /** From 0. */
  readonly index: number;
  /** Pixels below the headings. */
  readonly top: number;
  readonly name: string;
  readonly chosen: boolean;
}

const LineRow = ({ doc, line, plan, index, top, name, chosen, onChoose }: LineRowProps) => {
  const rig = useRig();
  const bad = plan.fit !== "fits" && plan.fit !== "unknown";
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
      <span role="gridcell">{name}</span>
      <span role="gridcell">{microphoneName(rig, line.microphone) || "–"}</span>
      <span role="gridcell" className="mono">
        {rigInputOf(rig, line.portId)?.label ?? "–"}
      </span>
      <span role="gridcell">{plan.byCable ? "cable" : one(plan.splDb)}</span>
      <span role="gridcell">{one(plan.sourceDbu)}</span>
      <span role="gridcell">{one(plan.wantedDb)}</span>
      <span role="gridcell">{line.gainDb === null ? <i>{one(plan.gainDb)}</i> : one(line.gainDb)}</span>
      <span role="gridcell">{one(plan.levelDb)}</span>
      <span role="gridcell" data-over={plan.peakDb > doc.levels.peakDb + 0.005 || undefined}>
        {one(plan.peakDb)}
      </span>
      <span role="gridcell" data-over={bad || undefined}>
        {FITS[plan.fit]}
      </span>
    </div>
  );
};

/** What every line brings, and the gain that it needs. */
export const GainTable = ({ doc, plans, chosen, onChoose }: GainTableProps) => {
  const lines = linesOf(doc);
  const tracks = tracksByLine(doc);
  const place = useRef<HTMLDivElement>(null);
  const virtual = useDrawnRows({ count: lines.length, place, height: 28, headings: HEADINGS, beyond: 10 });
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
        Gain plan <span>by what is on the line and how far away; figures of the studio where nobody said more</span>
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
