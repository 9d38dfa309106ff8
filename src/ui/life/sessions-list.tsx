"use client";

import { ActionIcon, Menu, Select } from "@mantine/core";
import { IconDots, IconTrash } from "@tabler/icons-react";
import type { LessonsAnswer, SessionSummary } from "@/contracts/answers";
import { SESSION_STATES } from "@/core/model/template";
import { counted } from "@/core/units/counted";
import { PageLink } from "../shared/page-link";
import { Selvedge } from "../shared/selvedge";
import { sayDay } from "./dates";
import classes from "./life.module.css";

interface SessionsListProps {
  readonly sessions: readonly SessionSummary[];
  readonly lessons: LessonsAnswer | null;
  /** What each version is called, by its revision. */
  readonly versions: ReadonlyMap<number, string>;
  readonly templateId: string;
  readonly onState: (session: SessionSummary, state: string) => void;
  readonly onKeep: (session: SessionSummary) => void;
  readonly onDelete: (session: SessionSummary) => void;
}

const fromWords = (session: SessionSummary, versions: ReadonlyMap<number, string>): string => {
  const revision = session.from?.revision;
  if (revision === undefined) return "";
  return `from ${versions.get(revision) ?? `revision ${revision}`}`;
};

/** The day, where the name does not say it already. */
const dayUnlessNamed = ({ name, date, place }: SessionSummary): string => {
  const day = sayDay(date);
  const [, dayAndMonth = day] = /^\w+ (\d+ \w+)/.exec(day) ?? [];
  return [name.includes(dayAndMonth) ? "" : day, name.includes(place) ? "" : place].filter(Boolean).join(", ");
};

/** The sessions of a template, each a copy, with how far it is and what it could carry back. */
export const SessionsList = ({
  sessions,
  lessons,
  versions,
  templateId,
  onState,
  onKeep,
  onDelete,
}: SessionsListProps) => (
  <ul className={classes.sessions} aria-label="Sessions">
    {sessions.map((session) => {
      const differences = lessons?.differences[session.id];
      return (
        <li key={session.id} className={classes.session}>
          <div>
            <PageLink href={`/templates/${session.id}/inputs`} className={classes.sessionName}>
              {session.name}
            </PageLink>
            <span className={classes.soft}>
              {[dayUnlessNamed(session), fromWords(session, versions)].filter(Boolean).join(" · ")}
            </span>
          </div>
          <Selvedge colours={session.selvedge} />
          <Select
            aria-label={`How far ${session.name} is`}
            size="xs"
            className={classes.stateField ?? ""}
            allowDeselect={false}
            data={[...SESSION_STATES]}
            value={session.state}
            onChange={(state) => state && state !== session.state && onState(session, state)}
          />
          <span className={classes.carry}>
            {differences === undefined ? (
              <span className={classes.soft}>{lessons ? "not compared: open its menu" : "being compared…"}</span>
            ) : differences ? (
              <PageLink className={classes.carryBack} href={`/templates/${templateId}/compare?right=${session.id}`}>
                {counted(differences, "difference")} to carry back…
              </PageLink>
            ) : (
              <span className={classes.soft}>nothing to carry</span>
            )}
          </span>
          <Menu position="bottom-end">
            <Menu.Target>
              <ActionIcon variant="subtle" color="gray" aria-label={`More for ${session.name}`}>
                <IconDots size={18} color="var(--soft)" />
              </ActionIcon>
            </Menu.Target>
            <Menu.Dropdown>
              <Menu.Item component={PageLink} href={`/templates/${templateId}/compare?right=${session.id}`}>
                Compare with the template
              </Menu.Item>
              <Menu.Item onClick={() => onKeep(session)}>Keep as a template</Menu.Item>
              <Menu.Divider />
              <Menu.Item leftSection={<IconTrash size={16} aria-hidden />} onClick={() => onDelete(session)}>
                Delete
              </Menu.Item>
            </Menu.Dropdown>
          </Menu>
        </li>
      );
    })}
  </ul>
);
