"use client";

import { Button, Kbd, Switch, Textarea, TextInput } from "@mantine/core";
import { IconHelpCircle } from "@tabler/icons-react";
import { type KeyboardEvent, useDeferredValue, useMemo } from "react";
import { planSession, type SessionPlan } from "@/core/formats/session-line/plan-session";
import type { Switches } from "@/core/formats/session-line/session-row";
import { cuesOf } from "@/core/queries/cues";
import { counted } from "@/core/units/counted";
import { ADD_TRACKS_FIELD, focusGrid, newIds } from "../grid/grid-focus";
import { QuestionList } from "../reading/question-list";
import { remember, wordsOf } from "../reading/remember";
import { useDesk, useDeskStore, useDoing, useRig } from "../state/desk-context";
import classes from "./adding.module.css";
import { type Adding, useAddingDraft } from "./adding-draft";
import { AddingPreview } from "./adding-preview";

const EXAMPLE = "Kick in/out\nSn T/B, HH, OH L/R\nBass DI + amp\nGtr 1-2\nLead vox LDC, BV x2";

const SWITCHES: readonly { readonly id: keyof Switches; readonly label: (cues: number) => string }[] = [
  { id: "folders", label: () => "Folders by family" },
  { id: "buses", label: () => "A bus for each family, to Main" },
  {
    id: "cues",
    label: (cues) => (cues ? `Into the cues that are there (${cues})` : "Into the cues (there are none yet)"),
  },
  { id: "microphones", label: () => "Usual microphones where none is written" },
  { id: "phantom", label: () => "Phantom by the microphone" },
  { id: "chains", label: () => "Chains and sends of the studio for each family" },
  { id: "inFull", label: () => "Short names in full" },
];

const usePlan = ({ draft }: Adding): SessionPlan => {
  const doc = useDesk((desk) => desk.doc);
  const studio = useDesk((desk) => desk.studio);
  const rig = useRig();
  const later = useDeferredValue(draft);
  return useMemo(() => planSession({ doc, rig, studio, ...later, ids: newIds }), [doc, rig, studio, later]);
};

const Choices = ({ adding }: { readonly adding: Adding }) => {
  const cues = useDesk((desk) => cuesOf(desk.doc).length);
  return (
    <div className={classes.switches}>
      {SWITCHES.map(({ id, label }) => (
        <Switch
          key={id}
          size="sm"
          label={label(cues)}
          checked={adding.draft.switches[id]}
          onChange={(event) => adding.turn(id, event.currentTarget.checked)}
        />
      ))}
    </div>
  );
};

const Asked = ({ plan, adding }: { readonly plan: SessionPlan; readonly adding: Adding }) => (
  <>
    <QuestionList questions={plan.questions} onAnswer={adding.answer} />
    {plan.told.length > 0 && (
      <ul className={classes.leftOut} aria-label="Left out">
        {plan.told.map((told) => (
          <li key={told}>{told}</li>
        ))}
      </ul>
    )}
  </>
);

const WouldBeAdded = ({ plan, adding }: { readonly plan: SessionPlan; readonly adding: Adding }) => {
  const rig = useRig();
  return (
    <section className={classes.preview} aria-label="What would be added">
      <output className={classes.head} data-bad={(adding.draft.text.trim() !== "" && !plan.planned.ok) || undefined}>
        {plan.headline && <strong>{plan.headline}</strong>}
        <span>{plan.planned.ok ? plan.says : plan.planned.message}</span>
        {plan.asked > 0 && (
          <span className={classes.asked}>
            <IconHelpCircle size={16} stroke={1.8} aria-hidden /> {counted(plan.asked, "row")} to look at
          </span>
        )}
      </output>
      <Asked plan={plan} adding={adding} />
      <AddingPreview plan={plan} rig={rig} adding={adding} />
    </section>
  );
};

/** What the form does: it adds what is written, or closes. */
const useAddingActs = (adding: Adding): { readonly add: () => void; readonly close: () => void } => {
  const desk = useDeskStore();
  const rig = useRig();
  const { actPlanned } = useDoing();
  const { draft } = adding;
  const close = (): void => {
    desk.setState({ adding: false });
    focusGrid();
  };
  const add = (): void => {
    // What was typed last may not be planned yet.
    const now = desk.getState();
    const latest = planSession({ doc: now.doc, rig, studio: now.studio, ...draft, ids: newIds });
    if (!latest.planned.ok) return void document.getElementById(ADD_TRACKS_FIELD)?.focus();
    if (!actPlanned(latest.planned)) return;
    const rows = latest.groups.flatMap((group) => group.rows);
    void remember({
      words: wordsOf(rows.map(({ key, name }) => ({ name, family: draft.changes[key]?.family }))),
      habit: null,
    });
    adding.done();
    const [first] = latest.trackIds;
    desk.setState({
      adding: false,
      ...(first
        ? { cursor: { rowId: first, column: "name" }, anchorColumn: null, selected: latest.trackIds, filter: "" }
        : {}),
    });
    focusGrid();
  };
  return { add, close };
};

/**
 * Tracks, and other kinds of channel, by writing them: names as an engineer would write them, or rows that are pasted,
 * and all that they would become beside them before it is done.
 */
export const AddingPanel = () => {
  const adding = useAddingDraft(useDesk((desk) => desk.doc.id));
  const { draft } = adding;
  const plan = usePlan(adding);
  const { add, close } = useAddingActs(adding);
  const press = (event: KeyboardEvent): void => {
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      add();
    }
    if (event.key === "Escape" && !event.defaultPrevented) close();
  };
  const { ok } = plan.planned;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys that hold wherever in it the focus is
    <div className={classes.panel} onKeyDown={press}>
      <form
        className={classes.form}
        aria-label="Add tracks"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <h2>Add tracks</h2>
        <Textarea
          id={ADD_TRACKS_FIELD}
          aria-label="Tracks to add"
          description="Names as you would write them; inputs, microphones, 48 V, players where you know them. Or paste rows. A bus, return, instrument or reference by that word before its name."
          placeholder={EXAMPLE}
          rows={9}
          autoFocus
          data-kept
          value={draft.text}
          onChange={(event) => adding.set({ text: event.currentTarget.value })}
          styles={{ input: { fontFamily: "var(--mantine-font-family-monospace)", fontSize: 13.5 } }}
        />
        <Choices adding={adding} />
        <div className={classes.from}>
          <TextInput
            size="xs"
            label="From input"
            placeholder="1"
            value={draft.from}
            onChange={(event) => adding.set({ from: event.currentTarget.value })}
          />
          <span>next free that fits</span>
        </div>
        <div className={classes.buttons}>
          <Button type="submit" disabled={!ok}>
            {plan.planned.ok ? (plan.planned.gesture.name ?? "Add") : "Add tracks"} <Kbd ml={8}>Ctrl ↵</Kbd>
          </Button>
          <Button variant="default" onClick={close}>
            Cancel
          </Button>
        </div>
      </form>
      <WouldBeAdded plan={plan} adding={adding} />
    </div>
  );
};
