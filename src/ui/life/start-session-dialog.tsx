"use client";

import { Checkbox, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { type KeyboardEvent, useMemo, useState } from "react";
import type { FolderId } from "@/core/model/ids";
import { linesOf, tracksOf } from "@/core/model/read-template";
import type { Rig } from "@/core/model/rig";
import { byOrder, entriesOf } from "@/core/model/table";
import { inputLineIds } from "@/core/model/tables/channel-fields";
import type { Template } from "@/core/model/template";
import { droppedInWords, droppedWith } from "@/core/planning/edits/drop-family";
import { fittedLines } from "@/core/planning/refit";
import { counted } from "@/core/units/counted";
import { Footer } from "../acts/dialog-parts";
import type { SessionFields } from "../shared/api";
import { Chooser, ManyChooser } from "../shared/chooser";
import { takesText } from "../shared/takes-text";
import { useSubmit } from "../shared/use-submit";
import { sayDay, today } from "./dates";
import classes from "./life.module.css";

interface StartSessionDialogProps {
  readonly doc: Template;
  readonly rigs: readonly Rig[];
  readonly people: readonly string[];
  readonly onStart: (fields: Omit<SessionFields, "templateId">) => Promise<void>;
}

/** What another rig would change, in words. */
const refitWords = (doc: Template, rigs: readonly Rig[], rigId: string): string => {
  const [from, to] = [rigs.find(({ id }) => id === doc.rigId), rigs.find(({ id }) => id === rigId)];
  if (!to || to.id === doc.rigId) return "";
  const fitted = fittedLines(doc.lines, to)(from ?? to);
  const moved = linesOf(doc).filter(({ id }) => fitted[id] && fitted[id] !== doc.lines[id]);
  const without = moved.filter(({ id }) => fitted[id]?.portId === null && doc.lines[id]?.portId !== null).length;
  return `${counted(moved.length, "line")} would go to another input${without ? `; ${without} would have none there, and ${without === 1 ? "keeps" : "keep"} what ${without === 1 ? "it" : "they"} asked for` : ""}.`;
};

/** Those who play what is left when some families are not needed, in the order of the lines. */
const playing = (doc: Template, drop: readonly FolderId[]): readonly string[] => {
  const gone = new Set(drop.flatMap((id) => droppedWith(doc, id).trackIds));
  const kept = new Set(tracksOf(doc).flatMap((track) => (gone.has(track.id) ? [] : inputLineIds(track.input))));
  return [...new Set(linesOf(doc).flatMap(({ id, player }) => (player && kept.has(id) ? [player] : [])))];
};

/** The families of the template, as they stand in it. */
const familiesOf = (doc: Template) =>
  entriesOf(doc.folders)
    .filter(({ parentId }) => parentId === null)
    .sort(byOrder);

interface FamiliesProps {
  readonly doc: Template;
  readonly drop: readonly FolderId[];
  readonly onToggle: (id: FolderId) => void;
}

/** Families to be left out, each with its number, and with what goes with it once it is. */
const Families = ({ doc, drop, onToggle }: FamiliesProps) => {
  const families = familiesOf(doc);
  if (!families.length) return null;
  return (
    <fieldset className={classes.families}>
      <legend>Families that are not needed</legend>
      {families.map(({ id, name }, at) => {
        const chosen = drop.includes(id);
        return (
          <div key={id} className={classes.family}>
            <Checkbox
              label={name}
              checked={chosen}
              description={chosen ? droppedInWords(doc, droppedWith(doc, id)) : undefined}
              onChange={() => onToggle(id)}
            />
            {at < 9 && <kbd>{at + 1}</kbd>}
          </div>
        );
      })}
    </fieldset>
  );
};

/** Asks what a session is: when, where, who comes, on which rig, and what it does not need. */
export const StartSessionDialog = ({ doc, rigs, people, onStart }: StartSessionDialogProps) => {
  const [date, setDate] = useState(today());
  const [name, setName] = useState<string | null>(null);
  const [place, setPlace] = useState("");
  const [rigId, setRigId] = useState<string | null>(doc.rigId);
  const [drop, setDrop] = useState<readonly FolderId[]>([]);
  const [asked, setComing] = useState<readonly string[] | null>(null);
  // Until somebody says who comes, those do who play what is left.
  const coming = useMemo(() => asked ?? playing(doc, drop), [asked, doc, drop]);
  const { error, setError, submit } = useSubmit();
  const said = /^\d{4}-\d\d-\d\d$/.test(date) ? `${sayDay(date)}${place.trim() ? `, ${place.trim()}` : ""}` : "";
  const changed = useMemo(() => refitWords(doc, rigs, rigId ?? doc.rigId), [doc, rigs, rigId]);
  const toggle = (id: FolderId): void => setDrop(drop.includes(id) ? drop.filter((one) => one !== id) : [...drop, id]);
  /** A number, where nothing is typed, means the family of that number. */
  const byNumber = (event: KeyboardEvent): void => {
    const family = /^[1-9]$/.test(event.key) ? familiesOf(doc)[Number(event.key) - 1] : undefined;
    if (!family || event.altKey || event.ctrlKey || event.metaKey || takesText(event.target)) return;
    event.preventDefault();
    toggle(family.id);
  };
  return (
    <form
      onKeyDown={byNumber}
      onSubmit={(event) => {
        event.preventDefault();
        if (!said) return setError("A session needs a date.");
        void submit(async () => {
          await onStart({
            date,
            name: (name ?? said).trim() || said,
            place: place.trim(),
            people: coming,
            drop,
            ...(rigId && rigId !== doc.rigId ? { rigId } : {}),
          });
          modals.closeAll();
        });
      }}
    >
      <Stack gap="sm">
        <TextInput
          type="date"
          label="Date"
          value={date}
          error={error}
          onChange={(event) => setDate(event.currentTarget.value)}
        />
        <TextInput
          label="Name"
          maxLength={200}
          value={name ?? said}
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <TextInput
          label="Place"
          maxLength={200}
          value={place}
          onChange={(event) => setPlace(event.currentTarget.value)}
        />
        <Chooser
          label="Rig"
          {...(changed ? { description: changed } : {})}
          options={rigs.map((rig) => ({ value: rig.id, label: rig.name }))}
          value={rigId}
          needed="Choose a rig."
          onChange={setRigId}
        />
        <ManyChooser
          label="Who comes"
          options={[...new Set([...people, ...coming])].map((one) => ({ value: one, label: one }))}
          value={[...coming]}
          onChange={setComing}
        />
        <Families doc={doc} drop={drop} onToggle={toggle} />
        <p className={classes.soft}>A session is a copy. The template stays as it is.</p>
      </Stack>
      <Footer does="Start session" first />
    </form>
  );
};
