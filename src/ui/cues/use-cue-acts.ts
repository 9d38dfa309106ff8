import { useCallback } from "react";
import type { ChannelId, CueId } from "@/core/model/ids";
import type { Template } from "@/core/model/template";
import {
  addBeside,
  addCue,
  cueForEveryone,
  moreOfOwn,
  nudgeCueLevels,
  startCueAs,
  withoutCue,
} from "@/core/planning/cue-plans";
import { countChannels } from "@/core/planning/edits/channel-edits";
import { countCues } from "@/core/planning/edits/cue-edits";
import { backToComputer, directReaches, directWithEffects, monitorTracks } from "@/core/planning/monitor-plans";
import { type CueCell, cuesOf, levelIn, levelsOfCue, ownTracksOf } from "@/core/queries/cues";
import { counted, listed } from "@/core/units/counted";
import { dB } from "@/core/units/decibels";
import type { Act } from "../acts/act-model";
import { askOne } from "../acts/chain-dialogs";
import { askFirst } from "../acts/route-dialogs";
import { newIds } from "../grid/grid-focus";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { askCue } from "./cue-dialog";
import type { CueCursor } from "./use-cue-cursor";

/** The tracks that monitoring acts are meant for: those selected, else the own ones of the cues. */
const monitored = (doc: Template, cells: readonly CueCell[], cueIds: readonly CueId[]): readonly ChannelId[] => {
  const chosen = [...new Set(cells.map(({ sourceId }) => sourceId))].filter((id) => doc.channels[id]?.kind === "track");
  if (chosen.length) return chosen;
  return [...new Set(cueIds.flatMap((id) => (doc.cues[id] ? ownTracksOf(doc, doc.cues[id]) : [])))];
};

/** Everything that can be done to the cues and cells that are selected, as of the moment it is asked. */
export const useCueActs = ({ cells, cueIds, go }: Pick<CueCursor, "cells" | "cueIds" | "go">) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  const gather = useCallback((): readonly Act[] => {
    const { doc, studio } = desk.getState();
    const now = () => desk.getState().doc;
    const all = cuesOf(doc);
    const who = countCues(doc, cueIds);
    const tracks = monitored(doc, cells, cueIds);
    const which = countChannels(doc, tracks);
    const add = (): void =>
      askCue({
        doc,
        rig,
        studio,
        cue: null,
        onDo: (asked) => {
          const before = new Set<string>(cuesOf(now()).map(({ id }) => id));
          const done = actPlanned(addCue(now(), { ...asked, gear: { rig, studio }, ids: newIds }));
          const fresh = cuesOf(now()).find(({ id }) => !before.has(id));
          if (done && fresh) go({ rowId: "heads", cueId: fresh.id });
          return done;
        },
      });
    const [only] = cueIds.length === 1 ? cueIds.flatMap((id) => doc.cues[id] ?? []) : [];
    const settings = (): void => {
      if (!only) return;
      askCue({
        doc,
        rig,
        studio,
        cue: only,
        onDo: ({ from: _from, ...set }) =>
          act({
            edits: [
              { kind: "entries.set", table: "cues", ids: [only.id], set: { ...set, name: set.name || only.name } },
            ],
          }),
      });
    };
    const start = (): void => {
      if (!only) return;
      const others = all.filter(({ id }) => id !== only.id);
      const carried = levelsOfCue(doc, only.id).length;
      askOne({
        title: `Start ${only.name} anew${carried ? `: the ${counted(carried, "level")} it has ${carried === 1 ? "goes" : "go"}` : ""}`,
        label: "As",
        options: [
          { value: "main", label: "the main mix" },
          ...others.map(({ id, name }) => ({ value: id as string, label: name })),
        ],
        does: `Start ${only.name} so`,
        onDo: (from) => actPlanned(startCueAs(now(), { cueId: only.id, from: from as "main" | CueId, ids: newIds })),
      });
    };
    const remove = (): void => {
      const levels = cueIds.reduce((sum, id) => sum + levelsOfCue(doc, id).length, 0);
      const gone = (): void => void act({ edits: [{ kind: "entries.remove", table: "cues", ids: cueIds }] });
      if (levels)
        askFirst({
          title: cueIds.length === 1 ? `Remove the cue ${who}` : `Remove ${who}`,
          says: `${counted(levels, "level")} ${levels === 1 ? "goes" : "go"} with it.`,
          does: `Remove ${who}`,
          onDo: gone,
        });
      else gone();
    };
    const direct = (): void => {
      const says = directReaches(doc, rig, tracks);
      const does = (): void => void actPlanned(directWithEffects(now(), rig, { trackIds: tracks, ids: newIds }));
      if (says)
        askFirst({
          title: `Monitor ${which} direct, with effects`,
          says: `${says.charAt(0).toUpperCase()}${says.slice(1)}.`,
          does: "Monitor direct",
          onDo: does,
        });
      else does();
    };
    const without = withoutCue(doc, rig);
    const everyone = (): void => {
      const made = cueForEveryone(doc, { gear: { rig, studio }, ids: newIds });
      const short = made.without
        ? ` ${counted(made.without, "of them has no output", "of them have no output")}: none is free.`
        : "";
      askFirst({
        title: "A cue for everyone who plays",
        says: `${listed(without)} ${without.length === 1 ? "gets a cue" : "get a cue each"}, begun as the main mix and low enough not to clip.${short}`,
        does: `Add ${counted(without.length, "cue")}`,
        onDo: () => void actPlanned(cueForEveryone(now(), { gear: { rig, studio }, ids: newIds })),
      });
    };
    const has = (kind: "click" | "talkback") => Object.values(doc.channels).some((channel) => channel.kind === kind);
    return [
      { id: "add", label: "Add a cue…", key: "Alt A", first: true, run: add },
      ...(without.length
        ? [
            {
              id: "everyone",
              label: "Add a cue for everyone who plays…",
              key: "Alt P",
              first: true as const,
              run: everyone,
            },
          ]
        : []),
      ...(cueIds.length
        ? [
            {
              id: "more",
              label: `More of own sound for ${who}`,
              key: "Alt M",
              first: true as const,
              run: () => void actPlanned(moreOfOwn(now(), { cueIds, ids: newIds })),
            },
            {
              id: "less",
              label: `Less of own sound for ${who}`,
              key: "Alt L",
              run: () => void actPlanned(moreOfOwn(now(), { cueIds, byDb: dB(-3), ids: newIds })),
            },
            {
              id: "remove",
              label: cueIds.length === 1 ? `Remove the cue ${who}` : `Remove ${who}`,
              key: "Alt X",
              run: remove,
            },
          ]
        : []),
      ...(only
        ? [
            {
              id: "settings",
              label: `Who hears ${only.name}, and where…`,
              key: "Alt I",
              first: true as const,
              run: settings,
            },
            { id: "start", label: `Start ${only.name} as the main mix or another cue…`, key: "Alt S", run: start },
          ]
        : []),
      ...(tracks.length
        ? [
            {
              id: "direct",
              label: `Monitor ${which} direct, with effects`,
              key: "Alt R",
              first: true as const,
              run: direct,
            },
            {
              id: "computer",
              label: `Monitor ${which} through the computer`,
              key: "Alt C",
              run: () => void actPlanned(backToComputer(now(), { trackIds: tracks })),
            },
            {
              id: "unmonitored",
              label: `Monitor ${which} not at all`,
              run: () => void actPlanned(monitorTracks(now(), rig, { trackIds: tracks, monitor: "off" })),
            },
          ]
        : []),
      {
        id: "click",
        label: has("click") ? "Add another click" : "Add a click",
        key: "Alt K",
        run: () => void actPlanned(addBeside(now(), { kind: "click", ids: newIds })),
      },
      {
        id: "talkback",
        label: has("talkback") ? "Add another talkback" : "Add talkback",
        key: "Alt T",
        run: () => void actPlanned(addBeside(now(), { kind: "talkback", ids: newIds })),
      },
    ];
  }, [desk, rig, act, actPlanned, cells, cueIds, go]);

  /** Before or after the fader, on or off: what the first of the cells is not. */
  const toggle = useCallback(
    (field: "tap" | "on"): void => {
      const { doc } = desk.getState();
      const there = cells.filter((cell) => levelIn(doc, cell));
      const [first] = there.flatMap((cell) => levelIn(doc, cell) ?? []);
      if (!first) return;
      const set =
        field === "tap"
          ? { tap: first.tap === "before" ? ("after" as const) : ("before" as const) }
          : { on: !first.on };
      act({
        edits: [{ kind: "cueLevels.put", levels: there.map((cell) => ({ ...cell, ...set, id: newIds("level") })) }],
      });
    },
    [desk, act, cells],
  );
  const nudge = useCallback(
    (byDb: number): void => void actPlanned(nudgeCueLevels(desk.getState().doc, cells, dB(byDb))),
    [desk, actPlanned, cells],
  );
  const takeOut = useCallback((): void => {
    const { doc } = desk.getState();
    const there = cells.filter((cell) => levelIn(doc, cell));
    if (there.length) act({ edits: [{ kind: "cueLevels.remove", cells: there }] });
  }, [desk, act, cells]);
  return { gather, toggle, nudge, takeOut };
};
