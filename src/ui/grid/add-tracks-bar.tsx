"use client";

import { Button } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import { useMemo, useState } from "react";
import type { FolderId } from "@/core/model/ids";
import { planAddTracks } from "@/core/planning/add-tracks";
import { alsoHeard, cueNeighbour } from "@/core/planning/join-cues";
import { CuesField } from "../acts/cues-field";
import { useDesk, useDeskStore, useDoing, useRig } from "../state/desk-context";
import classes from "./add-tracks.module.css";
import { ADD_TRACKS_FIELD, focusGrid, newIds } from "./grid-focus";

/** Adds many tracks at once: "8 mono from 3". Says what will happen while one types. */
export const AddTracksBar = () => {
  const doc = useDesk((desk) => desk.doc);
  const cursor = useDesk((desk) => desk.cursor);
  const desk = useDeskStore();
  const rig = useRig();
  const { actPlanned } = useDoing();
  const [text, setText] = useState("");
  const folderId = cursor && doc.folders[cursor.rowId as FolderId] ? (cursor.rowId as FolderId) : null;
  const plan = useMemo(
    () => (text.trim() ? planAddTracks(doc, rig, { text, folderId, ids: newIds }) : null),
    [doc, rig, text, folderId],
  );
  const like = useMemo(
    () => (plan?.planned.ok ? cueNeighbour(doc, { kind: "track", folderId }) : null),
    [doc, plan, folderId],
  );
  const [joins, setJoins] = useState(true);
  const add = () => {
    if (!plan?.planned.ok) return document.getElementById(ADD_TRACKS_FIELD)?.focus();
    if (!actPlanned(alsoHeard(doc, plan.planned, { likeId: joins ? (like?.id ?? null) : null, ids: newIds }))) return;
    setText("");
    const first = plan.trackIds[0];
    if (first) desk.setState({ cursor: { rowId: first, column: "name" }, anchorColumn: null, selected: [first] });
    focusGrid();
  };
  return (
    <form
      className={classes.bar}
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Button type="submit" variant="default" leftSection={<IconPlus size={16} stroke={1.8} aria-hidden />}>
        Add tracks
      </Button>
      <input
        id={ADD_TRACKS_FIELD}
        className={`${classes.field} mono`}
        aria-label="Tracks to add"
        aria-describedby="add-tracks-says"
        placeholder="8 mono from 3"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") {
            setText("");
            focusGrid();
          }
        }}
      />
      <output
        id="add-tracks-says"
        className={classes.says}
        data-idle={!plan || undefined}
        data-bad={(plan && !plan.planned.ok) || undefined}
      >
        {plan ? plan.says : "how many, mono or stereo, from which input; behind commas: at −6, after the chain, direct"}
        {plan?.planned.ok && folderId ? `, in ${doc.folders[folderId]?.name}` : ""}
      </output>
      <CuesField compact like={like} joins={joins} onJoins={setJoins} />
    </form>
  );
};
