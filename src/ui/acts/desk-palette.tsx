"use client";

import { type SpotlightActionData, useSpotlight } from "@mantine/spotlight";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { tracksOf } from "@/core/model/read-template";
import { pageActs } from "../frame/page-acts";
import { Palette } from "../frame/palette";
import { paletteStore } from "../frame/palette-store";
import { TrackIcon } from "../shared/track-icon";
import { useDesk, useDeskStore, useDoing } from "../state/desk-context";
import { canBeDone } from "./act-model";

interface Lists {
  readonly does: SpotlightActionData[];
  readonly finds: SpotlightActionData[];
}

const NOTHING: Lists = { does: [], finds: [] };

/**
 * Gathers everything that can be done here, with its key, and every track to go to. An act that can't be done now is
 * not offered.
 */
const Gather = ({ onLists }: { readonly onLists: (lists: Lists) => void }) => {
  const router = useRouter();
  const doc = useDesk((desk) => desk.doc);
  const desk = useDeskStore();
  const { undo, redo } = useDoing();
  const page = useStore(pageActs, (state) => state.gather);
  const past = useDesk((state) => state.history.past.at(-1)?.name);
  const future = useDesk((state) => state.history.future.at(-1)?.name);
  useEffect(() => {
    const goTo = (id: ReturnType<typeof tracksOf>[number]["id"]) => {
      desk.setState({ cursor: { rowId: id, column: "name" }, anchorColumn: null, selected: [id], filter: "" });
      router.push(`/templates/${doc.id}/inputs`);
    };
    onLists({
      does: [
        ...(past ? [{ id: "undo", label: `Undo: ${past}`, rightSection: <kbd>Ctrl Z</kbd>, onClick: undo }] : []),
        ...(future
          ? [{ id: "redo", label: `Redo: ${future}`, rightSection: <kbd>Ctrl Shift Z</kbd>, onClick: redo }]
          : []),
        ...(page?.() ?? []).filter(canBeDone).map(({ id, label, key, run }) => ({
          id,
          label,
          ...(key ? { rightSection: <kbd>{key}</kbd> } : {}),
          onClick: run,
        })),
        { id: "findings", label: "Show the findings", onClick: () => desk.setState({ findingsOpen: true }) },
        { id: "go-rig", label: "Go to the rig", onClick: () => router.push(`/rigs/${doc.rigId}?template=${doc.id}`) },
        { id: "go-inputs", label: "Go to the input list", onClick: () => router.push(`/templates/${doc.id}/inputs`) },
        { id: "go-flow", label: "Go to the signal flow", onClick: () => router.push(`/templates/${doc.id}/flow`) },
        { id: "go-cues", label: "Go to the cues", onClick: () => router.push(`/templates/${doc.id}/cues`) },
        { id: "go-passes", label: "Go to the passes", onClick: () => router.push(`/templates/${doc.id}/cues/passes`) },
        { id: "go-levels", label: "Go to the levels", onClick: () => router.push(`/templates/${doc.id}/cues/levels`) },
        { id: "go-delay", label: "Go to the delay", onClick: () => router.push(`/templates/${doc.id}/delay`) },
        { id: "go-hand-off", label: "Go to the hand-off", onClick: () => router.push(`/templates/${doc.id}/hand-off`) },
        { id: "go-studio", label: "Go to rooms, people and defaults", onClick: () => router.push("/studio") },
        { id: "go-library", label: "Go to the library", onClick: () => router.push("/") },
      ],
      finds: tracksOf(doc).map((track) => ({
        id: track.id,
        label: track.name || "A track without a name",
        description: "Track",
        leftSection: track.icon ? <TrackIcon icon={track.icon} /> : undefined,
        onClick: () => goTo(track.id),
      })),
    });
  }, [onLists, router, doc, desk, undo, redo, page, past, future]);
  return null;
};

/**
 * The palette of a template. What it offers is gathered only while it is open, or every step of the cursor would pay
 * for it.
 */
export const DeskPalette = () => {
  const { opened } = useSpotlight(paletteStore);
  const [lists, setLists] = useState<Lists>(NOTHING);
  return (
    <>
      <Palette {...lists} />
      {opened && <Gather onLists={setLists} />}
    </>
  );
};
