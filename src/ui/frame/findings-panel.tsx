"use client";

import { Button, CloseButton, UnstyledButton } from "@mantine/core";
import { IconAlertTriangle, IconInfoCircle } from "@tabler/icons-react";
import { useRouter } from "next/navigation";
import type { Finding, Place } from "@/core/checks/finding";
import { tracksByLine } from "@/core/model/read-template";
import { useDesk, useDeskStore, useDoing, useFindings } from "../state/desk-context";
import classes from "./findings.module.css";

const useGoTo = () => {
  const doc = useDesk((state) => state.doc);
  const desk = useDeskStore();
  const router = useRouter();
  return (place: Place | undefined) => {
    if (!place) return;
    router.push(`/templates/${doc.id}/inputs`);
    if (place.kind === "folder") return desk.setState({ cursor: { rowId: place.id, column: "name" }, selected: [] });
    const trackId = place.kind === "track" ? place.id : tracksByLine(doc).get(place.id)?.[0]?.id;
    if (trackId) desk.setState({ cursor: { rowId: trackId, column: place.field }, selected: [trackId] });
  };
};

const Item = ({ finding }: { readonly finding: Finding }) => {
  const { act } = useDoing();
  const goTo = useGoTo();
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
    </li>
  );
};

/** Everything the checks say: a click leads to the place, a button takes the fix. */
export const FindingsPanel = () => {
  const findings = useFindings();
  const desk = useDeskStore();
  return (
    <aside id="findings-panel" className={classes.panel} aria-label="Findings">
      <div className={classes.head}>
        <h2>Findings</h2>
        <CloseButton aria-label="Close the findings" onClick={() => desk.setState({ findingsOpen: false })} />
      </div>
      {findings.length === 0 ? (
        <p className={classes.none}>Nothing to complain of. Every line has an input that suits it, and every track a name that files can carry.</p>
      ) : (
        <ul className={classes.list}>
          {findings.map((finding) => (
            <Item key={finding.id} finding={finding} />
          ))}
        </ul>
      )}
    </aside>
  );
};
