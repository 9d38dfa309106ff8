import dynamic from "next/dynamic";
import type { KeyboardEvent } from "react";
import type { HeadroomRow } from "@/core/layout/headroom-rows";
import { dB, formatDb, formatGain } from "@/core/units/decibels";
import { alongList, inList, wayOf } from "../shared/grid-core";
import classes from "./levels.module.css";

interface HeadroomChartProps {
  readonly rows: readonly HeadroomRow[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

/** What draws it comes after the words: the screen answers without it. */
const HeadroomPlot = dynamic(() => import("./headroom-plot").then((plot) => plot.HeadroomPlot), { ssr: false });
/** More than so many are listed and not drawn. */
const MOST = 60;
const PAGE = 8;
const ROW = 28;
const AXIS = 22;

const tenth = (db: number): number => Math.round(db * 10) / 10;
const figure = (db: number | null): string => (db === null ? "silent" : formatGain(dB(tenth(db))));
const said = (db: number | null): string => (db === null ? "silent" : `${formatDb(dB(tenth(db)))}FS`);

const optionId = (id: string): string => `headroom-${id}`;

/**
 * How far peaks of every bus, the main bus and every cue are from full scale. The rows lie over the drawing: what is
 * pressed, read and gone through by the arrows.
 */
export const HeadroomChart = ({ rows, chosen, onChoose }: HeadroomChartProps) => {
  // The ones nearest full scale where there are too many to draw.
  const drawn =
    rows.length <= MOST
      ? rows
      : [...rows].sort((a, b) => (b.worstPeakDb ?? -999) - (a.worstPeakDb ?? -999)).slice(0, MOST);
  const move = (event: KeyboardEvent): void => {
    const way = wayOf(event, PAGE);
    const by = way && alongList(way);
    const at = drawn.findIndex(({ id }) => id === chosen);
    const row = by ? drawn[inList(at + by, drawn.length)] : undefined;
    if (!row) return;
    event.preventDefault();
    onChoose(row.id);
    document.getElementById(optionId(row.id))?.focus();
  };
  return (
    <section className={classes.chartPlace} aria-label="Headroom">
      <h2>
        Headroom <span>peaks in dBFS; dashed: if all of it were alike</span>
      </h2>
      {rows.length === 0 ? (
        <p className={classes.none}>Nothing is summed yet.</p>
      ) : (
        <div className={classes.headroom} style={{ height: AXIS + ROW * drawn.length }}>
          <div className={classes.plot} aria-hidden>
            <HeadroomPlot drawn={drawn} />
          </div>
          <div role="listbox" aria-label="Headroom of each" tabIndex={-1} className={classes.rows} onKeyDown={move}>
            {drawn.map((row, at) => (
              <button
                key={row.id}
                id={optionId(row.id)}
                type="button"
                role="option"
                aria-selected={row.id === chosen}
                aria-label={`${row.name}: ${said(row.likelyPeakDb)}${row.worstPeakDb === null ? "" : `, ${said(row.worstPeakDb)} if all of it were alike`}`}
                tabIndex={row.id === chosen || (chosen === null && at === 0) ? 0 : -1}
                className={classes.headroomRow}
                onClick={() => onChoose(row.id)}
              >
                <span title={row.name}>{row.name}</span>{" "}
                <b data-over={(row.likelyPeakDb ?? -1) > 0.005 || undefined}>{figure(row.likelyPeakDb)}</b>
              </button>
            ))}
          </div>
        </div>
      )}
      {rows.length > MOST && (
        <p className={classes.none}>
          Drawn are the {MOST} nearest to full scale, of {rows.length}.
        </p>
      )}
    </section>
  );
};
