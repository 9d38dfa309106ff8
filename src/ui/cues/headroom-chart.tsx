import { Bar, BarChart, CartesianGrid, Cell, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { HeadroomRow } from "@/core/layout/headroom-rows";
import { dB, formatDb } from "@/core/units/decibels";
import classes from "./levels.module.css";

interface HeadroomChartProps {
  readonly rows: readonly HeadroomRow[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

/** As quiet as it is drawn. */
const FLOOR = -48;
/** More than so many are listed and not drawn. */
const MOST = 40;
const TICK = { fontSize: 12, fill: "var(--soft)" } as const;
const at = (db: number | null): number => Math.max(FLOOR, db ?? FLOOR);
const words = (db: number | null): string => (db === null ? "silent" : `${formatDb(dB(Math.round(db * 10) / 10))}FS`);

/** How far peaks of every bus, the main bus and every cue are from full scale: if all is alike, and if it is not. */
export const HeadroomChart = ({ rows, chosen, onChoose }: HeadroomChartProps) => {
  // The ones nearest full scale where there are too many to draw.
  const drawn = rows.length <= MOST ? rows : [...rows].sort((a, b) => (b.worstPeakDb ?? -999) - (a.worstPeakDb ?? -999)).slice(0, MOST);
  const data = drawn.map((row) => ({ ...row, likely: at(row.likelyPeakDb) - FLOOR, worst: at(row.worstPeakDb) - at(row.likelyPeakDb) }));
  const top = Math.max(6, Math.ceil(Math.max(0, ...drawn.map(({ worstPeakDb }) => worstPeakDb ?? 0)) / 6) * 6);
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
            <ResponsiveContainer width="100%" height="100%">
              <BarChart data={data} layout="vertical" margin={{ top: 0, right: 16, bottom: 0, left: 0 }} barCategoryGap={6} accessibilityLayer={false}>
                <CartesianGrid stroke="var(--hairline)" horizontal={false} />
                <XAxis
                  type="number"
                  domain={[0, top - FLOOR]}
                  ticks={[-48, -36, -24, -12, 0, ...(top > 6 ? [top] : [])].map((db) => db - FLOOR)}
                  tickFormatter={(value: number) => String(value + FLOOR).replace("-", "−")}
                  tick={TICK}
                  stroke="var(--hairline)"
                />
                <YAxis
                  type="category"
                  dataKey="id"
                  width={140}
                  tick={{ ...TICK, fill: "var(--ink)" }}
                  stroke="var(--hairline)"
                  interval={0}
                  tickFormatter={(id: string) => drawn.find((row) => row.id === id)?.name ?? ""}
                />
                <Bar dataKey="likely" stackId="one" isAnimationActive={false} onClick={(_bar, n) => onChoose(drawn[n]?.id ?? "")}>
                  {drawn.map((row) => (
                    <Cell
                      key={row.id}
                      fill={row.likelyPeakDb !== null && row.likelyPeakDb > 0 ? "var(--problem)" : "var(--act)"}
                      fillOpacity={row.id === chosen ? 1 : 0.62}
                      cursor="pointer"
                    />
                  ))}
                </Bar>
                <Bar dataKey="worst" stackId="one" isAnimationActive={false} onClick={(_bar, n) => onChoose(drawn[n]?.id ?? "")}>
                  {drawn.map((row) => (
                    <Cell key={row.id} fill={row.worstPeakDb !== null && row.worstPeakDb > 0 ? "var(--problem)" : "var(--act)"} fillOpacity={0.3} cursor="pointer" />
                  ))}
                </Bar>
                <ReferenceLine x={-FLOOR} stroke="var(--problem)" strokeWidth={1.5} />
                <Tooltip cursor={{ fill: "var(--sunk)" }} content={() => null} />
              </BarChart>
            </ResponsiveContainer>
          </div>
          <div role="listbox" aria-label="Headroom of each" className={classes.rows}>
            {rows.slice(0, 400).map((row) => (
              <button key={row.id} type="button" role="option" aria-selected={row.id === chosen} className={classes.rowButton} onClick={() => onChoose(row.id)}>
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
