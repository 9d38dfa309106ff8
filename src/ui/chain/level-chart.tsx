"use client";

import { useElementSize } from "@mantine/hooks";
import { CartesianGrid, Line, LineChart, ReferenceLine, XAxis, YAxis } from "recharts";
import type { Point } from "@/core/processors/response";
import classes from "./chain.module.css";
import { PLOT } from "./plot";
import { AXIS } from "./response-chart";

const TICKS = [-60, -48, -36, -24, -12, 0] as const;
const tick = (db: number): string => String(db).replace("-", "−");

interface LevelChartProps {
  readonly label: string;
  readonly points: readonly Point[];
  readonly colour: string;
}

/** What comes out for what goes in, in dBFS; the thin line is what would come out of nothing. */
export const LevelChart = ({ label, points, colour }: LevelChartProps) => {
  const { ref, width } = useElementSize();
  return (
    <div ref={ref} className={classes.chart} role="img" aria-label={label}>
      {width > 0 && (
        <LineChart width={Math.min(width, 420)} height={250} data={points as Point[]} margin={{ left: 0, right: PLOT.right, top: PLOT.top, bottom: 0 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--hairline)" />
          <XAxis {...AXIS} dataKey="x" type="number" domain={[-60, 0]} ticks={[...TICKS]} tickFormatter={tick} height={PLOT.bottom} />
          <YAxis {...AXIS} type="number" domain={[-60, 0]} ticks={[...TICKS]} tickFormatter={tick} width={PLOT.left} allowDataOverflow />
          <ReferenceLine
            segment={[
              { x: -60, y: -60 },
              { x: 0, y: 0 },
            ]}
            stroke="var(--soft)"
            strokeDasharray="3 3"
          />
          <Line dataKey="y" stroke={colour} strokeWidth={2.6} dot={false} activeDot={false} isAnimationActive={false} />
        </LineChart>
      )}
    </div>
  );
};
