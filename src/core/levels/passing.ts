import type { Rig } from "../model/rig";
import type { PanLawDb } from "../model/session-kinds";
import type { Channel, Fold } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { type Asked, faderDbWhen, isSilenced, monitorOf, passesComputer, sounds } from "../queries/at-work";
import { reachesDirect } from "../queries/direct";
import { layoutOf } from "../queries/layouts";
import { type Graph, sendOf, type Thread } from "../routing/graph";
import { panAmplitudes } from "./pan";
import { louderBy, type Passing, sided, thenPass } from "./strands";

const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));

/** A balance of what is stereo: the far side is turned down in a straight line, the near one stays. */
const balance = (pan: number): Passing => sided(Math.min(1, 1 - pan / 100), Math.min(1, 1 + pan / 100));

/** Where a pan puts something: what is mono by the law of the template, what is stereo by balance. */
export const placing = (mono: boolean, pan: number, law: PanLawDb): Passing => {
  if (!mono) return balance(pan);
  const [left, right] = panAmplitudes(law, pan);
  return sided(left, right);
};

const FOLDS: { readonly [F in Fold]: Passing } = {
  sum: { ll: 1, lr: 1, rl: 1, rr: 1 },
  left: { ll: 1, lr: 0, rl: 1, rr: 0 },
  right: { ll: 0, lr: 1, rl: 0, rr: 1 },
};

/** Whether a channel is heard as one side. 5.1 counts as stereo. */
export const isMono = (doc: Pick<Template, "channels" | "format">, channel: Channel): boolean => layoutOf(doc, channel) === "mono";

/** How something comes into a channel: panned where that is stereo; where it is mono, balanced and then folded. */
const arriving = (doc: Template, to: Channel, { mono, pan }: { readonly mono: boolean; readonly pan: number }): Passing => {
  if (!isMono(doc, to)) return placing(mono, pan, doc.mix.panLawDb);
  return mono ? sided(1, 1) : thenPass(balance(pan), FOLDS[to.kind === "bus" || to.kind === "return" ? to.fold : "sum"]);
};

/** What of a channel goes on: what its chain made of it, or what came in; and what becomes of that. */
export interface Leaves {
  readonly of: "into" | "before";
  readonly passing: Passing;
  /** Faders, sends and levels of cues in it, as one amplitude: without pans, balances and folds. */
  readonly gain: number;
}

/** What comes of a channel along a thread; null for nothing. */
export const alongThread = (doc: Template, graph: Graph, { thread, asked }: { readonly thread: Thread; readonly asked: Asked }): Leaves | null => {
  const [from, to] = [doc.channels[thread.from], doc.channels[thread.to]];
  if (!sounds(from) || !to) return null;
  const send = sendOf(graph, thread);
  if (send && (!send.on || send.levelDb === null)) return null;
  const before = send?.tap === "before";
  const fader = before ? (isSilenced(doc, from) ? null : 0) : passesComputer(doc, from, asked) ? faderDbWhen(doc, from, asked) : null;
  if (fader === null) return null;
  const gain = amplitude(fader) * (send ? amplitude(send.levelDb) : 1);
  if (thread.kind === "input") return { of: "before", passing: sided(gain, gain), gain };
  const pan = send ? send.pan : from.kind === "main" ? 0 : from.pan;
  return { of: "before", passing: louderBy(arriving(doc, to, { mono: isMono(doc, from), pan }), gain), gain };
};

/**
 * What a channel gives to a cue, in one way or two: past the computer through the interface's own mixer, as it comes in; and through the computer, before the
 * fader or after it, while recording with the level that it has then. Nothing of what is off, at −∞ or parked.
 */
export const intoCue = (doc: Template, rig: Rig, { cue, level }: { readonly cue: Cue; readonly level: CueLevel }): readonly Leaves[] => {
  const channel = doc.channels[level.sourceId];
  if (!sounds(channel) || !level.on || level.levelDb === null) return [];
  const placed = placing(isMono(doc, channel), level.pan, doc.mix.panLawDb);
  const leaves = (of: Leaves["of"], gain: number): Leaves => ({ of, passing: louderBy(placed, gain), gain });
  const whole = amplitude(level.levelDb);
  const monitor = monitorOf(doc, channel);
  const direct: readonly Leaves[] = monitor !== null && channel.kind === "track" && reachesDirect(doc, rig, { track: channel, cue }) ? [leaves("into", whole)] : [];
  if (!passesComputer(doc, channel, "recording")) return direct;
  const fader = level.tap === "before" ? (isSilenced(doc, channel) ? null : 0) : faderDbWhen(doc, channel, "recording");
  return fader === null ? direct : [...direct, leaves("before", whole * amplitude(fader))];
};
