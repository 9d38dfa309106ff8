import type { CueId, CueLevelId } from "../model/ids";
import { linesOf, microphoneFacts, tracksByLine } from "../model/read-template";
import { listOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { addCue } from "../planning/cue-plans";
import type { Edit } from "../planning/edits/edit";
import { freeCueOutput } from "../queries/cue-outputs";
import { armedOf, cuesOf, levelIn, passesOf } from "../queries/cues";
import { farLinesOf } from "../queries/far-guests";
import { counted, listed } from "../units/counted";
import { dB } from "../units/decibels";
import { type Check, type CheckContext, type Finding, finding } from "./finding";
import { fresh } from "./fresh-ids";
import { MIXED } from "./reads";
import { inUse, nameOf } from "./remarkable";

/** Who has a microphone that is recorded, now or in any pass, and hears no cue. */
const unheeded = ({ doc, rig }: CheckContext): ReadonlyMap<string, readonly Channel[]> => {
  const listening = new Set(cuesOf(doc).flatMap(({ people }) => people.map((person) => person.trim().toLowerCase())));
  // A guest who is far away has a way back by their line, under whatever name.
  const far = new Set(cuesOf(doc).flatMap((cue) => (cue.hearing === "far" ? farLinesOf(doc, rig, cue) : [])));
  const recorded = new Set([...armedOf(doc), ...passesOf(doc).flatMap(({ trackIds }) => trackIds)]);
  const found = new Map<string, Channel[]>();
  for (const line of linesOf(doc)) {
    const kind = microphoneFacts(rig, line.microphone)?.kind;
    const player = line.player.trim();
    if (!player || !line.microphone || kind === "line-source" || far.has(line) || listening.has(player.toLowerCase()))
      continue;
    const tracks = (tracksByLine(doc).get(line.id) ?? []).filter((track) => inUse(track) && recorded.has(track.id));
    if (tracks.length) found.set(player, [...(found.get(player) ?? []), ...tracks]);
  }
  return found;
};

const cueFor = ({ doc, rig }: CheckContext, people: readonly string[]): readonly Edit[] => {
  const free = freeCueOutput(doc, rig);
  const planned = addCue(doc, {
    people,
    name: "",
    from: "main",
    portIds: free?.portIds ?? [],
    hearing: "headphones",
    mixedIn: "computer",
    room: "",
    ids: fresh(doc, "heard"),
  });
  return planned.ok ? planned.gesture.edits : [];
};

/** Somebody who is recorded by a microphone and hears nothing, where others have cues. */
export const playerWithoutCue: Check = {
  id: "player-without-cue",
  why: "Who has no cue hears neither the others nor themself, and is forgotten until the red light is on.",
  reads: [
    ...MIXED,
    "cues.hearing",
    "cues.name",
    "cues.order",
    "cues.people",
    "cues.portIds",
    "lines.microphone",
    "lines.player",
    "lines.portId",
  ],
  check: (context) => {
    const { doc, rig } = context;
    if (!cuesOf(doc).length) return [];
    const people = [...unheeded(context)];
    if (!people.length) return [];
    const names = people.map(([person]) => person);
    const [first] = cuesOf(doc).filter(({ hearing }) => hearing === "headphones");
    return [
      finding("player-without-cue", {
        severity: "hint",
        about: doc.id,
        message: `${names.length > 4 ? counted(names.length, "player") : listed(names)} ${names.length === 1 ? "has a microphone and hears" : "have microphones and hear"} no cue.`,
        places: people
          .flatMap(([, tracks]) =>
            tracks.slice(0, 1).map(({ id }) => ({ kind: "track" as const, id, field: "input" as const })),
          )
          .slice(0, 20),
        fixes: [
          ...(freeCueOutput(doc, rig)
            ? [{ label: `Add a cue for ${names.length > 3 ? "them" : listed(names)}`, edits: cueFor(context, names) }]
            : []),
          ...(first
            ? [
                {
                  label: `Let ${names.length > 3 ? "them" : listed(names)} hear ${first.name}`,
                  edits: [
                    {
                      kind: "entries.set" as const,
                      table: "cues" as const,
                      ids: [first.id],
                      set: { people: [...first.people, ...names] },
                    },
                  ],
                },
              ]
            : []),
        ],
      }),
    ];
  },
};

const heardBySomebody = (doc: Template, id: Channel["id"]): boolean =>
  cuesOf(doc).some(({ id: cueId }) => {
    const level = levelIn(doc, { cueId, sourceId: id });
    return level?.on === true && level.levelDb !== null;
  });

/** A click that is in nobody's cue. */
export const clickUnheard: Check = {
  id: "click-unheard",
  why: "A click that nobody hears keeps nobody together.",
  withoutRig: true,
  reads: [
    "channels.kind",
    "channels.muted",
    "channels.parked",
    "cueLevels.cueId",
    "cueLevels.levelDb",
    "cueLevels.on",
    "cueLevels.sourceId",
    "cues.hearing",
    "cues.order",
  ],
  check: ({ doc }) => {
    const cues = cuesOf(doc);
    if (!cues.length) return [];
    return listOf<Channel>(doc.channels).flatMap((channel): readonly Finding[] => {
      if (channel.kind !== "click" || !inUse(channel) || channel.muted || heardBySomebody(doc, channel.id)) return [];
      const ids = fresh(doc, "click");
      const levels = cues
        .filter(({ hearing }) => hearing === "headphones")
        .map(({ id }: { readonly id: CueId }) => ({
          id: ids<CueLevelId>("level"),
          cueId: id,
          sourceId: channel.id,
          levelDb: dB(-6),
          on: true,
          tap: "before" as const,
        }));
      return [
        finding("click-unheard", {
          severity: "hint",
          message: `${nameOf(channel)} is in nobody's cue.`,
          places: [{ kind: "channel", id: channel.id, field: "output" }],
          fixes: levels.length
            ? [
                {
                  label: `Bring ${nameOf(channel)} into ${counted(levels.length, "cue")}`,
                  edits: [{ kind: "cueLevels.put", levels }],
                },
              ]
            : [],
        }),
      ];
    });
  },
};

export const LISTENER_CHECKS: readonly Check[] = [playerWithoutCue, clickUnheard];
