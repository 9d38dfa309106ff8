import { cueDownBy } from "../levels/headroom";
import type { ChainProcessorId, ChannelId, IdSource } from "../model/ids";
import type { Rig } from "../model/rig";
import { putInto } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import type { Cue, Hearing, MixedIn } from "../model/tables/cues";
import type { Template } from "../model/template";
import { addBeside, addCue, moreOfOwn } from "../planning/cue-plans";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import type { Planned } from "../planning/gesture";
import { trimsFor } from "../planning/headroom-plans";
import { directWithEffects } from "../planning/monitor-plans";
import { cueOutputs, freeCueOutput } from "../queries/cue-outputs";
import { type CueCell, cuesOf, levelsOfCue, ownTracksOf } from "../queries/cues";
import { dB } from "../units/decibels";
import { demoStudio } from "./studio";

/** A template with some edits done; throws where one is refused: what is done here is ours. */
export const applied = (doc: Template, edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(`expected the edits of ${doc.name} to apply, got: ${made.refusal.message}`);
  return made.doc;
};

interface Heard {
  readonly people: readonly string[];
  readonly name?: string;
  /** Begins as the main mix, with more of own sound so often. */
  readonly more?: number;
  readonly output?: string;
  readonly hearing?: Hearing;
  readonly mixedIn?: MixedIn;
  /** How far the others stand back, in dB, by the folder they lie in; where nothing is said 12. */
  readonly back?: Readonly<Record<string, number>>;
}

const gear = (rig: Rig) => ({ rig, studio: demoStudio });

/** What others play stands back behind one's own sound, each family so far. */
const othersBack = (doc: Template, cue: Cue, back: Readonly<Record<string, number>>): readonly Edit[] => {
  const own = new Set<string>(ownTracksOf(doc, cue));
  const groups = new Map<number, CueCell[]>();
  for (const { sourceId } of levelsOfCue(doc, cue.id)) {
    const channel = doc.channels[sourceId];
    if (!channel || own.has(sourceId) || channel.kind === "talkback" || channel.kind === "click") continue;
    const folder = channel.kind === "track" && channel.folderId ? doc.folders[channel.folderId]?.name : channel.name;
    putInto(groups, back[folder ?? ""] ?? 12, { cueId: cue.id, sourceId });
  }
  return [...groups].map(([byDb, cells]) => ({ kind: "cueLevels.shift", cells, byDb: dB(-byDb) }));
};

/** A cue that begins as the main mix, on the next free headphones or on what is named. */
export const cue =
  (rig: Rig, { people, name = "", more = 1, output, hearing = "headphones", mixedIn = "computer", back = {} }: Heard) =>
  (doc: Template, _found: (name: string) => ChannelId, ids: IdSource): Planned => {
    const goesOut =
      output === undefined ? freeCueOutput(doc, rig) : cueOutputs(doc, rig).find(({ label }) => label === output);
    const added = addCue(doc, {
      people,
      name,
      from: "main",
      portIds: goesOut?.portIds ?? [],
      hearing,
      mixedIn,
      room: goesOut?.room ?? "",
      gear: gear(rig),
      ids,
    });
    if (!added.ok || hearing !== "headphones") return added;
    const begun = applied(doc, added.gesture.edits);
    const standBack = cuesOf(begun)
      .slice(-1)
      .flatMap((one): readonly Edit[] => othersBack(begun, one, back));
    const there = applied(begun, standBack);
    const [cueId] = cuesOf(there)
      .slice(-1)
      .map(({ id }) => id);
    // Own sound on top, and the whole a little lower again.
    const louder = cueId && more ? moreOfOwn(there, { cueIds: [cueId], byDb: dB(3 * more), ids }) : null;
    const lower = louder?.ok && cueId ? cueDownBy(applied(there, louder.gesture.edits), { ...gear(rig), cueId }) : 0;
    const again =
      cueId && lower
        ? [
            {
              kind: "entries.set",
              table: "cues",
              ids: [cueId],
              set: { levelDb: dB((there.cues[cueId]?.levelDb ?? 0) - lower) },
            } as const,
          ]
        : [];
    return {
      ok: true,
      gesture: { edits: [...added.gesture.edits, ...standBack, ...(louder?.ok ? louder.gesture.edits : []), ...again] },
    };
  };

export const monitoredDirect =
  (rig: Rig, ...names: readonly string[]) =>
  (doc: Template, found: (name: string) => ChannelId, ids: IdSource): Planned =>
    directWithEffects(doc, rig, { trackIds: names.map(found), ids });

export const beside =
  (kind: "click" | "talkback") =>
  (doc: Template, _found: (name: string) => ChannelId, ids: IdSource): Planned =>
    addBeside(doc, { kind, ids });

/** Trims every bus, and then the main bus, as far as everything at once asks for. */
export const withHeadroom =
  (rig: Rig) =>
  (doc: Template): Planned => ({ ok: true, gesture: { edits: trimsFor(doc, gear(rig)).edits } });

/** A limiter that looks ahead. */
export const lateLimiter =
  (on: string) =>
  (_doc: Template, found: (name: string) => ChannelId, ids: IdSource): Planned => ({
    ok: true,
    gesture: {
      edits: [
        {
          kind: "entries.add",
          entries: {
            processors: [
              newProcessor("limiter", {
                id: ids<ChainProcessorId>("processor"),
                channelId: found(on),
                lookaheadMs: 1,
                delaySamples: 48,
                delayDoubleSamples: 96,
              }) as never,
            ],
          },
        },
      ],
    },
  });
