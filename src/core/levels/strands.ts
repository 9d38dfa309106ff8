import { SILENT, type Side, type Sides } from "./sides";

/**
 * What becomes of the left and right side of something on a way: each new side as shares of the two old ones, in
 * amplitude, none below 0.
 */
export interface Passing {
  readonly ll: number;
  readonly lr: number;
  readonly rl: number;
  readonly rr: number;
}

export const sided = (left: number, right: number): Passing => ({ ll: left, lr: 0, rl: 0, rr: right });
/** Two ways of one source at once. */
export const beside = (a: Passing, b: Passing): Passing => ({
  ll: a.ll + b.ll,
  lr: a.lr + b.lr,
  rl: a.rl + b.rl,
  rr: a.rr + b.rr,
});

/** One passing after another. */
export const thenPass = (first: Passing, { ll, lr, rl, rr }: Passing): Passing => ({
  ll: ll * first.ll + lr * first.rl,
  lr: ll * first.lr + lr * first.rr,
  rl: rl * first.ll + rr * first.rl,
  rr: rl * first.lr + rr * first.rr,
});

export const louderBy = ({ ll, lr, rl, rr }: Passing, gain: number): Passing => ({
  ll: ll * gain,
  lr: lr * gain,
  rl: rl * gain,
  rr: rr * gain,
});

/** Each source has this many figures: amplitudes on the left and right if all is alike, if not, and of peaks. */
const FIGURES = 6;

/**
 * What a channel holds of every source that comes to it, apart from one another: contributions of one source add in
 * amplitude wherever they meet, and only then powers are added over sources. Six figures a source, in one array.
 */
export interface Strands {
  readonly sources: Int32Array;
  readonly figures: Float64Array;
}

const EMPTY: Strands = { sources: new Int32Array(0), figures: new Float64Array(0) };

/** Adds strands up, source by source. One for a whole pass: what it held is given out and forgotten. */
export class Gathering {
  private readonly held: Float64Array;
  private readonly isHeld: Uint8Array;
  private touched: number[] = [];

  constructor(sources: number) {
    this.held = new Float64Array(sources * FIGURES);
    this.isHeld = new Uint8Array(sources);
  }

  private at(source: number): number {
    if (!this.isHeld[source]) {
      this.isHeld[source] = 1;
      this.touched.push(source);
    }
    return source * FIGURES;
  }

  /** One source by itself: amplitudes if alike, if not, and of peaks, each left and right. */
  begin(source: number, figures: readonly number[]): void {
    const at = this.at(source);
    for (let n = 0; n < FIGURES; n++) this.held[at + n] = (this.held[at + n] as number) + (figures[n] as number);
  }

  /** What a strand brings after a passing, and after a gain before that. */
  add({ sources, figures }: Strands, passing: Passing, gain = 1): void {
    const [ll, lr, rl, rr] = [passing.ll * gain, passing.lr * gain, passing.rl * gain, passing.rr * gain];
    for (let n = 0; n < sources.length; n++) {
      const [from, to] = [n * FIGURES, this.at(sources[n] as number)];
      for (let pair = 0; pair < FIGURES; pair += 2) {
        const [left, right] = [figures[from + pair] as number, figures[from + pair + 1] as number];
        this.held[to + pair] = (this.held[to + pair] as number) + ll * left + lr * right;
        this.held[to + pair + 1] = (this.held[to + pair + 1] as number) + rl * left + rr * right;
      }
    }
  }

  /** What was added up, and this one empty again. */
  take(): Strands {
    if (!this.touched.length) return EMPTY;
    const sources = Int32Array.from(this.touched);
    const figures = new Float64Array(sources.length * FIGURES);
    for (let n = 0; n < sources.length; n++) {
      const from = (sources[n] as number) * FIGURES;
      for (let figure = 0; figure < FIGURES; figure++) {
        figures[n * FIGURES + figure] = this.held[from + figure] as number;
        this.held[from + figure] = 0;
      }
      this.isHeld[sources[n] as number] = 0;
    }
    this.touched = [];
    return { sources, figures };
  }
}

/**
 * The sum of strands on both sides, and how much of the power on one side is the same as on the other: what a fold of
 * both hangs on.
 */
export interface Summed extends Sides {
  readonly shared: number;
}

const SILENCE: Summed = { left: SILENT, right: SILENT, mono: false, shared: 0 };

export const summedUp = ({ sources, figures }: Strands, { mono }: { readonly mono: boolean }): Summed => {
  if (!sources.length) return { ...SILENCE, mono };
  const sum = new Float64Array(FIGURES);
  let shared = 0;
  for (let at = 0; at < figures.length; at += FIGURES) {
    const [unlikeLeft, unlikeRight] = [figures[at + 2] as number, figures[at + 3] as number];
    sum[0] = (sum[0] as number) + (figures[at] as number);
    sum[1] = (sum[1] as number) + (figures[at + 1] as number);
    sum[2] = (sum[2] as number) + unlikeLeft * unlikeLeft;
    sum[3] = (sum[3] as number) + unlikeRight * unlikeRight;
    sum[4] = (sum[4] as number) + (figures[at + 4] as number);
    sum[5] = (sum[5] as number) + (figures[at + 5] as number);
    shared += unlikeLeft * unlikeRight;
  }
  const side = (n: 0 | 1): Side => ({
    alike: sum[n] as number,
    unlike: sum[2 + n] as number,
    peak: sum[4 + n] as number,
  });
  return { left: side(0), right: side(1), mono, shared };
};

/** Sums after a passing: what one contribution brings, without going through its sources again. */
export const summedAfter = ({ left, right, shared, mono }: Summed, { ll, lr, rl, rr }: Passing): Summed => {
  const side = (l: number, r: number): Side => ({
    alike: l * left.alike + r * right.alike,
    unlike: l * l * left.unlike + r * r * right.unlike + 2 * l * r * shared,
    peak: l * left.peak + r * right.peak,
  });
  return {
    left: side(ll, lr),
    right: side(rl, rr),
    shared: ll * rl * left.unlike + lr * rr * right.unlike + (ll * rr + lr * rl) * shared,
    mono,
  };
};

/** All of it as one source of its own, as what rings in a return is: no longer in step with what it came from. */
export const asOneSource = ({ left, right }: Summed, source: number): Strands => ({
  sources: Int32Array.of(source),
  figures: Float64Array.of(
    left.alike,
    right.alike,
    Math.sqrt(left.unlike),
    Math.sqrt(right.unlike),
    left.peak,
    right.peak,
  ),
});
