import { bankLabel, existsAtRate, type InputJack, jackInWords, jackOf } from "../model/read-rig";
import { microphoneFacts } from "../model/read-template";
import { entriesOf, type MicrophoneKind } from "../model/rig";
import type { Line } from "../model/template";
import { bankUse, takesLevel } from "../planning/free-inputs";
import { type Check, type CheckContext, type Fix, finding } from "./finding";
import { moveToFree, nameOf, placeFixes } from "./place-fixes";

const KIND_WORDS: Record<MicrophoneKind, string> = {
  "moving-coil": "a moving coil",
  "ribbon-passive": "a passive ribbon",
  "ribbon-active": "an active ribbon",
  condenser: "a condenser",
  "di-passive": "a passive DI box",
  "di-active": "an active DI box",
  "line-source": "a line source",
};

const setPhantom = (label: string, lines: readonly Line[], phantom: boolean): Fix => ({
  label,
  commands: [{ kind: "lines.set", lineIds: lines.map((line) => line.id), set: { phantom } }],
});

/** The lines that put 48 V on a line through the bank it shares; empty when it has a switch of its own or the bank is off. */
const poweringMates = ({ doc, rig }: CheckContext, jack: InputJack, line: Line): readonly Line[] =>
  jack.phantom.kind === "bank" ? bankUse(doc, rig, { bankId: jack.phantom.bankId, except: [line.id] }).powering : [];

const throughBank = (context: CheckContext, { jack, line, mates }: { readonly jack: InputJack; readonly line: Line; readonly mates: readonly Line[] }) => {
  const { doc, rig } = context;
  const who = nameOf(doc, line);
  const bank = jack.phantom.kind === "bank" ? bankLabel(rig, jack.phantom.bankId) : "";
  const move = moveToFree(doc, rig, { ...line, phantom: false });
  const needless = mates.every((mate) => microphoneFacts(rig, mate.microphone)?.phantom !== "needs");
  const names = mates.map((mate) => nameOf(doc, mate));
  const list = names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(" and ");
  return finding("phantom-endangers", {
    severity: "problem",
    message: `${who} is a passive ribbon on ${jackInWords(jack)}, and bank ${bank} carries 48 V for ${list}. ${move ? `Move it to ${move.where}` : "Move one of them"}, or use another microphone.`,
    places: [{ kind: "line", id: line.id, field: "phantom" }],
    fixes: [...(needless ? [setPhantom(`Switch phantom off for ${list}`, [...mates, line], false)] : []), ...(line.phantom ? [] : placeFixes(context, line))],
  });
};

export const phantomEndangers: Check = {
  id: "phantom-endangers",
  why: "48 V can ruin a passive ribbon, also through a bank it shares with others.",
  check: (context) =>
    entriesOf(context.doc.lines).flatMap((line) => {
      if (microphoneFacts(context.rig, line.microphone)?.phantom !== "endangered") return [];
      const jack = jackOf(context.rig, line.portId);
      const who = nameOf(context.doc, line);
      if (line.phantom)
        return [
          finding("phantom-endangers", {
            severity: "problem",
            message: `Phantom is on for ${who}, and ${who} is a passive ribbon: 48 V can ruin it.`,
            places: [{ kind: "line", id: line.id, field: "phantom" }],
            fixes: [setPhantom(`Switch phantom off for ${who}`, [line], false)],
          }),
        ];
      const mates = jack ? poweringMates(context, jack, line) : [];
      return jack && mates.length ? [throughBank(context, { jack, line, mates })] : [];
    }),
};

/** Only lines whose input is sound otherwise: one cause is told once. */
const soundJack = ({ doc, rig }: CheckContext, line: Line): InputJack | null => {
  const jack = jackOf(rig, line.portId);
  return jack && takesLevel(rig, jack, line) && existsAtRate(rig, jack, doc.format.sampleRateHz) ? jack : null;
};

export const phantomMissing: Check = {
  id: "phantom-missing",
  why: "A condenser, an active ribbon or an active DI box without 48 V is silent.",
  check: (context) =>
    entriesOf(context.doc.lines).flatMap((line) => {
      const facts = microphoneFacts(context.rig, line.microphone);
      const jack = soundJack(context, line);
      const who = nameOf(context.doc, line);
      const places = [{ kind: "line", id: line.id, field: "phantom" } as const];
      const supplied = jack && jack.phantom.kind !== "none";
      if (jack && !supplied && (line.phantom || facts?.phantom === "needs")) {
        const off = facts?.phantom === "needs" ? [] : [setPhantom(`Switch phantom off for ${who}`, [line], false)];
        return [
          finding("phantom-missing", {
            severity: "problem",
            message: `${who} asks for 48 V, and ${jackInWords(jack)} gives none.`,
            places,
            fixes: [...off, ...placeFixes(context, line)],
          }),
        ];
      }
      if (facts?.phantom !== "needs" || line.phantom || (jack && poweringMates(context, jack, line).length)) return [];
      const endangered = jack?.phantom.kind === "bank" ? bankUse(context.doc, context.rig, { bankId: jack.phantom.bankId, except: [line.id] }).endangered : [];
      const move = moveToFree(context.doc, context.rig, line);
      const moved: Fix[] = move
        ? [{ label: `Move ${move.who} to ${move.where} and switch phantom on`, commands: [move.command, { kind: "lines.set", lineIds: [line.id], set: { phantom: true } }] }]
        : [];
      const fixes = endangered.length ? moved : [setPhantom(`Switch phantom on for ${who}`, [line], true)];
      const beside = endangered[0] ? ` Its bank is shared with ${nameOf(context.doc, endangered[0])}, a passive ribbon.` : "";
      return [finding("phantom-missing", { severity: "problem", message: `${who} is ${KIND_WORDS[facts.kind]} and needs 48 V, but phantom is off.${beside}`, places, fixes })];
    }),
};
