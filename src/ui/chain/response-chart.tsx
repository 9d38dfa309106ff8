"use client";

import { useElementSize } from "@mantine/hooks";
import { type KeyboardEvent, type PointerEvent, useMemo, useState } from "react";
import { CartesianGrid, Line, LineChart, ReferenceLine, XAxis, YAxis } from "recharts";
import type { BandId } from "@/core/model/ids";
import type { Band } from "@/core/model/tables/bands";
import { bandSections, frequencies, levelAt } from "@/core/processors/response";
import type { Section } from "@/core/processors/sections";
import { formatDb } from "@/core/units/decibels";
import { formatHz } from "@/core/units/hertz";
import classes from "./chain.module.css";
import { dbAtY, hzAtX, PLOT, type Size, spanFor, TICKS_HZ, ticksDb, xOfHz, yOfDb } from "./plot";

export const AXIS = {
  stroke: "var(--hairline)",
  tick: { fill: "var(--soft)", fontSize: 12 },
  tickLine: false,
} as const;

const tickHz = (hz: number): string => (hz < 1000 ? String(hz) : `${hz / 1000} k`);
const tickDb = (db: number): string => (db > 0 ? `+${db}` : String(db).replace("-", "−"));

const HEIGHT = 264;

interface Moved {
  readonly id: BandId;
  readonly frequencyHz: number;
  readonly gainDb: number;
}

interface HandleProps {
  readonly band: Band;
  readonly number: number;
  readonly size: Size;
  readonly colour: string;
  readonly picked: boolean;
  readonly onPick: (id: BandId) => void;
  readonly onMove: (moved: Moved | null) => void;
  readonly onDrop: (moved: Moved) => void;
  readonly onKeep: (id: BandId, set: Partial<Pick<Band, "frequencyHz" | "gainDb">>) => void;
}

const KEYS: Readonly<Record<string, readonly [octaves: number, db: number]>> = {
  ArrowLeft: [-1 / 12, 0],
  ArrowRight: [1 / 12, 0],
  ArrowUp: [0, 0.5],
  ArrowDown: [0, -0.5],
};

const hasGain = ({ shape }: Band): boolean => shape === "bell" || shape.endsWith("shelf");
const within = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/** The knot of a pull: dragged, or moved by arrows. */
const Handle = ({ band, number, size, colour, picked, onPick, onMove, onDrop, onKeep }: HandleProps) => {
  const at = (event: PointerEvent<HTMLButtonElement>): Moved => {
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    const [x, y] = [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
    return { id: band.id, frequencyHz: hzAtX(size, x), gainDb: hasGain(band) ? dbAtY(size, y) : band.gainDb };
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const [octaves, db] = KEYS[event.key] ?? [0, 0];
    if (!octaves && !db) return;
    event.preventDefault();
    event.stopPropagation();
    if (octaves)
      onKeep(band.id, { frequencyHz: Number(within(band.frequencyHz * 2 ** octaves, 20, 20_000).toPrecision(3)) });
    else if (hasGain(band)) onKeep(band.id, { gainDb: within(band.gainDb + db, -24, 24) as Band["gainDb"] });
  };
  return (
    <button
      type="button"
      className={classes.handle}
      style={{
        left: xOfHz(size, band.frequencyHz),
        top: yOfDb(size, hasGain(band) ? band.gainDb : 0),
        ["--pull" as never]: colour,
      }}
      data-picked={picked || undefined}
      onFocus={() => onPick(band.id)}
      data-off={band.bypassed || undefined}
      aria-label={`Band ${number}, ${band.shape} at ${formatHz(band.frequencyHz)}${hasGain(band) ? `, ${formatDb(band.gainDb)}` : ""}; move it by the arrow keys`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && onMove(at(event))}
      onPointerUp={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        onMove(null);
        onDrop(at(event));
      }}
      onPointerCancel={() => onMove(null)}
      onKeyDown={onKeyDown}
    />
  );
};

/**
 * What draws the curve: from the 0 dB line a thread to each knot, with its frequency beside it, below where it pulls
 * down and above where it pulls up.
 */
const Pulls = ({
  bands,
  size,
  colour,
}: {
  readonly bands: readonly Band[];
  readonly size: Size;
  readonly colour: string;
}) => (
  <svg className={classes.pulls} width={size.width} height={size.height} aria-hidden="true">
    {bands.map((band) => {
      const [x, zero] = [xOfHz(size, band.frequencyHz), yOfDb(size, 0)];
      const y = yOfDb(size, hasGain(band) ? band.gainDb : 0);
      return (
        <g key={band.id}>
          <path d={`M${x - 5} ${zero}H${x + 5}M${x} ${zero}V${y}`} stroke={colour} strokeWidth={2} />
          <text
            x={Math.min(size.width - 26, Math.max(PLOT.left + 22, x))}
            y={y > zero ? y + 24 : y - 15}
            textAnchor="middle"
            fontSize={12}
            fontWeight={640}
            fill="var(--ink)"
          >
            {formatHz(band.frequencyHz)}
          </text>
        </g>
      );
    })}
  </svg>
);

interface ResponseChartProps {
  readonly label: string;
  /** Of what filters by itself; an equaliser has bands. */
  readonly sections?: readonly Section[];
  readonly bands: readonly Band[];
  readonly rateHz: number;
  readonly colour: string;
  readonly wetPercent: number;
  /** What all bands of one source add up to, where it is one of them: a thin line, in dB. */
  readonly sum?: ((hz: number) => number) | null;
  readonly picked?: BandId | null;
  readonly onPick?: (id: BandId) => void;
  readonly onKeep: HandleProps["onKeep"];
}

type Point = ReturnType<typeof useResponse>[number];

/** How much comes through at each frequency: in all, of each band alone, and of all bands of one source. */
const useResponse = (
  shown: readonly Band[],
  { sections, rateHz, wetPercent, sum = null }: Pick<ResponseChartProps, "sections" | "rateHz" | "wetPercent" | "sum">,
) =>
  useMemo(() => {
    const all = sections ?? bandSections(shown, rateHz);
    const each = shown.map((band) => bandSections([band], rateHz));
    return frequencies().map((hz) => ({
      hz,
      y: levelAt(all, { hz, rateHz, wetPercent }),
      each: each.map((own) => levelAt(own, { hz, rateHz })),
      sum: sum?.(hz) ?? null,
    }));
  }, [sections, shown, rateHz, wetPercent, sum]);

interface CurvesProps {
  readonly width: number;
  readonly rows: readonly Point[];
  readonly spanDb: number;
  readonly colour: string;
  /** So many bands are drawn alone as well. */
  readonly bands: readonly Band[];
  readonly summed: boolean;
}

const STILL = { dot: false, activeDot: false, isAnimationActive: false } as const;

const Curves = ({ width, rows, spanDb, colour, bands, summed }: CurvesProps) => {
  /** A line ends where it leaves the frame: it does not go along its edge. */
  const inside = (db: number | null): number | null => (db === null || db < -spanDb ? null : db);
  return (
    <LineChart
      width={width}
      height={HEIGHT}
      data={[...rows]}
      margin={{ left: 0, right: PLOT.right, top: PLOT.top, bottom: 0 }}
      accessibilityLayer={false}
    >
      <CartesianGrid stroke="var(--hairline)" />
      <XAxis
        {...AXIS}
        dataKey="hz"
        type="number"
        scale="log"
        domain={[20, 20_000]}
        ticks={[...TICKS_HZ]}
        tickFormatter={tickHz}
        height={PLOT.bottom}
        interval={0}
      />
      <YAxis
        {...AXIS}
        type="number"
        domain={[-spanDb, spanDb]}
        ticks={[...ticksDb(spanDb)]}
        tickFormatter={tickDb}
        width={PLOT.left}
        allowDataOverflow
      />
      <ReferenceLine y={0} stroke={colour} strokeOpacity={0.6} />
      {bands.length > 1 &&
        bands.map((band, at) => (
          <Line
            key={band.id}
            dataKey={({ each }: Point) => inside(each[at] ?? null)}
            stroke={colour}
            strokeOpacity={0.35}
            strokeWidth={1.4}
            {...STILL}
          />
        ))}
      {summed && (
        <Line
          dataKey={({ sum: added }: Point) => inside(added)}
          stroke="var(--ink)"
          strokeWidth={1.4}
          strokeDasharray="2 3"
          {...STILL}
        />
      )}
      <Line dataKey={({ y }: Point) => inside(y)} stroke={colour} strokeWidth={2.6} {...STILL} />
    </LineChart>
  );
};

/** The response of a filter or an equaliser over the audible range, with the points of its bands. */
export const ResponseChart = ({
  label,
  sections,
  bands,
  rateHz,
  colour,
  wetPercent,
  sum = null,
  picked = null,
  onPick = () => {},
  onKeep,
}: ResponseChartProps) => {
  const { ref, width } = useElementSize();
  const [moved, setMoved] = useState<Moved | null>(null);
  const shown = useMemo(
    () =>
      moved
        ? bands.map((band) =>
            band.id === moved.id
              ? { ...band, frequencyHz: moved.frequencyHz, gainDb: moved.gainDb as Band["gainDb"] }
              : band,
          )
        : bands,
    [bands, moved],
  );
  const rows = useResponse(shown, { sections, rateHz, wetPercent, sum });
  const spanDb = spanFor(rows.flatMap(({ y, each, sum: added }) => [y, ...each, ...(added === null ? [] : [added])]));
  const size = { width, height: HEIGHT, spanDb };
  /** What was dragged is kept where it is let go, unless it was only pressed. */
  const drop = ({ id, frequencyHz, gainDb }: Moved): void => {
    const band = bands.find((one) => one.id === id);
    if (band && moved) onKeep(id, { frequencyHz, ...(hasGain(band) ? { gainDb: gainDb as Band["gainDb"] } : {}) });
  };
  return (
    <div ref={ref} className={classes.chart} role="group" aria-label={label}>
      {width > 0 && (
        <Curves width={width} rows={rows} spanDb={spanDb} colour={colour} bands={shown} summed={sum !== null} />
      )}
      {width > 0 && <Pulls bands={shown} size={size} colour={colour} />}
      {width > 0 &&
        shown.map((band, at) => (
          <Handle
            key={band.id}
            band={band}
            number={at + 1}
            size={size}
            colour={colour}
            picked={band.id === picked}
            onPick={onPick}
            onMove={setMoved}
            onDrop={drop}
            onKeep={onKeep}
          />
        ))}
    </div>
  );
};
