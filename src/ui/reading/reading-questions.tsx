"use client";

import { Button } from "@mantine/core";
import { IconHelpCircle } from "@tabler/icons-react";
import type { ImportPreview } from "@/contracts/answers";
import { QuestionList } from "./question-list";
import classes from "./reading.module.css";
import type { Reading } from "./use-reading";

/** What the list leaves open, and that its columns are read as they were corrected before. */
export const ReadingQuestions = ({
  preview,
  reading,
}: {
  readonly preview: ImportPreview;
  readonly reading: Reading;
}) => {
  const { questions, fatal } = preview;
  return (
    <QuestionList
      questions={questions}
      onAnswer={reading.answer}
      fatal={fatal.filter((says) => !questions.some(({ asks }) => asks === says))}
    >
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
    </QuestionList>
  );
};
