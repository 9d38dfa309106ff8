"use client";

import { Button } from "@mantine/core";
import { IconAlertTriangle, IconHelpCircle, IconSpeakerphone } from "@tabler/icons-react";
import type { ImportPreview } from "@/contracts/answers";
import type { Question } from "@/core/formats/input-list/list-types";
import { OUTSIDE_QUESTION } from "@/core/formats/input-list/questions";
import classes from "./reading.module.css";
import type { Reading } from "./use-reading";

const OneQuestion = ({
  question,
  onAnswer,
}: {
  readonly question: Question;
  readonly onAnswer: (value: string) => void;
}) => {
  const Glyph = question.fatal
    ? IconAlertTriangle
    : question.id === OUTSIDE_QUESTION
      ? IconSpeakerphone
      : IconHelpCircle;
  return (
    <li
      className={classes.question}
      data-fatal={question.fatal || undefined}
      data-answered={question.answered || undefined}
    >
      <Glyph size={18} stroke={1.8} aria-hidden />
      <p>
        <strong>{question.asks}</strong> <span>{question.because}</span>
      </p>
      <div role="group" aria-label={question.asks} className={classes.options}>
        {question.options.map(({ value, says }) => (
          <Button
            key={value}
            size="xs"
            variant={question.answer === value ? "filled" : "default"}
            aria-pressed={question.answer === value}
            onClick={() => onAnswer(value)}
          >
            {says}
          </Button>
        ))}
      </div>
    </li>
  );
};

/** What the list leaves open, each with the answer that is taken until another is given; what is fatal first. */
export const ReadingQuestions = ({
  preview,
  reading,
}: {
  readonly preview: ImportPreview;
  readonly reading: Reading;
}) => {
  const { questions, fatal } = preview;
  const unasked = fatal.filter((says) => !questions.some(({ asks }) => asks === says));
  if (!questions.length && !unasked.length && !preview.remembered) return null;
  return (
    <ul className={classes.questions} aria-label="What the list leaves open">
      {unasked.map((says) => (
        <li key={says} className={classes.question} data-fatal>
          <IconAlertTriangle size={18} stroke={1.8} aria-hidden />
          <p>
            <strong>{says}</strong>
          </p>
        </li>
      ))}
      {questions.map((question) => (
        <OneQuestion key={question.id} question={question} onAnswer={(value) => reading.answer(question.id, value)} />
      ))}
      {preview.remembered && (
        <li className={classes.question} data-answered>
          <IconHelpCircle size={18} stroke={1.8} aria-hidden />
          <p>
            <strong>Columns as they were corrected before</strong> <span>in a list of the same headings</span>
          </p>
          <div className={classes.options}>
            <Button size="xs" variant="default" onClick={reading.forget}>
              Read it without
            </Button>
          </div>
        </li>
      )}
    </ul>
  );
};
