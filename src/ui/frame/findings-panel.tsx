"use client";

import { Button, CloseButton, TextInput, UnstyledButton } from "@mantine/core";
import { IconAlertTriangle, IconCheck, IconInfoCircle } from "@tabler/icons-react";
import { useRouter } from "next/navigation";
import { type FormEvent, useState } from "react";
import { type AcceptedFinding, acceptCommand } from "@/core/checks";
import { contextOf } from "@/core/checks/context";
import type { Finding, Place } from "@/core/checks/finding";
import type { RigFinding } from "@/core/checks/rig-findings";
import { tracksByLine } from "@/core/model/read-template";
import { useDesk, useDeskStore, useDoing, useEvaluation, useRigFindings } from "../state/desk-context";
import classes from "./findings.module.css";

/** The view of its own that a place is in; null in the input list. */
const viewOf = (place: Place): string | null => {
  if (place.kind === "cue") return place.field === "level" ? "cues/levels" : `cues?cue=${place.id}`;
  if (place.kind !== "template") return null;
  return place.field === "buffer" ? "delay" : place.field === "disk" ? "cues/passes" : null;
};

const useGoTo = () => {
  const doc = useDesk((state) => state.doc);
  const desk = useDeskStore();
  const router = useRouter();
  return (place: Place | undefined) => {
    if (!place) return;
    if (place.kind === "channel") {
      desk.setState({ selected: [place.id] });
      return router.push(`/templates/${doc.id}/flow${place.field === "chain" ? `/${place.id}` : ""}`);
    }
    const view = viewOf(place);
    if (view) return router.push(`/templates/${doc.id}/${view}`);
    router.push(`/templates/${doc.id}/inputs`);
    if (place.kind === "cue") return;
    if (place.kind === "folder") return desk.setState({ cursor: { rowId: place.id, column: "name" }, anchorColumn: null, selected: [], filter: "" });
    if (place.kind === "template") return;
    const trackId = place.kind === "track" ? place.id : tracksByLine(doc).get(place.id)?.[0]?.id;
    if (trackId) desk.setState({ cursor: { rowId: trackId, column: place.field }, anchorColumn: null, selected: [trackId], filter: "" });
  };
};

/** Asks why a finding is all right; without a reason it stays open. */
const AcceptForm = ({ finding, onDone }: { readonly finding: Finding; readonly onDone: () => void }) => {
  const desk = useDeskStore();
  const { act } = useDoing();
  const [reason, setReason] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (act({ commands: [acceptCommand(contextOf(desk.getState()), finding, reason)] })) onDone();
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
        <Button key={fix.label} variant="default" size="compact-sm" className={classes.fix} onClick={() => act({ name: fix.label, commands: fix.commands })}>
          {fix.label}
        </Button>
      ))}
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

const RigItem = ({ finding }: { readonly finding: RigFinding }) => {
  const doc = useDesk((state) => state.doc);
  const router = useRouter();
  const Glyph = finding.severity === "problem" ? IconAlertTriangle : IconInfoCircle;
  return (
    <li className={`${classes.item} ${finding.severity === "problem" ? classes.problem : classes.hint}`}>
      <p className={classes.message}>
        <span className={classes.severity}>
          <Glyph size={15} stroke={1.9} aria-hidden /> Rig
        </span>
        {finding.message}
      </p>
      <Button variant="default" size="compact-sm" className={classes.fix} onClick={() => router.push(`/rigs/${doc.rigId}?template=${doc.id}`)}>
        Put it right in the rig
      </Button>
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
            <Button variant="subtle" size="compact-sm" className={classes.fix} onClick={() => act({ commands: [{ kind: "findings.reopen", findingIds: [finding.id] }] })}>
              Reopen
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
};

/** Everything the checks say: a click leads to the place, a button takes the fix. What was accepted is listed below with its reason. */
export const FindingsPanel = () => {
  const { open, accepted } = useEvaluation();
  const rig = useRigFindings();
  const desk = useDeskStore();
  return (
    <aside id="findings-panel" className={classes.panel} aria-label="Findings">
      <div className={classes.head}>
        <h2>Findings</h2>
        <CloseButton aria-label="Close the findings" onClick={() => desk.setState({ findingsOpen: false })} />
      </div>
      {open.length + rig.length === 0 ? (
        <p className={classes.none}>Nothing to complain of. Every line has an input that suits it, and every track a name that files can carry.</p>
      ) : (
        <ul className={classes.list}>
          {open.map((finding) => (
            <Item key={finding.id} finding={finding} />
          ))}
          {rig.map((finding) => (
            <RigItem key={finding.id} finding={finding} />
          ))}
        </ul>
      )}
      <Accepted accepted={accepted} />
    </aside>
  );
};
