import type { MicrophoneKind } from "../model/microphone-kinds";
import { bankLabel, existsAtRate, type RigInput, rigInputInWords, rigInputOf } from "../model/read-rig";
import { linesOf, microphoneFacts } from "../model/read-template";
import type { Line } from "../model/tables/lines";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { bankUsage, takesLevel } from "../queries/free-inputs";
import { type Check, type CheckContext, type Finding, type Fix, finding } from "./finding";
import { moveToFree, nameOf, placeFixes } from "./place-fixes";
import { PLACES } from "./reads";

const KIND_WORDS: Record<MicrophoneKind, string> = {
  "moving-coil": "a moving coil",
  "ribbon-passive": "a passive ribbon",
  "ribbon-active": "an active ribbon",
  condenser: "a condenser",
  "condenser-supplied": "a condenser with its own supply",
  "di-passive": "a passive DI box",
  "di-active": "an active DI box",
  "line-source": "a line source",
};

const placeOf = (line: Line) => ({ kind: "line", id: line.id, field: "phantom" }) as const;

const setPhantom = (label: string, lines: readonly Line[], phantom: boolean): Fix => ({
  label,
  edits: [{ kind: "entries.set", table: "lines", ids: lines.map((line) => line.id), set: { phantom } }],
});

/**
 * The lines that put 48 V on a line through the bank it shares; empty when it has a switch of its own or the bank is
 * off.
 */
const poweringMates = ({ doc, rig }: CheckContext, rigInput: RigInput, line: Line): readonly Line[] =>
  rigInput.phantom.kind === "bank"
    ? bankUsage(doc, rig, { bankId: rigInput.phantom.bankId, except: [line.id] }).powering
    : [];

const listNames = (names: readonly string[]): string =>
  names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(" and ");

const throughBank = (
  context: CheckContext,
  { rigInput, line, mates }: { readonly rigInput: RigInput; readonly line: Line; readonly mates: readonly Line[] },
): Finding => {
  const { doc, rig } = context;
  const who = nameOf(doc, line);
  const bank = rigInput.phantom.kind === "bank" ? bankLabel(rig, rigInput.phantom.bankId) : "";
  // Moved away, it must not take its own 48 V along.
  const off: readonly Edit[] = line.phantom
    ? [{ kind: "entries.set", table: "lines", ids: [line.id], set: { phantom: false } }]
    : [];
  const switchedOff = applyAll(doc, off);
  const calm = { ...context, doc: switchedOff.ok ? switchedOff.doc : doc };
  const moves = placeFixes(calm, { ...line, phantom: false }).map((fix) => ({ ...fix, edits: [...off, ...fix.edits] }));
  const needless = mates.every((mate) => microphoneFacts(rig, mate.microphone)?.phantom !== "needs");
  const list = listNames(mates.map((mate) => nameOf(doc, mate)));
  const free = moveToFree(calm.doc, rig, { ...line, phantom: false });
  return finding("phantom-endangers", {
    severity: "problem",
    message: `${who} is a passive ribbon on ${rigInputInWords(rigInput)}, and bank ${bank} carries 48 V for ${list}. ${free ? `Move it to ${free.where}` : "Move one of them"}, or use another microphone.`,
    places: [placeOf(line)],
    fixes: [...(needless ? [setPhantom(`Switch phantom off for ${list}`, [...mates, line], false)] : []), ...moves],
  });
};

export const phantomEndangers: Check = {
  id: "phantom-endangers",
  why: "48 V can ruin a passive ribbon, also through a bank it shares with others.",
  reads: [...PLACES, "cues.order", "cues.portIds", "lines.source"],
  check: (context) =>
    linesOf(context.doc).flatMap((line) => {
      if (microphoneFacts(context.rig, line.microphone)?.phantom !== "endangered") return [];
      const rigInput = rigInputOf(context.rig, line.portId);
      const mates = rigInput ? poweringMates(context, rigInput, line) : [];
      if (rigInput && mates.length) return [throughBank(context, { rigInput, line, mates })];
      const who = nameOf(context.doc, line);
      const message = `Phantom is on for ${who}, and ${who} is a passive ribbon: 48 V can ruin it.`;
      return line.phantom
        ? [
            finding("phantom-endangers", {
              severity: "problem",
              message,
              places: [placeOf(line)],
              fixes: [setPhantom(`Switch phantom off for ${who}`, [line], false)],
            }),
          ]
        : [];
    }),
};

/** Only lines whose input is sound otherwise: one cause is told once. */
const soundRigInput = ({ doc, rig }: CheckContext, line: Line): RigInput | null => {
  const rigInput = rigInputOf(rig, line.portId);
  return rigInput && takesLevel(rig, rigInput, line) && existsAtRate(rig, rigInput, doc.format.sampleRateHz)
    ? rigInput
    : null;
};

const noSupply = (
  context: CheckContext,
  { line, rigInput }: { readonly line: Line; readonly rigInput: RigInput },
): Finding | null => {
  const needs = microphoneFacts(context.rig, line.microphone)?.phantom === "needs";
  if (!needs && !line.phantom) return null;
  const who = nameOf(context.doc, line);
  const off = needs ? [] : [setPhantom(`Switch phantom off for ${who}`, [line], false)];
  return finding("phantom-missing", {
    severity: "problem",
    message: `${who} asks for 48 V, and ${rigInputInWords(rigInput)} gives none.`,
    places: [placeOf(line)],
    fixes: [...off, ...placeFixes(context, line)],
  });
};

const switchedOff = (
  context: CheckContext,
  { line, rigInput, kind }: { readonly line: Line; readonly rigInput: RigInput; readonly kind: MicrophoneKind },
): Finding => {
  const { doc, rig } = context;
  const who = nameOf(doc, line);
  const mates = poweringMates(context, rigInput, line);
  const endangered =
    rigInput.phantom.kind === "bank"
      ? bankUsage(doc, rig, { bankId: rigInput.phantom.bankId, except: [line.id] }).endangered
      : [];
  const move = moveToFree(doc, rig, line);
  const moved: Fix[] = move
    ? [{ label: `Move ${move.who} to ${move.where} and switch phantom on`, edits: move.edits }]
    : [];
  const how = mates[0]
    ? `gets it only because ${nameOf(doc, mates[0])} switches it on for the whole bank`
    : "phantom is off";
  const beside = endangered[0] ? ` Its bank is shared with ${nameOf(doc, endangered[0])}, a passive ribbon.` : "";
  return finding("phantom-missing", {
    severity: mates.length ? "hint" : "problem",
    message: `${who} is ${KIND_WORDS[kind]} and needs 48 V, but ${how}.${beside}`,
    places: [placeOf(line)],
    fixes: endangered.length ? moved : [setPhantom(`Switch phantom on for ${who}`, [line], true)],
  });
};

export const phantomMissing: Check = {
  id: "phantom-missing",
  why: "A condenser, an active ribbon or an active DI box without 48 V is silent.",
  reads: [...PLACES, "cues.order", "cues.portIds", "lines.source"],
  check: (context) =>
    linesOf(context.doc).flatMap((line) => {
      const facts = microphoneFacts(context.rig, line.microphone);
      const rigInput = soundRigInput(context, line);
      if (!rigInput) return [];
      if (rigInput.phantom.kind === "none") return noSupply(context, { line, rigInput }) ?? [];
      return facts?.phantom === "needs" && !line.phantom
        ? [switchedOff(context, { line, rigInput, kind: facts.kind })]
        : [];
    }),
};
