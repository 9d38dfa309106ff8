import type { RateBuffer } from "@/core/timing/low-latency";
import { formatRate, type SampleRateHz } from "@/core/units/hertz";
import classes from "./delay.module.css";

interface RateBufferProps {
  readonly cells: readonly RateBuffer[];
  readonly rateHz: SampleRateHz;
  readonly bufferSamples: number;
  readonly onTry: (rateHz: SampleRateHz, bufferSamples: number) => void;
}

/** Where nobody hears themself nothing is late, and nothing on time. */
const cellWords = ({ late, near, holds, latestMs }: RateBuffer): string =>
  !holds ? "can't hold" : latestMs === null ? "round trip" : late ? `${late} late` : near ? `${near} near` : "on time";
const msOf = ({ latestMs, roundTripMs }: RateBuffer): string => (latestMs ?? roundTripMs).toFixed(1);

/**
 * Every rate by every buffer: how late the latest dry path is, how many are late, and what the computer can't hold;
 * without anybody who hears themself the round trip.
 */
export const RateBufferTable = ({ cells, rateHz, bufferSamples, onTry }: RateBufferProps) => {
  const rates = [...new Set(cells.map((cell) => cell.rateHz))];
  const buffers = [...new Set(cells.map((cell) => cell.bufferSamples))];
  return (
    <section className={classes.panel} aria-label="Rate and buffer">
      <header className={classes.title}>
        <h2>Rate and buffer</h2>
        <span>
          {cells.every(({ latestMs }) => latestMs === null)
            ? "round trip, ms: nobody hears themself yet"
            : "latest dry path, ms"}
        </span>
      </header>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls sideways where it is narrow */}
      <div className={classes.scroll} tabIndex={0} role="region" aria-label="Table of rates and buffers">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">
                <span className="visually-hidden">Rate</span>
              </th>
              {buffers.map((samples) => (
                <th key={samples} scope="col">
                  {samples}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rates.map((rate) => (
              <tr key={rate}>
                <th scope="row">{formatRate(rate)}</th>
                {buffers.map((samples) => {
                  const cell = cells.find((one) => one.rateHz === rate && one.bufferSamples === samples);
                  if (!cell) return <td key={samples} />;
                  const here = rate === rateHz && samples === bufferSamples;
                  return (
                    <td key={samples}>
                      <button
                        type="button"
                        className={classes.cell}
                        aria-pressed={here}
                        data-well={(cell.holds && cell.latestMs !== null && !cell.late && !cell.near) || undefined}
                        data-near={(cell.holds && !cell.late && cell.near > 0) || undefined}
                        data-out={!cell.holds || undefined}
                        aria-label={`${formatRate(rate)}, ${samples} samples: ${msOf(cell)} ${cellWords(cell)}, ${Math.round(cell.load * 100)} % load`}
                        onClick={() => onTry(rate, samples)}
                      >
                        <b>{msOf(cell)}</b> <span>{cellWords(cell)}</span>
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
};
