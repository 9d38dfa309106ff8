import { Button } from "@mantine/core";
import dynamic from "next/dynamic";
import type { Comb } from "@/core/layout/delay-rows";
import type { Template } from "@/core/model/template";
import type { BufferAdvice } from "@/core/timing/low-latency";
import { dB, formatDb } from "@/core/units/decibels";
import { formatHz, formatRate, type SampleRateHz } from "@/core/units/hertz";
import { formatMs, samplesToMs } from "@/core/units/milliseconds";
import classes from "./delay.module.css";

/** Where both copies are equally loud nothing is left of it. */
const levelWords = (db: number): string => (db < -100 ? "silence" : formatDb(dB(Math.round(db * 100) / 100)));

/** What draws them comes after the words: the screen answers without it. */
const LoadPlot = dynamic(() => import("./delay-plots").then((plots) => plots.LoadPlot), { ssr: false });
const CombPlot = dynamic(() => import("./delay-plots").then((plots) => plots.CombPlot), { ssr: false });

/** Which buffer to record with, by what is heard with it. */
const recordingInWords = ({ recording, latestMs, missingMs }: BufferAdvice, rateHz: SampleRateHz): string => {
  if (recording === null) return "No buffer of this rig holds.";
  if (latestMs === null)
    return `Nobody hears themself: ${recording} is the largest that holds (${formatMs(samplesToMs(recording, rateHz))}).`;
  if (missingMs > 1e-9)
    return `With ${recording}, the smallest that holds, the latest is heard after ${formatMs(latestMs)}: ${formatMs(missingMs)} too late.`;
  return `${recording} is the largest with which everybody is on time: the latest is heard after ${formatMs(latestMs)}.`;
};

/** How much of its time the computer uses at each buffer, against the ceiling, with what that rests on. */
export const LoadChart = ({ doc, advice }: { readonly doc: Template; readonly advice: BufferAdvice }) => {
  const { recordingSamples, ceilingPercent } = doc.buffers;
  const points = advice.loads.map(({ bufferSamples, load }) => ({
    buffer: String(bufferSamples),
    percent: Math.round(load * 1000) / 10,
  }));
  const { costs } = advice;
  return (
    <section className={classes.panel} aria-label="Load">
      <header className={classes.title}>
        <h2>Load</h2>
        <span>
          {formatRate(doc.format.sampleRateHz)},{" "}
          {costs.measured === 0
            ? "by estimate"
            : costs.measured === costs.processors
              ? "as measured"
              : `${costs.measured} of ${costs.processors} measured, the rest estimated`}
        </span>
      </header>
      <div
        className={classes.chart}
        role="img"
        aria-label={`Load by buffer: ${points.map(({ buffer, percent }) => `${buffer} samples ${percent} %`).join(", ")}; the ceiling is ${ceilingPercent} %`}
      >
        <LoadPlot points={points} recordingSamples={recordingSamples} ceilingPercent={ceilingPercent} />
      </div>
      <p className={classes.note}>
        {recordingInWords(advice, doc.format.sampleRateHz)}
        {advice.mixing
          ? ` For mixing ${advice.mixing} (${formatMs(samplesToMs(advice.mixing, doc.format.sampleRateHz))}).`
          : ""}{" "}
        Rests on {Math.round(costs.fixedUs)} µs a buffer and {(costs.perSampleNs / 1000).toFixed(1)} µs a sample for{" "}
        {costs.processors} processors.
      </p>
    </section>
  );
};

interface CombProps {
  readonly comb: Comb | null;
  readonly who: string;
  readonly fix: { readonly label: string; readonly run: () => void } | null;
  readonly others: number;
}

/** What a way heard twice sounds like: the comb of the two copies. */
export const CombChart = ({ comb, who, fix, others }: CombProps) => (
  <section className={classes.panel} aria-label="Heard twice">
    <header className={classes.title}>
      <h2>Heard twice</h2>
      <span>{comb ? `${who}, ${formatMs(comb.lagMs)} apart` : ""}</span>
    </header>
    {comb ? (
      <>
        <div
          className={classes.chart}
          role="img"
          aria-label={`Response of the two copies: from ${levelWords(comb.notchDb)} to ${levelWords(comb.peakDb)}, the first notch at ${formatHz(comb.firstHz)}, then every ${formatHz(comb.spacingHz)}`}
        >
          <CombPlot comb={comb} />
        </div>
        <p className={classes.note}>
          First notch at {comb.firstHz.toFixed(2)} Hz, then every {comb.spacingHz.toFixed(2)}:{" "}
          {levelWords(comb.notchDb)} to {levelWords(comb.peakDb)}.{others > 0 ? ` And ${others} more heard twice.` : ""}
        </p>
        {fix && (
          <Button variant="subtle" size="compact-sm" onClick={fix.run}>
            {fix.label}
          </Button>
        )}
      </>
    ) : (
      <p className={classes.note}>Nobody hears themself twice.</p>
    )}
  </section>
);
