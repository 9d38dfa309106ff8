import { Bar, BarChart, CartesianGrid, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";
import type { HeadroomRow } from "@/core/layout/headroom-rows";
import { dyeVar } from "../theme/tokens";

/** As quiet as it is drawn. */
const FLOOR = -36;
const TICKS = [-36, -24, -12, -6, 0] as const;
/** Where the scale stands, above the rows; as in the styles. */
export const AXIS_HEIGHT = 22;

const at = (db: number | null): number => Math.max(FLOOR, db ?? FLOOR);

interface ThreadProps {
  readonly x?: number;
  readonly y?: number;
  readonly width?: number;
  readonly height?: number;
  readonly payload?: HeadroomRow & { readonly likely: number; readonly whole: number };
}

/** A thread up to the likely peak, dashed on to a knot where peaks stand if all of it is alike. */
const Thread = ({ x = 0, y = 0, width = 0, height = 0, payload }: ThreadProps) => {
  if (!payload || payload.worstPeakDb === null) return null;
  const { likely, whole, what, colour } = payload;
  const stroke = what.kind === "cue" ? "var(--act)" : colour ? dyeVar(colour) : "var(--ink)";
  const middle = y + height / 2;
  const solid = whole > 0 ? x + (width * likely) / whole : x;
  const isMain = what.kind === "channel" && !colour;
  return (
    <g>
      <path d={`M${x} ${middle}H${Math.max(x, solid)}`} stroke={stroke} strokeWidth={isMain ? 7 : 4.6} />
      <path d={`M${solid} ${middle}H${x + width - 4}`} stroke={stroke} strokeWidth={1.8} strokeDasharray="2 3" />
      <circle cx={x + width} cy={middle} r={4.4} fill="var(--raised)" stroke={stroke} strokeWidth={2} />
    </g>
  );
};

interface HeadroomPlotProps {
  readonly drawn: readonly HeadroomRow[];
}

/** A thread for each: as long as its peaks are high. */
export const HeadroomPlot = ({ drawn }: HeadroomPlotProps) => {
  const data = drawn.map((row) => ({
    ...row,
    likely: at(row.likelyPeakDb) - FLOOR,
    whole: at(row.worstPeakDb) - FLOOR,
  }));
  const top = Math.max(3, Math.ceil(Math.max(0, ...drawn.map(({ worstPeakDb }) => worstPeakDb ?? 0)) / 3) * 3);
  return (
    <ResponsiveContainer width="100%" height="100%">
      <BarChart
        data={data}
        layout="vertical"
        margin={{ top: 0, right: 6, bottom: 0, left: 8 }}
        barCategoryGap={0}
        accessibilityLayer={false}
      >
        <CartesianGrid stroke="var(--hairline)" horizontal={false} />
        <XAxis
          type="number"
          orientation="top"
          height={AXIS_HEIGHT}
          domain={[0, top - FLOOR]}
          ticks={TICKS.map((db) => db - FLOOR)}
          tickFormatter={(value: number) => String(value + FLOOR).replace("-", "−")}
          tick={{ fontSize: 12, fill: "var(--soft)" }}
          tickLine={false}
          interval={0}
          stroke="transparent"
        />
        <YAxis type="category" dataKey="id" hide />
        <Bar dataKey="whole" isAnimationActive={false} shape={<Thread />} />
        <ReferenceLine x={-FLOOR} stroke="var(--problem)" strokeWidth={1.5} />
      </BarChart>
    </ResponsiveContainer>
  );
};
