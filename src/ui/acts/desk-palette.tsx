"use client";

import { type SpotlightActionData, useSpotlight } from "@mantine/spotlight";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import type { Icon } from "@/core/model/families";
import { tracksOf } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/table";
import type { Channel } from "@/core/model/tables/channels";
import type { Template } from "@/core/model/template";
import { saidInputs } from "@/core/planning/said-input";
import { writeCell } from "@/core/planning/write-cell";
import { inPalette } from "../frame/in-palette";
import { openKeys, pageActs } from "../frame/page-acts";
import { Palette } from "../frame/palette";
import { paletteStore } from "../frame/palette-store";
import { newIds } from "../grid/grid-focus";
import { useStartSession } from "../life/use-start-session";
import { useGo } from "../shared/going";
import { TrackIcon } from "../shared/track-icon";
import { useDesk, useDeskStore, useDoing, usePlace, useRig } from "../state/desk-context";
import { type Jump, jumpTo, type View } from "../state/jump";
import { keyOf } from "./chords";

interface Lists {
  readonly does: SpotlightActionData[];
  readonly finds: SpotlightActionData[];
}

const NOTHING: Lists = { does: [], finds: [] };

interface Findable {
  readonly jump: Jump;
  /** The screens that show it, the one that is gone to first. */
  readonly views: readonly [View, ...View[]];
  readonly label: string;
  readonly description: string;
  readonly icon?: Icon | null;
}

const KINDS: { readonly [K in Channel["kind"]]: string } = {
  track: "Track",
  bus: "Bus",
  return: "Return",
  instrument: "Instrument",
  reference: "Reference",
  click: "Click",
  talkback: "Talkback",
  main: "Main bus",
};

/** Everything of a template that has a name. */
const findable = (doc: Template): readonly Findable[] => [
  ...tracksOf(doc).map(
    ({ id, name, icon }): Findable => ({
      jump: { kind: "channel", id },
      views: ["inputs", "flow"],
      label: name || "A track without a name",
      description: "Track",
      icon,
    }),
  ),
  ...entriesOf<Channel>(doc.channels)
    .filter(({ kind }) => kind !== "track")
    .map(
      ({ id, name, kind }): Findable => ({
        jump: { kind: "channel", id },
        views: ["flow"],
        label: name || `A ${kind} without a name`,
        description: KINDS[kind],
      }),
    ),
  ...entriesOf(doc.folders).map(
    ({ id, name }): Findable => ({
      jump: { kind: "folder", id },
      views: ["inputs"],
      label: name || "A folder without a name",
      description: "Folder",
    }),
  ),
  ...entriesOf(doc.cues).map(
    ({ id, name }): Findable => ({ jump: { kind: "cue", id }, views: ["cues"], label: name, description: "Cue" }),
  ),
  ...entriesOf(doc.passes).map(
    ({ id, name }): Findable => ({
      jump: { kind: "pass", id },
      views: ["cues/passes"],
      label: name,
      description: "Pass",
    }),
  ),
];

/**
 * Gathers everything that can be done here, with its key, and everything that has a name to go to. An act that can't be
 * done now is not offered.
 */
const Gather = ({ query, onLists }: { readonly query: string; readonly onLists: (lists: Lists) => void }) => {
  const go = useGo();
  const place = usePlace();
  const startSession = useStartSession();
  const doc = useDesk((desk) => desk.doc);
  const reading = useDesk((desk) => desk.reading);
  const desk = useDeskStore();
  const { undo, redo, actPlanned } = useDoing();
  const rig = useRig();
  const page = useStore(pageActs, (state) => state.gather);
  const past = useDesk((state) => state.history.past.at(-1)?.name);
  const future = useDesk((state) => state.history.future.at(-1)?.name);
  useEffect(() => {
    /** Where it is shown: on the screen that is open if it is there too. */
    const lead = (to: Jump, views: readonly [View, ...View[]]) => (): void => {
      const here = views.find((view) => window.location.pathname.endsWith(`/${view}`));
      if (!here) go(`${place}/${views[0]}`);
      jumpTo(to, here ?? views[0]);
    };
    onLists({
      does: [
        ...(past ? [{ id: "undo", label: `Undo: ${past}`, rightSection: <kbd>Ctrl Z</kbd>, onClick: undo }] : []),
        ...(future
          ? [{ id: "redo", label: `Redo: ${future}`, rightSection: <kbd>Ctrl Shift Z</kbd>, onClick: redo }]
          : []),
        ...saidInputs(doc, rig, query).map(({ trackId, track, input }) => ({
          id: `said-${trackId}`,
          label: `Put ${track} on input ${input}`,
          // It is what was typed, in whatever order.
          keywords: [query],
          onClick: () =>
            void actPlanned(writeCell(doc, rig, { trackIds: [trackId], column: "input", text: input, ids: newIds })),
        })),
        ...inPalette(page?.() ?? []),
        ...(reading
          ? []
          : [
              {
                id: "start-session",
                label: "Start a session…",
                rightSection: <kbd>{keyOf("session")}</kbd>,
                onClick: startSession,
              },
              { id: "go-life", label: "Go to versions and sessions", onClick: () => go(`/templates/${doc.id}/life`) },
            ]),
        { id: "keys", label: "All keys of this screen", rightSection: <kbd>?</kbd>, onClick: openKeys },
        { id: "findings", label: "Show the findings", onClick: () => desk.setState({ findingsOpen: true }) },
        { id: "go-rig", label: "Go to the rig", onClick: () => go(`/rigs/${doc.rigId}?template=${doc.id}`) },
        { id: "go-inputs", label: "Go to the input list", onClick: () => go(`${place}/inputs`) },
        { id: "go-flow", label: "Go to the signal flow", onClick: () => go(`${place}/flow`) },
        { id: "go-cues", label: "Go to the cues", onClick: () => go(`${place}/cues`) },
        { id: "go-passes", label: "Go to the passes", onClick: () => go(`${place}/cues/passes`) },
        { id: "go-levels", label: "Go to the levels", onClick: () => go(`${place}/cues/levels`) },
        { id: "go-delay", label: "Go to the delay", onClick: () => go(`${place}/delay`) },
        { id: "go-hand-off", label: "Go to the hand-off", onClick: () => go(`${place}/hand-off`) },
        { id: "go-studio", label: "Go to rooms, people and defaults", onClick: () => go("/studio") },
        { id: "go-library", label: "Go to the library", onClick: () => go("/") },
      ],
      finds: findable(doc).map(({ jump, views, label, description, icon }) => ({
        id: jump.id,
        label,
        description,
        leftSection: icon ? <TrackIcon icon={icon} /> : undefined,
        onClick: lead(jump, views),
      })),
    });
  }, [onLists, go, place, startSession, doc, reading, desk, undo, redo, page, past, future, query, rig, actPlanned]);
  return null;
};

/**
 * The palette of a template. What it offers is gathered only while it is open, or every step of the cursor would pay
 * for it.
 */
export const DeskPalette = () => {
  const { opened } = useSpotlight(paletteStore);
  const [lists, setLists] = useState<Lists>(NOTHING);
  const [query, setQuery] = useState("");
  return (
    <>
      <Palette {...lists} onQuery={setQuery} />
      {opened && <Gather query={query} onLists={setLists} />}
    </>
  );
};
