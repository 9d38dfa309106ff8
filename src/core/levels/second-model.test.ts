import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { runs } from "../testing/how-many";
import { chanceRuns } from "../testing/random-edits";
import { randomMix } from "../testing/random-mix";
import { arrivalsOf } from "../timing/arrivals";
import { mixLevels } from "./mix-levels";
import type { Sides } from "./sides";

/**
 * The same once more, written from the calculations and sharing nothing with the core: documents are read as plain
 * JSON, every way of every source is walked by itself, and what comes of it is added up at its end.
 */
// biome-ignore lint/suspicious/noExplicitAny: read as what it is stored as, not as what the core calls it
type Json = any;

const amp = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));
type Pair = readonly [number, number];

const law = (panLaw: number, pan: number): Pair => {
  const x = (pan / 100 + 1) / 2;
  const three: Pair = [Math.cos((x * Math.PI) / 2), Math.sin((x * Math.PI) / 2)];
  const six: Pair = [1 - x, x];
  if (panLaw === -3) return three;
  if (panLaw === -6) return six;
  if (panLaw === 0) return [Math.min(1, 2 * (1 - x)), Math.min(1, 2 * x)];
  return [Math.sqrt(Math.abs(three[0] * six[0])), Math.sqrt(Math.abs(three[1] * six[1]))];
};

const isOn = (p: Json, recording: boolean): boolean =>
  !p.bypassed && (p.use === "always" || (p.use === "not-while-recording" && !recording));

const chainOf = (doc: Json, id: string): Json[] =>
  Object.values<Json>(doc.processors)
    .filter((p) => p.channelId === id)
    .sort((a, b) => (a.order < b.order ? -1 : 1));

const gainOf = (doc: Json, id: string, recording: boolean): number => {
  const own = (p: Json): number =>
    p.kind === "gain" ? amp(p.gainDb) * (p.turned ? -1 : 1) : p.kind === "compressor" ? amp(p.makeUpDb) : 1;
  const wet = (p: Json, g: number): number => 1 - p.wetPercent / 100 + (p.wetPercent / 100) * g;
  const chain = chainOf(doc, id);
  let all = amp(doc.channels[id].trimDb);
  for (const p of chain) {
    if (p.splitId || !isOn(p, recording)) continue;
    if (p.kind !== "split") {
      all *= wet(p, own(p));
      continue;
    }
    const branch = (which: string, db: number | null): number => {
      let g = amp(db);
      for (const inner of chain)
        if (inner.splitId === p.id && inner.branch === which && isOn(inner, recording)) g *= wet(inner, own(inner));
      return g;
    };
    all *= wet(p, branch("first", p.firstDb) + branch("second", p.secondDb));
  }
  return Math.abs(all);
};

const layout = (doc: Json, id: string): string => {
  const c = doc.channels[id];
  if (c.kind === "main") return doc.format.mainLayout;
  if (c.kind === "bus" || c.kind === "return") return c.layout;
  return c.input.kind === "pair" ? "stereo" : c.input.kind === "bus" ? layout(doc, c.input.busId) : "mono";
};

const fader = (c: Json, recording: boolean): number =>
  c.muted ? 0 : amp(recording && c.liveApart ? c.liveDb : c.faderDb);

/** What becomes of two sides on the way from one channel into another, by a pan or balance and a gain. */
const entering =
  (doc: Json, { id, to, gain, pan }: { id: string; to: string; gain: number; pan: number }) =>
  ([l, r]: Pair): Pair => {
    const stereo = layout(doc, id) !== "mono";
    const balanced: Pair = stereo ? [l * Math.min(1, 1 - pan / 100), r * Math.min(1, 1 + pan / 100)] : [l, r];
    if (layout(doc, to) === "mono") {
      if (!stereo) return [l * gain, r * gain];
      const { fold } = doc.channels[to];
      const one = fold === "left" ? balanced[0] : fold === "right" ? balanced[1] : balanced[0] + balanced[1];
      return [one * gain, one * gain];
    }
    if (stereo) return [balanced[0] * gain, balanced[1] * gain];
    const [a, b] = law(doc.mix.panLawDb, pan);
    return [l * a * gain, r * b * gain];
  };

interface Way {
  readonly to: string;
  readonly via: (sides: Pair) => Pair;
}

/** Everything that leaves a channel: where to, and what becomes of two sides on the way. */
const leaving = (doc: Json, id: string, recording: boolean): Way[] => {
  const c = doc.channels[id];
  if (c.parked) return [];
  const after = fader(c, recording);
  const into = (to: string, gain: number, pan: number): Way => ({ to, via: entering(doc, { id, to, gain, pan }) });
  const before = doc.mix.mutesBefore && c.muted ? 0 : 1;
  const sends = Object.values<Json>(doc.sends).filter((s) => s.fromId === id && s.on);
  const takers = Object.values<Json>(doc.channels).filter(
    (t) => t.kind === "track" && t.input.kind === "bus" && t.input.busId === id,
  );
  return [
    ...(c.output.kind === "channel" ? [into(c.output.channelId, after, c.kind === "main" ? 0 : c.pan)] : []),
    ...sends.map((s) => into(s.toId, (s.tap === "before" ? before : after) * amp(s.levelDb), s.pan)),
    ...takers.map((t): Way => ({ to: t.id, via: ([l, r]) => [l * after, r * after] })),
  ].filter(({ to }) => !doc.channels[to].parked);
};

const lineLevel = (rig: Json, doc: Json, lineId: string): { rms: number; peak: number } => {
  const line = doc.lines[lineId];
  const port = rig.ports[line.portId];
  const rms = line.loudnessDb + line.gainDb - port.fullScaleDbu - (line.pad ? (port.padDb ?? 0) : 0);
  return { rms, peak: rms + line.crestDb - 10 * Math.log10(2) };
};

interface Source {
  readonly key: string;
  readonly at: string;
  readonly alike: Pair;
  readonly unlike: Pair;
  readonly peak: Pair;
}

const ownSources = (rig: Json, doc: Json): Source[] => {
  // Lines that make up pairs are one source.
  const group = new Map<string, string>();
  for (const c of Object.values<Json>(doc.channels))
    if (c.kind === "track" && c.input.kind === "pair") group.set(c.input.rightId, c.input.leftId);
  const key = (line: string): string => group.get(line) ?? line;
  return Object.values<Json>(doc.channels).flatMap((c): Source[] => {
    if (c.kind !== "track" || c.parked || c.input.kind === "bus") return [];
    if (c.input.kind === "none") {
      const [a, p] = [amp(doc.levels.targetDb), amp(doc.levels.targetDb + 14 - 10 * Math.log10(2))];
      return [{ key: c.id, at: c.id, alike: [a, a], unlike: [a, a], peak: [p, p] }];
    }
    const [left, right] =
      c.input.kind === "pair" ? [c.input.leftId, c.input.rightId] : [c.input.lineId, c.input.lineId];
    const [l, r] = [lineLevel(rig, doc, left), lineLevel(rig, doc, right)];
    const rms: Pair = [amp(l.rms), amp(r.rms)];
    return [{ key: key(left), at: c.id, alike: rms, unlike: rms, peak: [amp(l.peak), amp(r.peak)] }];
  });
};

interface Heard {
  readonly into: Map<string, { alike: Pair; unlike: Pair; peak: Pair }>;
  readonly sources: readonly Source[];
}

const plus = (a: Pair, b: Pair): Pair => [a[0] + b[0], a[1] + b[1]];
const ZERO: Pair = [0, 0];
const nothing = () => ({ alike: ZERO, unlike: ZERO, peak: ZERO });

/** Walks every way of a source; ends at returns, which begin anew. */
const walk = (
  doc: Json,
  source: Source,
  recording: boolean,
  told: (id: string, what: Omit<Source, "key" | "at">) => void,
): void => {
  const step = (id: string, what: Omit<Source, "key" | "at">): void => {
    told(id, what);
    if (doc.channels[id].kind === "return" && id !== source.at) return;
    const g = gainOf(doc, id, recording);
    const louder = ([l, r]: Pair): Pair => [l * g, r * g];
    for (const { to, via } of leaving(doc, id, recording))
      step(to, { alike: via(louder(what.alike)), unlike: via(louder(what.unlike)), peak: via(louder(what.peak)) });
  };
  step(source.at, source);
};

const hear = (rig: Json, doc: Json, recording: boolean): Heard => {
  const sources = ownSources(rig, doc);
  const bySource = new Map<string, Map<string, { alike: Pair; unlike: Pair; peak: Pair }>>();
  const gather = (source: Source): void =>
    walk(doc, source, recording, (id, what) => {
      if (source.at === id && doc.channels[id].kind === "return") return;
      const there = bySource.get(id) ?? new Map();
      bySource.set(id, there);
      const was = there.get(source.key) ?? nothing();
      there.set(source.key, {
        alike: plus(was.alike, what.alike),
        unlike: plus(was.unlike, what.unlike),
        peak: plus(was.peak, what.peak),
      });
    });
  const total = (id: string) => {
    const all = [...(bySource.get(id)?.values() ?? [])];
    const power = (side: 0 | 1): number =>
      Math.sqrt(all.reduce((sum, one) => sum + one.unlike[side] * one.unlike[side], 0));
    return {
      alike: all.map(({ alike }) => alike).reduce(plus, ZERO),
      unlike: [power(0), power(1)] as Pair,
      peak: all.map(({ peak }) => peak).reduce(plus, ZERO),
    };
  };
  for (const source of sources) gather(source);
  // Returns one after the other, each once nothing can come to it any more: sums lead to later ones only.
  const returns = Object.keys(doc.channels)
    .filter((id) => doc.channels[id].kind === "return")
    .sort();
  for (const id of returns) {
    const begun = { key: id, at: id, ...total(id) };
    sources.push(begun);
    gather(begun);
  }
  return { into: new Map(Object.keys(doc.channels).map((id) => [id, total(id)])), sources };
};

const cueOf = (doc: Json, { sources }: Heard, cueId: string) => {
  const cue = doc.cues[cueId];
  const bySource = new Map<string, { alike: Pair; unlike: Pair; peak: Pair }>();
  for (const source of sources)
    walk(doc, source, true, (id, what) => {
      const level = Object.values<Json>(doc.cueLevels).find((one) => one.cueId === cueId && one.sourceId === id);
      const c = doc.channels[id];
      if (!level?.on || c.parked) return;
      // What is in a return sounds from there as the return's own.
      if (c.kind === "return" && source.at !== id) return;
      const tapped = level.tap === "before" ? (doc.mix.mutesBefore && c.muted ? 0 : 1) : fader(c, true);
      const g = gainOf(doc, id, true) * tapped * amp(level.levelDb) * amp(cue.levelDb);
      const [a, b]: Pair =
        layout(doc, id) === "mono"
          ? law(doc.mix.panLawDb, level.pan)
          : [Math.min(1, 1 - level.pan / 100), Math.min(1, 1 + level.pan / 100)];
      const at = ([l, r]: Pair): Pair => [l * g * a, r * g * b];
      const was = bySource.get(source.key) ?? nothing();
      bySource.set(source.key, {
        alike: plus(was.alike, at(what.alike)),
        unlike: plus(was.unlike, at(what.unlike)),
        peak: plus(was.peak, at(what.peak)),
      });
    });
  const all = [...bySource.values()];
  const power = (side: 0 | 1): number =>
    Math.sqrt(all.reduce((sum, one) => sum + one.unlike[side] * one.unlike[side], 0));
  return {
    alike: all.map(({ alike }) => alike).reduce(plus, ZERO),
    unlike: [power(0), power(1)] as Pair,
    peak: all.map(({ peak }) => peak).reduce(plus, ZERO),
  };
};

/**
 * How late a chain is: of a split the longer branch, look-ahead and whole round trips of inserts by the converters of
 * their own ports.
 */
const lateOf = (rig: Json, doc: Json, id: string): number => {
  const chain = chainOf(doc, id);
  const rate = doc.format.sampleRateHz;
  const ms = (port: string, way: "adc" | "dac"): number => rig.timing[rig.ports[port].deviceId][way].single;
  const one = (p: Json): number => {
    const ahead = p.kind === "limiter" || p.kind === "gate" ? Math.round((p.lookaheadMs * rate) / 1000) : 0;
    const samples = 2 * doc.buffers.recordingSamples + 32;
    const trip =
      p.kind === "insert"
        ? Math.ceil(samples + ((ms(p.returnPortIds[0], "adc") + ms(p.sendPortIds[0], "dac")) * rate) / 1000 - 1e-9)
        : 0;
    return Math.max(p.delaySamples, ahead) + trip;
  };
  return chain
    .filter((p) => !p.splitId && isOn(p, true))
    .reduce((sum, p) => {
      const branch = (which: string): number =>
        chain
          .filter((inner) => inner.splitId === p.id && inner.branch === which && isOn(inner, true))
          .reduce((late, inner) => late + one(inner), 0);
      return sum + one(p) + Math.max(branch("first"), branch("second"));
    }, 0);
};

const arrival = (rig: Json, doc: Json, id: string): number => {
  const feeds = new Set<string>();
  for (const c of Object.values<Json>(doc.channels))
    if (c.output.kind === "channel" && c.output.channelId === id) feeds.add(c.id);
  for (const s of Object.values<Json>(doc.sends)) if (s.toId === id) feeds.add(s.fromId);
  const self = doc.channels[id];
  if (self.kind === "track" && self.input.kind === "bus") feeds.add(self.input.busId);
  return Math.max(
    0,
    ...[...feeds].map((from) => (doc.channels[from].parked ? 0 : arrival(rig, doc, from) + lateOf(rig, doc, from))),
  );
};

const near = (a: number, b: number): boolean => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));

/** Both models say the same of both sides. */
const same = (
  id: string,
  { left, right }: Sides,
  other: { alike: Pair; unlike: Pair; peak: Pair } = nothing(),
): void => {
  for (const [at, side] of [left, right].entries())
    if (
      !near(side.alike, other.alike[at] ?? 0) ||
      !near(Math.sqrt(side.unlike), other.unlike[at] ?? 0) ||
      !near(side.peak, other.peak[at] ?? 0)
    )
      expect.unreachable(`${id}: ${JSON.stringify(side)} and ${JSON.stringify(other)}`);
};

describe("levels and arrivals, computed a second way that shares no code", () => {
  const plain = (of: unknown): Json => JSON.parse(JSON.stringify(of));

  it.each(["recording", "mixing"] as const)("agree on random templates: levels %s", (asked) => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = randomMix(chance);
        const second = hear(plain(wholeMill), plain(doc), asked === "recording");
        const { channels } = mixLevels(doc, { rig: wholeMill, studio: demoStudio, asked });
        for (const [id, { into }] of channels)
          if (!(doc.channels[id] as Json).parked) same(id, into, second.into.get(id));
      }),
      { numRuns: runs(60, 1000), seed: 20261201 },
    );
  });

  it("agree on random templates: cues", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = randomMix(chance);
        const heard = hear(plain(wholeMill), plain(doc), true);
        const { cues } = mixLevels(doc, { rig: wholeMill, studio: demoStudio });
        for (const [id, sides] of cues) same(id, sides, cueOf(plain(doc), heard, id));
      }),
      { numRuns: runs(40, 1000), seed: 20261201 },
    );
  });

  it("agree on random templates: when the sound arrives", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = randomMix(chance);
        const { at } = arrivalsOf(doc, wholeMill);
        for (const [id, samples] of at) expect([id, samples]).toEqual([id, arrival(plain(wholeMill), plain(doc), id)]);
      }),
      { numRuns: runs(60, 1000), seed: 20261201 },
    );
  });
});
