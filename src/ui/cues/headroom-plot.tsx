import {
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import type { HeadroomRow } from "@/core/layout/headroom-rows";

/** As quiet as it is drawn. */
const FLOOR = -48;
const TICK = { fontSize: 12, fill: "var(--soft)" } as const;
const at = (db: number | null): number => Math.max(FLOOR, db ?? FLOOR);

interface HeadroomPlotProps {
  readonly drawn: readonly HeadroomRow[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

/** A bar for each: up to the peak if its parts are unlike, lighter up to the peak if all of them are alike. */
export const HeadroomPlot = ({ drawn, chosen, onChoose }: HeadroomPlotProps) => {
  const data = drawn.map((row) => ({
    ...row,
    likely: at(row.likelyPeakDb) - FLOOR,
    worst: at(row.worstPeakDb) - at(row.likelyPeakDb),
  }));
  const top = Math.max(6, Math.ceil(Math.max(0, ...drawn.map(({ worstPeakDb }) => worstPeakDb ?? 0)) / 6) * 6);
  return (
    <ResponsiveContainer width="100%" height="100%">
      <BarChart
        data={data}
        layout="vertical"
        margin={{ top: 0, right: 16, bottom: 0, left: 0 }}
        barCategoryGap={6}
        accessibilityLayer={false}
      >
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
        <Bar
          dataKey="likely"
          stackId="one"
          isAnimationActive={false}
          onClick={(_bar, n) => onChoose(drawn[n]?.id ?? "")}
        >
          {drawn.map((row) => (
            <Cell
              key={row.id}
              fill={row.likelyPeakDb !== null && row.likelyPeakDb > 0 ? "var(--problem)" : "var(--act)"}
              fillOpacity={row.id === chosen ? 1 : 0.62}
              cursor="pointer"
            />
          ))}
        </Bar>
        <Bar
          dataKey="worst"
          stackId="one"
          isAnimationActive={false}
          onClick={(_bar, n) => onChoose(drawn[n]?.id ?? "")}
        >
          {drawn.map((row) => (
            <Cell
              key={row.id}
              fill={row.worstPeakDb !== null && row.worstPeakDb > 0 ? "var(--problem)" : "var(--act)"}
              fillOpacity={0.3}
              cursor="pointer"
            />
          ))}
        </Bar>
        <ReferenceLine x={-FLOOR} stroke="var(--problem)" strokeWidth={1.5} />
        <Tooltip cursor={{ fill: "var(--sunk)" }} content={() => null} />
      </BarChart>
    </ResponsiveContainer>
  );
};
