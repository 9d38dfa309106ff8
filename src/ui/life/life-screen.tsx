"use client";

import { Button, Menu } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { IconBookmark, IconGitCompare } from "@tabler/icons-react";
import { useSearchParams } from "next/navigation";
import { useEffect } from "react";
import type { Life } from "@/contracts/answers";
import type { Knot } from "@/core/layout/life-thread";
import { isSession } from "@/core/model/template";
import { counted } from "@/core/units/counted";
import type { Act } from "../acts/act-model";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, usePageActs } from "../frame/page-acts";
import { ManyChooser } from "../shared/chooser";
import { PageLink } from "../shared/page-link";
import { useSteady } from "../shared/steady";
import { useDesk, useDoing } from "../state/desk-context";
import { DoneList } from "./done-list";
import { LessonsPanel } from "./lessons-panel";
import classes from "./life.module.css";
import { LifePicture } from "./life-picture";
import { SessionsList } from "./sessions-list";
import { useLife } from "./use-life";
import { type LifeActs, useLifeActs } from "./use-life-acts";
import { useStartSession } from "./use-start-session";

const countsOf = ({ versions, sessions, descendants }: Life): string => {
  const planned = sessions.filter(({ state }) => state !== "done").length;
  return [
    counted(versions.length, "version"),
    `${counted(sessions.length, "session")}${planned ? `, ${planned} not done yet` : ""}`,
    ...(descendants.length ? [counted(descendants.length, "descendant")] : []),
  ].join(" · ");
};

/** What can be done with a knot. */
const KnotItems = ({ knot, life, acts }: { readonly knot: Knot; readonly life: Life; readonly acts: LifeActs }) => {
  const version = life.versions.find(({ revision }) => revision === knot.revision);
  const name = version?.name ?? `revision ${knot.revision}`;
  if (knot.kind === "now") return <Menu.Item onClick={() => acts.askKeep("")}>Keep this version…</Menu.Item>;
  return (
    <>
      {version && (version.tried || version.note) && (
        <Menu.Label>{[version.tried, version.note].filter(Boolean).join(" · ").slice(0, 200)}</Menu.Label>
      )}
      <Menu.Item onClick={() => acts.read(knot.revision)}>Open for reading</Menu.Item>
      <Menu.Item onClick={() => acts.compare(knot.revision)}>What changed since</Menu.Item>
      <Menu.Item onClick={() => void acts.bringBack(knot.revision, name)}>Bring it back</Menu.Item>
      <Menu.Item onClick={() => void acts.ownTemplate(knot.revision, name)}>Make a template of it</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => acts.askKeepOlder(knot.revision, version)}>
        {version ? "Name and note…" : "Keep under a name…"}
      </Menu.Item>
      {version && <Menu.Item onClick={() => void acts.unname(version)}>Take the name off</Menu.Item>}
    </>
  );
};

const Ancestor = ({ life }: { readonly life: Life }) =>
  life.ancestor && (
    <p className={classes.soft}>
      Began as a copy of{" "}
      {life.ancestor.gone ? (
        `${life.ancestor.name}, which was deleted`
      ) : (
        <PageLink href={`/templates/${life.ancestor.id}/life`}>{life.ancestor.name}</PageLink>
      )}
      , revision {life.ancestor.revision}.
    </p>
  );

/** Words that the library finds it by, beside what is in it. */
const Tags = () => {
  const tags = useDesk((desk) => desk.doc.tags);
  const { act } = useDoing();
  return (
    <div className={classes.tags}>
      <ManyChooser
        label="Tags"
        placeholder={tags.length ? "" : "live room, small, tour…"}
        options={tags.map((tag) => ({ value: tag, label: tag }))}
        value={tags}
        most={32}
        asNew={(text) => `New tag “${text.slice(0, 60)}”`}
        onChange={(next) =>
          act({ edits: [{ kind: "settings.set", set: { tags: next.map((tag) => tag.trim().slice(0, 60)) } }] })
        }
      />
    </div>
  );
};

/** Of the screen, left and right together. */
const PADDING = 48;

const MOVING: Moving = [["Tab, Shift Tab", "From version to version, session to session"]];

/** The life of a template: its versions on one thread, what branched off, its sessions, and what they taught. */
export const LifeScreen = () => {
  const { life, lessons, error, reload } = useLife();
  const acts = useLifeActs(reload);
  const session = useDesk((desk) => isSession(desk.doc));
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const { ref, width } = useElementSize();
  const compare = (): void => acts.compare(life?.versions.at(-1)?.revision ?? 1);
  const gather = useSteady((): readonly Act[] => [
    { id: "keep-version", label: "Keep this version…", run: () => acts.askKeep("") },
    { id: "compare", label: "What changed since the last version", run: compare },
  ]);
  usePageActs(gather, "versions and sessions", MOVING);
  const startSession = useStartSession();
  const asked = useSearchParams().get("start") !== null;
  useEffect(() => {
    if (!asked) return;
    // Once: what the address asks for is done, and going back does not ask again.
    window.history.replaceState(null, "", window.location.pathname);
    startSession();
  }, [asked, startSession]);
  const versions = new Map(life?.versions.map(({ revision, name }) => [revision, name]));
  return (
    <div className={classes.screen}>
      <div className={classes.work} ref={ref}>
        <div className={classes.head}>
          <h1>Its life</h1>
          <span className={classes.soft}>{life ? countsOf(life) : "Being looked up…"}</span>
          <span className={classes.space} />
          <Button variant="default" leftSection={<IconGitCompare size={16} aria-hidden />} onClick={compare}>
            Compare two…
          </Button>
          <Button leftSection={<IconBookmark size={16} aria-hidden />} onClick={() => acts.askKeep("")}>
            Keep this version…
          </Button>
        </div>
        {error && <p role="alert">{error}</p>}
        {life && (
          <>
            <Ancestor life={life} />
            <Tags />
            <LifePicture
              life={life}
              room={Math.max(300, width - PADDING)}
              menu={(knot) => <KnotItems knot={knot} life={life} acts={acts} />}
            />
            {!session && (
              <section aria-labelledby="its-sessions">
                <div className={classes.listHead}>
                  <h2 id="its-sessions">Sessions</h2>
                  <span className={classes.soft}>
                    {life.sessions.length
                      ? "each a copy; none changes the template unless you carry something back"
                      : "None yet. Start session makes a copy for a date; the template stays as it is."}
                  </span>
                </div>
                <Button variant="default" size="compact-sm" mb={4} onClick={startSession}>
                  Start session…
                </Button>
                <SessionsList
                  sessions={life.sessions}
                  lessons={lessons}
                  versions={versions}
                  templateId={life.id}
                  onState={(one, state) => void acts.setState(one, state)}
                  onKeep={(one) => void acts.keepAsTemplate(one)}
                  onDelete={(one) => void acts.remove(one)}
                />
              </section>
            )}
            <DoneList />
          </>
        )}
      </div>
      {!session && <LessonsPanel answer={lessons} onTake={acts.takeOver} />}
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
