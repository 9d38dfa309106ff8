"use client";

import type { SpotlightActionData } from "@mantine/spotlight";
import { useRouter } from "next/navigation";
import { tracksOf } from "@/core/model/read-template";
import { useActs } from "../inputs/use-acts";
import { TrackIcon } from "../shared/track-icon";
import { useDesk, useDeskStore, useDoing } from "../state/desk-context";
import { Palette } from "./palette";

/** Everything that can be done here, with its key, and every track to go to. An act that can't be done now is not offered. */
export const DeskPalette = () => {
  const router = useRouter();
  const doc = useDesk((desk) => desk.doc);
  const desk = useDeskStore();
  const { undo, redo } = useDoing();
  const acts = useActs();
  const past = useDesk((state) => state.history.past.at(-1)?.name);
  const future = useDesk((state) => state.history.future.at(-1)?.name);
  const goTo = (id: ReturnType<typeof tracksOf>[number]["id"]) => {
    desk.setState({ cursor: { rowId: id, column: "name" }, selected: [id] });
    router.push(`/templates/${doc.id}/inputs`);
  };
  const does: SpotlightActionData[] = [
    ...(past ? [{ id: "undo", label: `Undo: ${past}`, rightSection: <kbd>Ctrl Z</kbd>, onClick: undo }] : []),
    ...(future ? [{ id: "redo", label: `Redo: ${future}`, rightSection: <kbd>Ctrl Shift Z</kbd>, onClick: redo }] : []),
    ...acts.filter((act) => act.possible).map((act) => ({ id: act.id, label: act.label, rightSection: act.key ? <kbd>{act.key}</kbd> : undefined, onClick: act.run })),
    { id: "findings", label: "Show the findings", onClick: () => desk.setState({ findingsOpen: true }) },
    { id: "go-inputs", label: "Go to the input list", onClick: () => router.push(`/templates/${doc.id}/inputs`) },
    { id: "go-hand-off", label: "Go to the hand-off", onClick: () => router.push(`/templates/${doc.id}/hand-off`) },
    { id: "go-library", label: "Go to the library", onClick: () => router.push("/") },
  ];
  const finds: SpotlightActionData[] = tracksOf(doc).map((track) => ({
    id: track.id,
    label: track.name || "A track without a name",
    description: "Track",
    leftSection: track.icon ? <TrackIcon icon={track.icon} /> : undefined,
    onClick: () => goTo(track.id),
  }));
  return <Palette does={does} finds={finds} />;
};
