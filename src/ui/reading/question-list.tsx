"use client";

import { Button } from "@mantine/core";
import { IconAlertTriangle, IconHelpCircle, IconSpeakerphone } from "@tabler/icons-react";
import type { ReactNode } from "react";
import type { Question } from "@/core/formats/input-list/list-types";
import { OUTSIDE_QUESTION } from "@/core/formats/input-list/questions";
import classes from "./reading.module.css";

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

interface QuestionListProps {
  readonly questions: readonly Question[];
  readonly onAnswer: (id: string, value: string) => void;
  /** Sentences that stand before the questions: what is in the way of everything. */
  readonly fatal?: readonly string[];
  readonly children?: ReactNode;
}

/** What is left open, each with the answer that is taken until another is given; what is fatal first. */
export const QuestionList = ({ questions, onAnswer, fatal = [], children }: QuestionListProps) =>
  questions.length || fatal.length || children ? (
    <ul className={classes.questions} aria-label="What is left open">
      {fatal.map((says) => (
        <li key={says} className={classes.question} data-fatal>
          <IconAlertTriangle size={18} stroke={1.8} aria-hidden />
          <p>
            <strong>{says}</strong>
          </p>
        </li>
      ))}
      {questions.map((question) => (
        <OneQuestion key={question.id} question={question} onAnswer={(value) => onAnswer(question.id, value)} />
      ))}
      {children}
    </ul>
  ) : null;
