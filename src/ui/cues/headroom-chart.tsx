import dynamic from "next/dynamic";
import type { HeadroomRow } from "@/core/layout/headroom-rows";
import { dB, formatDb } from "@/core/units/decibels";
import classes from "./levels.module.css";

interface HeadroomChartProps {
  readonly rows: readonly HeadroomRow[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

/** What draws it comes after the words: the screen answers without it. */
const HeadroomPlot = dynamic(() => import("./headroom-plot").then((plot) => plot.HeadroomPlot), { ssr: false });
/** More than so many are listed and not drawn. */
const MOST = 40;
const words = (db: number | null): string => (db === null ? "silent" : `${formatDb(dB(Math.round(db * 10) / 10))}FS`);

/** How far peaks of every bus, the main bus and every cue are from full scale: if all is alike, and if it is not. */
export const HeadroomChart = ({ rows, chosen, onChoose }: HeadroomChartProps) => {
  // The ones nearest full scale where there are too many to draw.
  const drawn =
    rows.length <= MOST
      ? rows
      : [...rows].sort((a, b) => (b.worstPeakDb ?? -999) - (a.worstPeakDb ?? -999)).slice(0, MOST);
  return (
    <section className={classes.chartPlace} aria-label="Headroom">
      <h2>
        Headroom <span>peaks in dBFS; the lighter end: if everything in it were alike</span>
      </h2>
      {rows.length === 0 ? (
        <p className={classes.none}>Nothing is summed yet.</p>
      ) : (
        <>
          <div style={{ height: 34 + 24 * drawn.length }} aria-hidden>
            <HeadroomPlot drawn={drawn} chosen={chosen} onChoose={onChoose} />
          </div>
          <div role="listbox" aria-label="Headroom of each" className={classes.rows}>
            {rows.slice(0, 400).map((row) => (
              <button
                key={row.id}
                type="button"
                role="option"
                aria-selected={row.id === chosen}
                className={classes.rowButton}
                onClick={() => onChoose(row.id)}
              >
                {row.name} <b data-over={(row.worstPeakDb ?? -1) > 0.005 || undefined}>{words(row.worstPeakDb)}</b>
              </button>
            ))}
          </div>
          {rows.length > MOST && (
            <p className={classes.none}>
              Drawn are the {MOST} nearest to full scale, of {rows.length}.
            </p>
          )}
        </>
      )}
    </section>
  );
};
