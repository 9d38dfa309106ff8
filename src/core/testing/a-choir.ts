import { DEMO_RIGS, wholeMill } from "../demo/rigs";
import type { ChannelId, LineId, TemplateId } from "../model/ids";
import { rigInputsOf } from "../model/read-rig";
import { newLine } from "../model/tables/lines";
import { emptyTemplate, type Template } from "../model/template";
import { apply } from "../planning/edits/template-editing";

/** A template of many lines, most of them beyond the rig: the hardest case for checks and fixes. */
export const aChoir = (count: number): Template => {
  const rigInputs = rigInputsOf(wholeMill);
  const numbers = Array.from({ length: count }, (_, n) => n);
  const lines = numbers.map((n) =>
    newLine({
      id: `line-${n}` as LineId,
      source: `Voice ${n + 1}`,
      microphone: { kind: "named", name: "condenser", type: "condenser" } as const,
      portId: rigInputs[n]?.port.id ?? null,
      requestedInput: rigInputs[n] ? null : String(n + 1),
      phantom: true,
    }),
  );
  const tracks = numbers.map((n) => ({
    id: `track-${n}` as ChannelId,
    name: `Voice ${n + 1}`,
    note: "",
    colour: null,
    icon: null,
    input: { kind: "line", lineId: `line-${n}` as LineId } as const,
    sharing: null,
  }));
  const made = apply(emptyTemplate({ id: "choir" as TemplateId, name: "Choir", kind: "band", rigId: wholeMill.id }), {
    kind: "tracks.add",
    tracks,
    lines,
    folderId: null,
    before: null,
  });
  if (!made.ok) throw new Error(`expected the choir to build, got: ${made.refusal.message}`);
  return made.doc;
};

export const choirContext = (doc: Template) => ({
  doc,
  rig: wholeMill,
  otherRigs: DEMO_RIGS.filter((rig) => rig !== wholeMill),
});
