import { useMemo } from "react";
import type { ChannelId, CueId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { Cue } from "@/core/model/tables/cues";
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
import { keyOf } from "../acts/chords";
import { askFirst } from "../acts/route-dialogs";
import { newIds } from "../grid/grid-focus";
import { type Doing, useDeskStore, useDoing, useRig } from "../state/desk-context";
import type { DeskStore } from "../state/desk-store";
import { askCue } from "./cue-dialog";
import type { CueCursor } from "./use-cue-cursor";

/** The tracks that monitoring acts are meant for: those selected, else the own ones of the cues. */
const monitored = (doc: Template, cells: readonly CueCell[], cueIds: readonly CueId[]): readonly ChannelId[] => {
  const chosen = [...new Set(cells.map(({ sourceId }) => sourceId))].filter((id) => doc.channels[id]?.kind === "track");
  if (chosen.length) return chosen;
  return [...new Set(cueIds.flatMap((id) => (doc.cues[id] ? ownTracksOf(doc, doc.cues[id]) : [])))];
};

/** Where the acts are done: on the cues and cells that are selected, in the document as it is by then. */
interface Here extends Pick<Doing, "act" | "actPlanned">, Pick<CueCursor, "cells" | "cueIds" | "go"> {
  readonly desk: DeskStore;
  readonly rig: Rig;
}

const docOf = ({ desk }: Here): Template => desk.getState().doc;
const gearOf = ({ desk, rig }: Here) => ({ rig, studio: desk.getState().studio });

const askNewCue = (here: Here): void => {
  const gear = gearOf(here);
  askCue({
    doc: docOf(here),
    ...gear,
    cue: null,
    onDo: (asked) => {
      const before = new Set<string>(cuesOf(docOf(here)).map(({ id }) => id));
      const done = here.actPlanned(addCue(docOf(here), { ...asked, gear, ids: newIds }));
      const fresh = cuesOf(docOf(here)).find(({ id }) => !before.has(id));
      if (done && fresh) here.go({ rowId: "heads", cueId: fresh.id });
      return done;
    },
  });
};

const askSettings = (here: Here, cue: Cue): void =>
  askCue({
    doc: docOf(here),
    ...gearOf(here),
    cue,
    onDo: ({ from: _from, ...set }) =>
      here.act({
        edits: [{ kind: "entries.set", table: "cues", ids: [cue.id], set: { ...set, name: set.name || cue.name } }],
      }),
  });

const askStart = (here: Here, { id: cueId, name }: Cue): void => {
  const doc = docOf(here);
  const others = cuesOf(doc).filter(({ id }) => id !== cueId);
  const carried = levelsOfCue(doc, cueId).length;
  const goes = carried ? `: the ${counted(carried, "level")} it has ${carried === 1 ? "goes" : "go"}` : "";
  askOne({
    title: `Start ${name} anew${goes}`,
    label: "As",
    options: [
      { value: "main", label: "the main mix" },
      ...others.map((other) => ({ value: other.id as string, label: other.name })),
    ],
    does: `Start ${name} so`,
    onDo: (from) => here.actPlanned(startCueAs(docOf(here), { cueId, from: from as "main" | CueId, ids: newIds })),
  });
};

/** "Remove the cue Ilse", "Remove 3 cues". */
const removeLabel = (doc: Template, cueIds: readonly CueId[]): string =>
  `Remove ${cueIds.length === 1 ? "the cue " : ""}${countCues(doc, cueIds)}`;

const removeCues = (here: Here): void => {
  const { cueIds } = here;
  const doc = docOf(here);
  const levels = cueIds.reduce((sum, id) => sum + levelsOfCue(doc, id).length, 0);
  const gone = (): void => void here.act({ edits: [{ kind: "entries.remove", table: "cues", ids: cueIds }] });
  if (levels)
    askFirst({
      title: removeLabel(doc, cueIds),
      says: `${counted(levels, "level")} ${levels === 1 ? "goes" : "go"} with it.`,
      does: `Remove ${countCues(doc, cueIds)}`,
      onDo: gone,
    });
  else gone();
};

const monitorDirect = (here: Here, trackIds: readonly ChannelId[]): void => {
  const { rig } = here;
  const says = directReaches(docOf(here), rig, trackIds);
  const does = (): void => void here.actPlanned(directWithEffects(docOf(here), rig, { trackIds, ids: newIds }));
  if (says)
    askFirst({
      title: `Monitor ${countChannels(docOf(here), trackIds)} direct, with effects`,
      says: `${says.charAt(0).toUpperCase()}${says.slice(1)}.`,
      does: "Monitor direct",
      onDo: does,
    });
  else does();
};

const askEveryone = (here: Here, without: readonly string[]): void => {
  const gear = gearOf(here);
  const made = cueForEveryone(docOf(here), { gear, ids: newIds });
  const short = made.without
    ? ` ${counted(made.without, "of them has no output", "of them have no output")}: none is free.`
    : "";
  askFirst({
    title: "A cue for everyone who plays",
    says: `${listed(without)} ${without.length === 1 ? "gets a cue" : "get a cue each"}, begun as the main mix and low enough not to clip.${short}`,
    does: `Add ${counted(without.length, "cue")}`,
    onDo: () => void here.actPlanned(cueForEveryone(docOf(here), { gear, ids: newIds })),
  });
};

const cuesActs = (here: Here): readonly Act[] => {
  const { cueIds, actPlanned } = here;
  const doc = docOf(here);
  const who = countCues(doc, cueIds);
  if (!cueIds.length) return [];
  return [
    {
      id: "more",
      label: `More of own sound for ${who}`,
      short: "More of own sound",
      key: keyOf("more-own"),
      first: true,
      run: () => void actPlanned(moreOfOwn(docOf(here), { cueIds, ids: newIds })),
    },
    {
      id: "less",
      label: `Less of own sound for ${who}`,
      key: keyOf("less-own"),
      run: () => void actPlanned(moreOfOwn(docOf(here), { cueIds, byDb: dB(-3), ids: newIds })),
    },
    { id: "remove", label: removeLabel(doc, cueIds), key: keyOf("remove-whole"), run: () => removeCues(here) },
  ];
};

/** Of the only cue that is selected. */
const cueActs = (here: Here): readonly Act[] => {
  const [cue, ...others] = here.cueIds.flatMap((id) => docOf(here).cues[id] ?? []);
  if (!cue || others.length) return [];
  return [
    {
      id: "settings",
      label: `Who hears ${cue.name}, and where…`,
      short: "Who hears it, and where…",
      key: keyOf("settings"),
      first: true,
      run: () => askSettings(here, cue),
    },
    {
      id: "start",
      label: `Start ${cue.name} as the main mix or another cue…`,
      key: keyOf("start-as"),
      run: () => askStart(here, cue),
    },
  ];
};

const monitorActs = (here: Here): readonly Act[] => {
  const { cells, cueIds, rig, actPlanned } = here;
  const trackIds = monitored(docOf(here), cells, cueIds);
  const which = countChannels(docOf(here), trackIds);
  if (!trackIds.length) return [];
  return [
    {
      id: "direct",
      label: `Monitor ${which} direct, with effects`,
      short: "Monitor direct, with effects",
      key: keyOf("direct"),
      first: true,
      run: () => monitorDirect(here, trackIds),
    },
    {
      id: "computer",
      label: `Monitor ${which} through the computer`,
      key: keyOf("computer"),
      run: () => void actPlanned(backToComputer(docOf(here), { trackIds })),
    },
    {
      id: "unmonitored",
      label: `Monitor ${which} not at all`,
      run: () => void actPlanned(monitorTracks(docOf(here), rig, { trackIds, monitor: "off" })),
    },
  ];
};

const besideActs = (here: Here): readonly Act[] => {
  const has = (kind: "click" | "talkback") =>
    Object.values(docOf(here).channels).some((channel) => channel.kind === kind);
  const add = (kind: "click" | "talkback") => (): void =>
    void here.actPlanned(addBeside(docOf(here), { kind, ids: newIds }));
  return [
    { id: "click", label: has("click") ? "Add another click" : "Add a click", run: add("click") },
    {
      id: "talkback",
      label: has("talkback") ? "Add another talkback" : "Add talkback",
      run: add("talkback"),
    },
  ];
};

const NO_LEVEL = "Put the cursor on a level first.";

/** What is done to the levels under the cursor. */
const levelActs = (here: Here): readonly Act[] => {
  const there = here.cells.filter((cell) => levelIn(docOf(here), cell));
  const which = counted(here.cells.length, "level");
  const whyNot = there.length ? undefined : NO_LEVEL;
  const nudge = (byDb: number) => (): void => void here.actPlanned(nudgeCueLevels(docOf(here), here.cells, dB(byDb)));
  return [
    { id: "louder", label: `${which} 1 dB louder`, key: keyOf("louder"), whyNot, run: nudge(1) },
    { id: "quieter", label: `${which} 1 dB quieter`, key: keyOf("quieter"), whyNot, run: nudge(-1) },
    {
      id: "tap",
      label: `${which} before or after the fader`,
      key: keyOf("tap"),
      whyNot,
      run: () => toggleCells(here, "tap"),
    },
    {
      id: "switch",
      label: `Switch ${which} off or on`,
      key: keyOf("switch"),
      whyNot,
      run: () => toggleCells(here, "on"),
    },
    {
      id: "take-out",
      label: `Take ${which} out of the cue`,
      key: keyOf("remove"),
      whyNot,
      run: () => takeOutCells(here),
    },
  ];
};

const gatherActs = (here: Here): readonly Act[] => {
  const without = withoutCue(docOf(here), here.rig);
  const everyone: Act = {
    id: "everyone",
    label: "Add a cue for everyone who plays…",
    key: keyOf("add-all"),
    first: true,
    run: () => askEveryone(here, without),
  };
  return [
    { id: "add", label: "Add a cue…", key: keyOf("add"), first: true, run: () => askNewCue(here) },
    ...(without.length ? [everyone] : []),
    ...cuesActs(here),
    ...cueActs(here),
    ...levelActs(here),
    ...monitorActs(here),
    ...besideActs(here),
  ];
};

/** Before or after the fader, on or off: what the first of the cells is not. */
const toggleCells = (here: Here, field: "tap" | "on"): void => {
  const doc = docOf(here);
  const there = here.cells.filter((cell) => levelIn(doc, cell));
  const [first] = there.flatMap((cell) => levelIn(doc, cell) ?? []);
  if (!first) return;
  const tap = first.tap === "before" ? ("after" as const) : ("before" as const);
  const set = field === "tap" ? { tap } : { on: !first.on };
  here.act({
    edits: [{ kind: "cueLevels.put", levels: there.map((cell) => ({ ...cell, ...set, id: newIds("level") })) }],
  });
};

const takeOutCells = (here: Here): void => {
  const there = here.cells.filter((cell) => levelIn(docOf(here), cell));
  if (there.length) here.act({ edits: [{ kind: "cueLevels.remove", cells: there }] });
};

/** Everything that can be done to the cues and cells that are selected, as of the moment it is asked. */
export const useCueActs = ({ cells, cueIds, go }: Pick<CueCursor, "cells" | "cueIds" | "go">) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  return useMemo(() => {
    const here: Here = { desk, rig, act, actPlanned, cells, cueIds, go };
    return {
      gather: () => gatherActs(here),
      /** Under the cursor: levels, or on the head of a cue the cue itself. */
      takeOut: () => (cells.length ? takeOutCells(here) : cueIds.length && removeCues(here)),
    };
  }, [desk, rig, act, actPlanned, cells, cueIds, go]);
};
