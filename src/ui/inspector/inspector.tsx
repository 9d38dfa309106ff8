"use client";

import { Button, Select, Switch } from "@mantine/core";
import { memo } from "react";
import { wayOf } from "@/core/layout/signal-path";
import type { Colour } from "@/core/model/colours";
import type { FolderId } from "@/core/model/ids";
import { colourOf, folderColour, trackOf } from "@/core/model/read-template";
import type { Track } from "@/core/model/tables/channels";
import type { ActId, GridAct } from "../acts/act";
import { type Acts, canBeDone } from "../acts/act-model";
import { runAct } from "../acts/use-acts";
import { useSumming } from "../acts/use-summing";
import { ShownProvider, useLatePanel, useShown } from "../grid/shown";
import { useDoing, useRig } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import { GainNote } from "./gain-note";
import classes from "./inspector.module.css";
import { list, row, TextField, TrackFields, useColours } from "./inspector-fields";

const Way = ({ track }: { readonly track: Track }) => {
  const { doc } = useShown();
  const rig = useRig();
  return (
    <section aria-label="The path of this signal">
      <h3 className={classes.heading}>The path of this signal</h3>
      <ol className={classes.way} style={{ borderColor: dyeVar(colourOf(doc, track)) }}>
        {wayOf(doc, rig, track).map(({ title, detail }, at) => (
          <li key={at}>
            <strong>{title}</strong> <span>{detail}</span>
          </li>
        ))}
      </ol>
    </section>
  );
};

/** What is done most; everything else is in the menu of the row, the palette and the list of keys. */
const SHOWN_ACTS: readonly ActId[] = [
  "pair",
  "split",
  "duplicate",
  "folder",
  "choose-family",
  "family",
  "remove",
  "nest",
  "unnest",
  "folder-family",
  "dissolve",
];

const ActButtons = ({ acts }: { readonly acts: Acts<GridAct> }) => (
  <div className={classes.acts}>
    {acts()
      .filter((act) => canBeDone(act) && SHOWN_ACTS.includes(act.id))
      .map((act) => (
        <Button
          key={act.id}
          variant="default"
          size="compact-sm"
          justify="space-between"
          classNames={{ root: classes.act, label: classes.actLabel }}
          rightSection={<span className={`${classes.key} mono`}>{act.key}</span>}
          // What can be done may have changed since this was drawn.
          onClick={() => runAct(acts, act.id)}
        >
          {act.label}
        </Button>
      ))}
  </div>
);

const FolderFields = ({ folderId, acts }: { readonly folderId: FolderId; readonly acts: Acts<GridAct> }) => {
  const { doc } = useShown();
  const { act } = useDoing();
  const folder = doc.folders[folderId];
  const colours = useColours();
  const summing = useSumming();
  if (!folder) return null;
  return (
    <>
      <h2 className={classes.title}>
        <span className={classes.dot} style={{ background: dyeVar(folderColour(doc, folder)) }} />
        {folder.name}
      </h2>
      <div className={classes.fields}>
        <TextField
          label="Folder"
          value={folder.name}
          onKeep={(name) => act({ edits: [{ kind: "entries.set", table: "folders", ids: [folderId], set: { name } }] })}
        />
        <Select
          label="Colour"
          data={[{ value: "none", label: "none of its own" }, ...colours]}
          value={folder.colour ?? "none"}
          allowDeselect={false}
          {...list}
          onChange={(colour) =>
            act({
              edits: [
                {
                  kind: "entries.set",
                  table: "folders",
                  ids: [folderId],
                  set: { colour: colour === "none" ? null : (colour as Colour) },
                },
              ],
            })
          }
          {...row}
        />
        <Switch
          label="Sums"
          description={folder.busId ? `into the bus ${doc.channels[folder.busId]?.name}` : undefined}
          labelPosition="left"
          checked={folder.busId !== null}
          onChange={(event) => summing(folderId, event.currentTarget.checked)}
          classNames={{ body: classes.switchBody, labelWrapper: classes.label }}
        />
      </div>
      <ActButtons acts={acts} />
    </>
  );
};

/**
 * What is selected, in full: one track, several at once, or a folder. Until it shows what is selected now, nothing in
 * it can be touched.
 */
export const Inspector = memo(({ acts }: { readonly acts: Acts<GridAct> }) => {
  const { panel, shown } = useLatePanel();
  const { doc, cursor, selected } = shown;
  const tracks = selected.flatMap((id) => trackOf(doc, id) ?? []);
  const first = tracks[0];
  const folderId = cursor && doc.folders[cursor.rowId as FolderId] ? (cursor.rowId as FolderId) : null;
  if (!first && !folderId) return null;
  return (
    <ShownProvider value={shown}>
      <aside ref={panel} className={classes.panel} aria-label="Inspector">
        {first ? (
          <>
            <h2 className={classes.title}>
              <span className={classes.dot} style={{ background: dyeVar(colourOf(doc, first)) }} />
              {tracks.length === 1 ? first.name : `${tracks.length} tracks`}
            </h2>
            <TrackFields tracks={tracks} />
            {tracks.length === 1 && <GainNote track={first} />}
            {tracks.length === 1 && <Way track={first} />}
            <ActButtons acts={acts} />
          </>
        ) : (
          folderId && <FolderFields folderId={folderId} acts={acts} />
        )}
      </aside>
    </ShownProvider>
  );
});
Inspector.displayName = "Inspector";
