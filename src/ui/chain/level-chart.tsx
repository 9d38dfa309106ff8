"use client";

import { useElementSize } from "@mantine/hooks";
import { CartesianGrid, Line, LineChart, ReferenceLine, XAxis, YAxis } from "recharts";
import type { Point } from "@/core/processors/response";
import classes from "./chain.module.css";
import { PLOT } from "./plot";
import { AXIS } from "./response-chart";

const STEP = 12;
/** From −60 dBFS up to what comes out at most, in steps. */
const ticksTo = (top: number): readonly number[] =>
  Array.from({ length: (top + 60) / STEP + 1 }, (_, at) => -60 + at * STEP);
const tick = (db: number): string => String(db).replace("-", "−");

interface LevelChartProps {
  readonly label: string;
  readonly points: readonly Point[];
  readonly colour: string;
}

/** What comes out for what goes in, in dBFS; the thin line is what would come out of nothing. */
export const LevelChart = ({ label, points, colour }: LevelChartProps) => {
  const { ref, width } = useElementSize();
  const top = Math.max(0, Math.ceil(Math.max(...points.map(({ y }) => y)) / STEP) * STEP);
  // What falls below leaves the frame, and does not go along its edge.
  const inside = points.map(({ x, y }) => ({ x, y: y < -60 ? null : y }));
  return (
    <div ref={ref} className={classes.chart} role="img" aria-label={label}>
      {width > 0 && (
        <LineChart
          width={Math.min(width, 420)}
          height={250}
          data={inside}
          margin={{ left: 0, right: PLOT.right, top: PLOT.top, bottom: 0 }}
          accessibilityLayer={false}
        >
          <CartesianGrid stroke="var(--hairline)" />
          <XAxis
            {...AXIS}
            dataKey="x"
            type="number"
            domain={[-60, 0]}
            ticks={[...ticksTo(0)]}
            tickFormatter={tick}
            height={PLOT.bottom}
          />
          <YAxis
            {...AXIS}
            type="number"
            domain={[-60, top]}
            ticks={[...ticksTo(top)]}
            tickFormatter={tick}
            width={PLOT.left}
            allowDataOverflow
          />
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
