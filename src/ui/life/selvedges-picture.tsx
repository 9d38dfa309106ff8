import type { Strand, TwoSelvedges } from "@/core/layout/two-selvedges";
import { dyeVar } from "../theme/tokens";
import classes from "./compare.module.css";

const [STEP, HEIGHT, WIDTH, GAP] = [31, 23, 168, 208];
const FULL = WIDTH * 2 + GAP;
const LONGEST = 20;

const short = (name: string): string => (name.length > LONGEST + 2 ? `${name.slice(0, LONGEST)}…` : name);

const Strands = ({
  strands,
  x,
  gone,
}: {
  readonly strands: readonly Strand[];
  readonly x: number;
  readonly gone: boolean;
}) =>
  strands.map(({ id, name, colour, differs, only }, at) => (
    <g key={id} className={differs || only ? classes.differs : classes.same}>
      <rect
        x={x}
        y={at * STEP}
        width={WIDTH}
        height={HEIGHT}
        rx={4}
        className={classes.strand}
        stroke={dyeVar(colour)}
      />
      <rect x={x} y={at * STEP} width={5} height={HEIGHT} rx={2} fill={dyeVar(colour)} />
      <text x={x + 12} y={at * STEP + 16} textDecoration={only && gone ? "line-through" : undefined}>
        {short(name)}
      </text>
    </g>
  ));

const middle = (at: number): number => at * STEP + HEIGHT / 2;

/** Two selvedges with threads between: moved ones cross, gone ones end, new ones begin. */
export const SelvedgesPicture = ({ selvedges: { left, right, threads } }: { readonly selvedges: TwoSelvedges }) => (
  <svg
    width={FULL}
    height={Math.max(left.length, right.length, 1) * STEP}
    className={classes.selvedges}
    role="img"
    aria-label={`${left.length} tracks at the left, ${right.length} at the right; ${threads.length} on both sides`}
  >
    {threads.map(({ id, colour, from, to, differs }) => (
      <path
        key={id}
        d={`M${WIDTH},${middle(from)} C${WIDTH + GAP / 2},${middle(from)} ${WIDTH + GAP / 2},${middle(to)} ${WIDTH + GAP},${middle(to)}`}
        stroke={dyeVar(colour)}
        className={differs ? classes.threadDiffers : classes.thread}
      />
    ))}
    {left.map(({ id, colour, only }, at) =>
      only ? (
        <g key={id} stroke={dyeVar(colour)} className={classes.threadDiffers}>
          <path d={`M${WIDTH},${middle(at)} h72`} />
          <path d={`M${WIDTH + 72},${middle(at) - 5} l10,10 m0,-10 l-10,10`} className={classes.ends} />
        </g>
      ) : null,
    )}
    {right.map(({ id, colour, only }, at) =>
      only ? (
        <g key={id} stroke={dyeVar(colour)} className={classes.threadDiffers}>
          <path d={`M${WIDTH + GAP - 72},${middle(at)} h72`} />
          <circle cx={WIDTH + GAP - 78} cy={middle(at)} r={5.5} className={classes.begins} />
        </g>
      ) : null,
    )}
    <Strands strands={left} x={0} gone />
    <Strands strands={right} x={WIDTH + GAP} gone={false} />
  </svg>
);
