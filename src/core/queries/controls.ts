import type { ControlId } from "../model/ids";
import type { Channel } from "../model/tables/channels";
import type { Control } from "../model/tables/controls";
import type { Template } from "../model/template";
import { type Decibels, dB } from "../units/decibels";

export interface Controlled {
  /** What the control faders add; null where one of them stands at −∞. */
  readonly db: Decibels | null;
  readonly muted: boolean;
  /** The control faders above, the nearest first, each once. */
  readonly controls: readonly Control[];
}

/**
 * What control faders do to a channel: the sum of the dB of all that it rides on, each counted once however many ways
 * lead to it, and whether one of them mutes. −∞ anywhere is −∞. Control faders ride on one another without a circle and
 * not deep, so this is linear in those above.
 */
export const controlledBy = (doc: Pick<Template, "controls">, channel: Channel): Controlled => {
  const found = new Map<ControlId, Control>();
  for (const first of channel.kind === "main" ? [] : channel.controlIds) {
    for (
      let at: Control | undefined = doc.controls[first];
      at && !found.has(at.id);
      at = at.parentId ? doc.controls[at.parentId] : undefined
    )
      found.set(at.id, at);
  }
  const controls = [...found.values()];
  const silent = controls.some(({ faderDb }) => faderDb === null);
  const sum = controls.reduce((total, { faderDb }) => total + (faderDb ?? 0), 0);
  return { db: silent ? null : dB(Math.round(sum * 100) / 100), muted: controls.some(({ muted }) => muted), controls };
};
