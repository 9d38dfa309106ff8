"use client";

import { ActionIcon, Button, Tooltip, UnstyledButton } from "@mantine/core";
import { IconAlertTriangle, IconChevronRight, IconCircleCheck, IconEye, IconGitBranch } from "@tabler/icons-react";
import { usePathname } from "next/navigation";
import type { ReactNode } from "react";
import { alikeAsOne } from "@/core/checks/alike";
import { countFindings, type Finding } from "@/core/checks/finding";
import { isSession } from "@/core/model/template";
import { counted } from "@/core/units/counted";
import { useChord } from "../acts/act-model";
import { DeskPalette } from "../acts/desk-palette";
import { sayDay } from "../life/dates";
import { useStartSession } from "../life/use-start-session";
import { POPUPS } from "../shared/combobox";
import { Mark } from "../shared/mark";
import { PageLink } from "../shared/page-link";
import { ThemeToggle } from "../shared/theme-toggle";
import tones from "../shared/tone.module.css";
import { useDesk, useDeskStore, useEvaluation, useFindings, usePlace } from "../state/desk-context";
import { NOT_JUDGED } from "../state/desk-store";
import { DocumentName } from "./document-name";
import { FormatMenu } from "./format-menu";
import classes from "./frame.module.css";
import { HistoryMenu } from "./history-menu";
import { LostNotice } from "./lost-notice";
import { KeysButton, OverPage } from "./over-page";
import { PaletteButton } from "./palette-button";
import { PartedNotice } from "./parted-notice";
import { SavedState } from "./saved-state";
import { UndoRedo } from "./undo-redo";
import { useDeskKeys } from "./use-desk-keys";

const FindingsButton = () => {
  const evaluation = useEvaluation();
  const findings = alikeAsOne(evaluation.open);
  const desk = useDeskStore();
  const open = useDesk((state) => state.findingsOpen);
  const { problems, hints } = countFindings(findings);
  const waits = evaluation === NOT_JUDGED;
  const words = waits
    ? "Being checked…"
    : problems
      ? counted(problems, "problem")
      : hints
        ? counted(hints, "hint")
        : "No findings";
  const tone = waits ? "" : problems ? tones.problem : hints ? tones.hint : tones.clear;
  return (
    <UnstyledButton
      className={`${classes.findings} ${tone}`}
      aria-expanded={open}
      aria-controls="findings-panel"
      onClick={() => desk.setState({ findingsOpen: !open })}
    >
      {waits ? null : findings.length ? (
        <IconAlertTriangle size={16} stroke={1.8} aria-hidden />
      ) : (
        <IconCircleCheck size={16} stroke={1.8} aria-hidden />
      )}
      <span>{words}</span>
    </UnstyledButton>
  );
};

const counts = (findings: readonly Finding[]) => {
  const told = alikeAsOne(findings);
  return { count: told.length, problem: told.some(({ severity }) => severity === "problem") };
};

/** What is told of how channels are routed, and put right in the signal flow. */
const isOfFlow = ({ places: [first] }: Finding): boolean => first?.kind === "channel";

/** What is told of what performers hear. */
const isOfDelay = ({ places: [first] }: Finding): boolean =>
  first?.kind === "template" && (first.field === "buffer" || first.field === "disk");
const isOfCues = ({ places: [first] }: Finding): boolean => first?.kind === "cue" || first?.kind === "pass";
const isOfRig = ({ places: [first] }: Finding): boolean => first?.kind === "template" && first.field === "rig";

const Stages = ({ templateId }: { readonly templateId: string }) => {
  const path = usePathname();
  const place = usePlace();
  const findings = useFindings();
  const rigId = useDesk((desk) => desk.doc.rigId);
  const stages = [
    { name: "Rig", href: `/rigs/${rigId}?template=${templateId}`, ...counts(findings.filter(isOfRig)) },
    {
      name: "Input list",
      href: `${place}/inputs`,
      ...counts(
        findings.filter(
          (finding) => !isOfFlow(finding) && !isOfCues(finding) && !isOfDelay(finding) && !isOfRig(finding),
        ),
      ),
    },
    { name: "Signal flow", href: `${place}/flow`, ...counts(findings.filter(isOfFlow)) },
    { name: "Cues", href: `${place}/cues`, ...counts(findings.filter(isOfCues)) },
    { name: "Delay", href: `${place}/delay`, ...counts(findings.filter(isOfDelay)) },
    { name: "Hand-off", href: `${place}/hand-off`, count: 0, problem: false },
  ];
  return (
    <nav className={classes.stages} aria-label="Stages">
      {stages.map(({ name, href, count, problem }) => (
        <PageLink
          key={href}
          href={href}
          className={classes.stage}
          {...(count > 0 ? { "aria-label": `${name}, ${counted(count, "finding")}` } : {})}
          aria-current={path === href ? "page" : path.startsWith(`${href}/`) ? "true" : undefined}
        >
          {name}{" "}
          {count > 0 && (
            <span className={classes.count} data-problem={problem || undefined}>
              {count}
            </span>
          )}
        </PageLink>
      ))}
      <FormatMenu />
    </nav>
  );
};

/** Screens of the whole template rather than of a stage of the work: what they are called where the stages were. */
const WHOLE: readonly (readonly [end: string, title: string])[] = [
  ["/life", "Versions and sessions"],
  ["/compare", "What changed"],
];

/** Plainly says that an older state is read, and what can be done with it. */
const ReadingNotice = () => {
  const reading = useDesk((desk) => desk.reading);
  const id = useDesk((desk) => desk.doc.id);
  if (!reading) return null;
  return (
    <output className={`${classes.reading} no-print`}>
      <IconEye size={17} stroke={1.8} aria-hidden />
      <span>
        <strong>{reading.version ?? `Revision ${reading.revision}`}</strong>, as it was
        {reading.version ? ` (revision ${reading.revision})` : ""}. Only read: nothing can be changed here.
      </span>
      <PageLink href={`/templates/${id}/compare?left=${reading.revision}`}>What changed since</PageLink>
      <PageLink href={`/templates/${id}/life`}>Versions and sessions</PageLink>
      <PageLink href={`/templates/${id}/inputs`}>To the template as it is now</PageLink>
    </output>
  );
};

/** From the template to its versions, and to a session. */
const LifeButtons = () => {
  const id = useDesk((desk) => desk.doc.id);
  const session = useDesk((desk) => isSession(desk.doc));
  const startSession = useStartSession();
  useChord("session", startSession);
  return (
    <>
      <Tooltip label="Versions and sessions">
        <ActionIcon
          component={PageLink}
          href={`/templates/${id}/life`}
          variant="subtle"
          color="gray"
          aria-label="Versions and sessions"
        >
          <IconGitBranch size={19} stroke={1.7} color="var(--ink)" />
        </ActionIcon>
      </Tooltip>
      {!session && (
        <Button size="compact-md" className={classes.start ?? ""} onClick={startSession}>
          Start session
        </Button>
      )}
    </>
  );
};

const ReadName = () => <strong className={classes.name}>{useDesk((desk) => desk.doc.name)}</strong>;

/** The slim bar and the stages that stand over every screen of a template. */
export const DeskFrame = ({ children }: { readonly children: ReactNode }) => {
  const templateId = useDesk((desk) => desk.doc.id);
  const reading = useDesk((desk) => desk.reading !== null);
  const session = useDesk((desk) => desk.doc.session.date);
  const path = usePathname();
  const whole = WHOLE.find(([end]) => path.endsWith(end));
  useDeskKeys();
  return (
    <div className={classes.frame}>
      <header className={`${classes.bar} no-print`}>
        <PageLink href="/" className={classes.brand} aria-label="Wandel, to the library">
          <Mark />
          <span className={classes.word}>wandel</span>
        </PageLink>
        <div className={classes.where}>
          <PageLink href="/" className={classes.crumb}>
            Library
          </PageLink>
          <IconChevronRight size={14} aria-hidden color="var(--soft)" />
          {reading ? <ReadName /> : <DocumentName />}
          {session && <span className={classes.saved}>session of {sayDay(session)}</span>}
          {whole ? <span className={classes.saved}>{whole[1]}</span> : !reading && <SavedState />}
        </div>
        {!reading && (
          <>
            <UndoRedo />
            <HistoryMenu />
          </>
        )}
        <FindingsButton />
        <PaletteButton />
        <KeysButton />
        <ThemeToggle />
        {!reading && <LifeButtons />}
      </header>
      {whole ? null : (
        <div className="no-print">
          <Stages templateId={templateId} />
        </div>
      )}
      <ReadingNotice />
      <PartedNotice />
      <LostNotice />
      <main className={classes.main}>
        {children}
        <div id={POPUPS} />
      </main>
      <OverPage />
      <DeskPalette />
    </div>
  );
};
