import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceDot,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import type { Comb } from "@/core/layout/delay-rows";
import { formatHz } from "@/core/units/hertz";

const TICK = { fontSize: 12, fill: "var(--soft)" } as const;

interface LoadPlotProps {
  readonly points: { readonly buffer: string; readonly percent: number }[];
  readonly recordingSamples: number;
  readonly ceilingPercent: number;
}

/** How much of its time the computer uses at each buffer. */
export const LoadPlot = ({ points, recordingSamples, ceilingPercent }: LoadPlotProps) => {
  const here = points.find(({ buffer }) => buffer === String(recordingSamples));
  const most = Math.max(ceilingPercent * 1.25, ...points.map(({ percent }) => Math.min(percent, 200)));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={points} margin={{ top: 14, right: 12, bottom: 0, left: -18 }} accessibilityLayer={false}>
        <CartesianGrid stroke="var(--hairline)" vertical={false} />
        <XAxis dataKey="buffer" tick={TICK} stroke="var(--hairline)" />
        <YAxis
          domain={[0, most]}
          tick={TICK}
          stroke="var(--hairline)"
          allowDataOverflow
          tickFormatter={(value: number) => String(Math.round(value))}
        />
        <ReferenceLine
          y={ceilingPercent}
          stroke="var(--problem)"
          strokeDasharray="5 4"
          label={{
            value: `ceiling ${ceilingPercent} %`,
            position: "insideTopRight",
            fontSize: 12,
            fill: "var(--soft)",
          }}
        />
        <Line
          dataKey="percent"
          stroke="var(--act)"
          strokeWidth={2}
          dot={{ r: 3, fill: "var(--act)" }}
          isAnimationActive={false}
        />
        {here && (
          <ReferenceDot
            x={here.buffer}
            y={Math.min(here.percent, most)}
            r={6}
            fill={here.percent < ceilingPercent ? "var(--act)" : "var(--problem)"}
            stroke="var(--raised)"
          />
        )}
        <Tooltip
          formatter={(value) => [`${value} %`, "load"]}
          labelFormatter={(label) => `${label} samples`}
          contentStyle={{ background: "var(--raised)", border: "1px solid var(--hairline)", fontSize: 12 }}
        />
      </LineChart>
    </ResponsiveContainer>
  );
};

/** The comb of two copies. */
export const CombPlot = ({ comb }: { readonly comb: Comb }) => (
  <ResponsiveContainer width="100%" height="100%">
    <LineChart data={[...comb.curve]} margin={{ top: 14, right: 12, bottom: 0, left: -18 }} accessibilityLayer={false}>
      <CartesianGrid stroke="var(--hairline)" vertical={false} />
      <XAxis
        dataKey="hz"
        type="number"
        scale="log"
        domain={[20, 20_000]}
        ticks={[20, 200, 2000, 20_000]}
        tickFormatter={formatHz}
        tick={TICK}
        stroke="var(--hairline)"
      />
      <YAxis
        domain={["auto", "auto"]}
        tick={TICK}
        stroke="var(--hairline)"
        tickFormatter={(value: number) => String(Math.round(value))}
      />
      {comb.firstHz > 20 && <ReferenceLine x={comb.firstHz} stroke="var(--problem)" strokeDasharray="4 3" />}
      <Line dataKey="db" stroke="var(--act)" strokeWidth={1.6} dot={false} isAnimationActive={false} />
    </LineChart>
  </ResponsiveContainer>
);
