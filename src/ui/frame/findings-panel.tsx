"use client";

import { Button, CloseButton, TextInput, UnstyledButton } from "@mantine/core";
import { IconAlertTriangle, IconCheck, IconInfoCircle } from "@tabler/icons-react";
import { type FormEvent, useState } from "react";
import { alikeAsOne } from "@/core/checks/alike";
import { acceptCommand } from "@/core/checks/cause";
import { contextOf } from "@/core/checks/context";
import type { Finding, Place } from "@/core/checks/finding";
import type { AcceptedFinding } from "@/core/checks/judgement";
import type { ChannelId } from "@/core/model/ids";
import { tracksByLine } from "@/core/model/read-template";
import type { Template } from "@/core/model/template";
import { counted } from "@/core/units/counted";
import { useGo } from "../shared/going";
import { tell, tellRefusal } from "../shared/notices";
import { useDesk, useDeskStore, useDoing, useEvaluation, usePlace } from "../state/desk-context";
import { type Cursor, NOT_JUDGED } from "../state/desk-store";
import { jumpTo } from "../state/jump";
import classes from "./findings.module.css";

/** The view of its own that a place is in; null in the input list. */
const viewOf = (place: Place): string | null => {
  if (place.kind === "pass") return "cues/passes";
  if (place.kind === "cue") return place.field === "level" ? "cues/levels" : `cues?cue=${place.id}`;
  if (place.kind !== "template") return null;
  return place.field === "buffer" ? "delay" : place.field === "disk" ? "cues/passes" : null;
};

/** Where the cursor of the input list goes for a place; null where it is none of its cells. */
const cellOf = (doc: Template, place: Place): Cursor | null => {
  if (place.kind === "folder") return { rowId: place.id, column: "name" };
  if (place.kind === "track") return { rowId: place.id, column: place.field };
  const track = place.kind === "line" ? tracksByLine(doc).get(place.id)?.[0] : undefined;
  return track && place.kind === "line" ? { rowId: track.id, column: place.field } : null;
};

const useGoTo = () => {
  const doc = useDesk((state) => state.doc);
  const desk = useDeskStore();
  const go = useGo();
  const base = usePlace();
  return (place: Place | undefined) => {
    if (!place) return;
    if (place.kind === "channel") {
      desk.setState({ selected: [place.id] });
      if (place.field !== "chain") jumpTo({ kind: "channel", id: place.id }, "flow");
      return go(`${base}/flow${place.field === "chain" ? `/${place.id}` : ""}`);
    }
    if (place.kind === "template" && place.field === "rig") return go(`/rigs/${doc.rigId}?template=${doc.id}`);
    const view = viewOf(place);
    if (view) return go(`${base}/${view}`);
    go(`${base}/inputs`);
    const cursor = cellOf(doc, place);
    if (cursor)
      desk.setState({
        cursor,
        anchorColumn: null,
        selected: place.kind === "folder" ? [] : [cursor.rowId as ChannelId],
        filter: "",
      });
  };
};

/** So many of a group are shown at first, and with each step. */
const MOST_SHOWN = 50;

/** Asks why a finding is all right; without a reason it stays open. */
const AcceptForm = ({ finding, onDone }: { readonly finding: Finding; readonly onDone: () => void }) => {
  const desk = useDeskStore();
  const { act } = useDoing();
  const [reason, setReason] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (act({ edits: [acceptCommand(contextOf(desk.getState()), finding, reason)] })) onDone();
  };
  return (
    <form className={classes.accept} onSubmit={submit}>
      <TextInput
        label="Why this is all right"
        placeholder="the adapter is in the drawer"
        value={reason}
        maxLength={1000}
        size="xs"
        data-autofocus
        autoFocus
        onChange={(event) => setReason(event.currentTarget.value)}
        onKeyDown={(event) => event.key === "Escape" && onDone()}
      />
      <Button type="submit" size="compact-sm">
        Accept it
      </Button>
    </form>
  );
};

const Item = ({ finding }: { readonly finding: Finding }) => {
  const { act } = useDoing();
  const goTo = useGoTo();
  const [accepting, setAccepting] = useState(false);
  const [place] = finding.places;
  const ofRig = place?.kind === "template" && place.field === "rig";
  const Glyph = finding.severity === "problem" ? IconAlertTriangle : IconInfoCircle;
  return (
    <li className={`${classes.item} ${finding.severity === "problem" ? classes.problem : classes.hint}`}>
      <UnstyledButton className={classes.message} onClick={() => goTo(finding.places[0])}>
        <span className={classes.severity}>
          <Glyph size={15} stroke={1.9} aria-hidden /> {finding.severity === "problem" ? "Problem" : "Hint"}
        </span>
        {finding.message}
      </UnstyledButton>
      {finding.fixes.map((fix) => (
        <Button
          key={fix.label}
          variant="default"
          size="compact-sm"
          className={classes.fix}
          onClick={() => act({ name: fix.label, edits: fix.edits })}
        >
          {fix.label}
        </Button>
      ))}
      {ofRig && (
        <Button variant="default" size="compact-sm" className={classes.fix} onClick={() => goTo(place)}>
          Put it right in the rig
        </Button>
      )}
      {accepting ? (
        <AcceptForm finding={finding} onDone={() => setAccepting(false)} />
      ) : (
        <Button variant="subtle" size="compact-sm" className={classes.fix} onClick={() => setAccepting(true)}>
          Accept with a reason…
        </Button>
      )}
    </li>
  );
};

/** Several that are alike, as one: opened to see each, put right in one act. */
const Group = ({ finding }: { readonly finding: Finding }) => {
  const desk = useDeskStore();
  const { act } = useDoing();
  const [open, setOpen] = useState(false);
  const [shown, setShown] = useState(MOST_SHOWN);
  const members = finding.members ?? [];
  const fixable = members.filter(({ fixes }) => fixes.length > 0);
  const Glyph = finding.severity === "problem" ? IconAlertTriangle : IconInfoCircle;
  /** The rules come when they are asked: a screen is drawn without them. */
  const fixAll = async (): Promise<void> => {
    const { fixGroup } = await import("@/core/checks");
    const { edits, cleared } = fixGroup(contextOf(desk.getState()), finding);
    if (!edits.length) tellRefusal(`None of the ${members.length} can be put right by itself any more.`);
    else if (
      act({ name: `Put ${counted(cleared, "finding")} right: ${fixable[0]?.fixes[0]?.label ?? ""}`, edits }) &&
      cleared < members.length
    )
      tell(`${cleared} of ${members.length} are put right; the others can't be by themselves.`);
  };
  return (
    <li className={`${classes.item} ${finding.severity === "problem" ? classes.problem : classes.hint}`}>
      <p className={classes.message}>
        <span className={classes.severity}>
          <Glyph size={15} stroke={1.9} aria-hidden /> {finding.severity === "problem" ? "Problem" : "Hint"}
        </span>
        {finding.message}
      </p>
      <Button
        variant="default"
        size="compact-sm"
        className={classes.fix}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? "Show them as one" : "Show each"}
      </Button>
      {fixable.length > 0 && (
        <Button variant="default" size="compact-sm" className={classes.fix} onClick={() => void fixAll()}>
          Fix all {fixable.length} alike, as: {fixable[0]?.fixes[0]?.label}
        </Button>
      )}
      {open && (
        <ul className={classes.list}>
          {members.slice(0, shown).map((member) => (
            <Item key={member.id} finding={member} />
          ))}
          {members.length > shown && (
            <li>
              <Button variant="subtle" size="compact-sm" onClick={() => setShown(shown + MOST_SHOWN)}>
                {members.length - shown} more
              </Button>
            </li>
          )}
        </ul>
      )}
    </li>
  );
};

const Accepted = ({ accepted }: { readonly accepted: readonly AcceptedFinding[] }) => {
  const { act } = useDoing();
  if (!accepted.length) return null;
  return (
    <section aria-label="Accepted">
      <h3 className={classes.acceptedTitle}>Accepted</h3>
      <ul className={classes.list}>
        {accepted.map(({ finding, reason }) => (
          <li key={finding.id} className={classes.item}>
            <p className={classes.message}>
              <span className={classes.severity}>
                <IconCheck size={15} stroke={1.9} aria-hidden /> {reason}
              </span>
              {finding.message}
            </p>
            <Button
              variant="subtle"
              size="compact-sm"
              className={classes.fix}
              onClick={() => act({ edits: [{ kind: "entries.remove", table: "accepted", ids: [finding.id] }] })}
            >
              Reopen
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
};

/**
 * Everything the checks say: a click leads to the place, a button takes the fix. What was accepted is listed below with
 * its reason.
 */
export const FindingsPanel = () => {
  const evaluation = useEvaluation();
  const { open, accepted } = evaluation;
  const told = alikeAsOne(open);
  const desk = useDeskStore();
  return (
    <aside id="findings-panel" className={classes.panel} aria-label="Findings">
      <div className={classes.head}>
        <h2>Findings</h2>
        <CloseButton aria-label="Close the findings" onClick={() => desk.setState({ findingsOpen: false })} />
      </div>
      {told.length === 0 ? (
        <p className={classes.none}>
          {evaluation === NOT_JUDGED
            ? "Being checked…"
            : "Nothing to complain of. Every line has an input that suits it, and every track a name that files can carry."}
        </p>
      ) : (
        <ul className={classes.list}>
          {told.map((finding) =>
            finding.members ? (
              <Group key={finding.id} finding={finding} />
            ) : (
              <Item key={finding.id} finding={finding} />
            ),
          )}
        </ul>
      )}
      <Accepted accepted={accepted} />
    </aside>
  );
};
