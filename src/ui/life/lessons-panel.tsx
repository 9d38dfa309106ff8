"use client";

import { Button } from "@mantine/core";
import type { LessonsAnswer } from "@/contracts/answers";
import type { Lesson } from "@/core/lessons/lessons";
import { LEAST_SESSIONS } from "@/core/lessons/lessons";
import { counted } from "@/core/units/counted";
import { dyeVar } from "../theme/tokens";
import classes from "./life.module.css";

interface LessonsPanelProps {
  readonly answer: LessonsAnswer | null;
  readonly onTake: (lessons: readonly Lesson[]) => void;
}

const below = (sessions: number): string =>
  `Nothing is proposed below ${LEAST_SESSIONS} sessions that are done; ${sessions === 0 ? "none is" : `${sessions} ${sessions === 1 ? "is" : "are"}`}.`;

/** What sessions changed alike, each with its count and the act that takes it over. */
export const LessonsPanel = ({ answer, onTake }: LessonsPanelProps) => {
  const lessons = answer?.lessons ?? [];
  return (
    <aside className={classes.lessons} aria-label="What sessions taught">
      <h2>
        {answer && answer.sessions >= LEAST_SESSIONS
          ? `What ${answer.sessions} sessions taught`
          : "What sessions taught"}
      </h2>
      <p className={classes.soft}>
        {answer === null
          ? "Being counted…"
          : answer.sessions < LEAST_SESSIONS
            ? below(answer.sessions)
            : "Counted from what was changed each time. Nothing is taken over by itself."}
      </p>
      {answer !== null && answer.uncounted > 0 && (
        <p className={classes.soft}>
          {counted(answer.uncounted, "older session")} {answer.uncounted === 1 ? "is" : "are"} not counted: together
          they are more than is looked at at once.
        </p>
      )}
      <ul>
        {lessons.map((lesson) => (
          <li key={lesson.id} className={classes.lesson}>
            <span className={classes.dye} style={{ background: dyeVar(lesson.colour) }} aria-hidden="true" />
            <div>
              <strong>{lesson.who}</strong>
              <span className={classes.soft}>{lesson.words}</span>
            </div>
            <Button
              variant="default"
              size="xs"
              aria-label={`${lesson.label}: ${lesson.who}`}
              onClick={() => onTake([lesson])}
            >
              {lesson.label}
            </Button>
          </li>
        ))}
      </ul>
      {lessons.length > 1 && <Button onClick={() => onTake(lessons)}>Take over all {lessons.length}</Button>}
      {answer && answer.sessions >= LEAST_SESSIONS && (
        <p className={classes.soft}>
          {lessons.length
            ? `Below ${LEAST_SESSIONS} sessions, or half of them, nothing is proposed.`
            : `${counted(answer.sessions, "session")} changed nothing alike that the template does not have by now.`}
        </p>
      )}
    </aside>
  );
};
