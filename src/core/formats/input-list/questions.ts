import { counted } from "../../units/counted";
import type { FoundColumns } from "./columns";
import type { ListChoices, ListRow, OutsideBlock, Question } from "./list-types";
import { MEANING_NAMES } from "./meanings";
import type { Reading } from "./rows";

const YES_NO = [
  { value: "yes", says: "Yes" },
  { value: "no", says: "No" },
] as const;

export const INPUT_QUESTION = "input-column";
export const OUTSIDE_QUESTION = "outside";
export const PROPOSE_QUESTION = "propose-inputs";

/** The id under which a sign of a column is asked. */
export const signQuestion = (meaning: string, sign: string): string => `sign:${meaning}:${sign}`;

const answered = (choices: ListChoices, id: string, usual: string): Pick<Question, "answer" | "answered"> => ({
  answer: choices.answers?.[id] ?? usual,
  answered: choices.answers?.[id] !== undefined,
});

/** Which column is the number, where several could be: asked once, with an example of each. */
export const inputQuestion = ({ inputs }: FoundColumns, choices: ListChoices): Question | null => {
  const [first, ...others] = inputs;
  if (!first || !others.length || choices.meanings) return null;
  return {
    id: INPUT_QUESTION,
    asks: "Which number is the input?",
    because: inputs.map(({ heading, example }) => `“${heading}” says ${example}`).join(", "),
    options: inputs.map(({ column, heading }) => ({ value: String(column), says: heading })),
    ...answered(choices, INPUT_QUESTION, String(first.column)),
    fatal: false,
    rows: [],
  };
};

/** Signs that say neither yes nor no by themselves, each asked once for its column. */
export const signQuestions = (signs: Reading["signs"], choices: ListChoices): readonly Question[] => {
  const byId = new Map<string, { meaning: string; sign: string; rows: number[] }>();
  for (const { meaning, sign, row } of signs) {
    const id = signQuestion(meaning, sign);
    const there = byId.get(id) ?? { meaning, sign, rows: [] };
    if (there.rows.at(-1) !== row) there.rows.push(row);
    byId.set(id, there);
  }
  return [...byId].map(([id, { meaning, sign, rows }]) => ({
    id,
    asks: `${sign} means ${meaning === "phantom" ? "48 V" : (MEANING_NAMES as Record<string, string>)[meaning]?.toLowerCase()}?`,
    because: counted(rows.length, "row"),
    options: YES_NO,
    ...answered(choices, id, usualSign(sign)),
    fatal: false,
    rows,
  }));
};

/** What a sign is taken for until somebody says: something is meant by it, but a question mark doubts it. */
export const usualSign = (sign: string): "yes" | "no" => (sign.includes("?") ? "no" : "yes");

const someOf = (names: readonly string[]): string =>
  names.length > 2 ? `“${names[0]} … ${names.at(-1)}”` : names.map((name) => `“${name}”`).join(" and ");

/** Blocks that hold no inputs: left out, unless listening places are to be made of them. */
export const outsideQuestion = (outside: readonly OutsideBlock[], choices: ListChoices): Question | null => {
  const listened = outside.filter(({ kind }) => kind === "outputs" || kind === "monitors");
  const names = listened.flatMap((block) => block.names);
  if (!names.length) return null;
  return {
    id: OUTSIDE_QUESTION,
    asks: `${counted(names.length, "output")} left out: make listening places of them?`,
    because: `${someOf(names)} ${names.length === 1 ? "is no input" : "are no inputs"}.`,
    options: [
      { value: "no", says: "Leave them out" },
      { value: "yes", says: `Make ${counted(names.length, "place")}` },
    ],
    ...answered(choices, OUTSIDE_QUESTION, "no"),
    fatal: false,
    rows: listened.flatMap((block) => block.rows),
  };
};

/** A list in which nothing has an input can't be patched as it stands. */
export const proposeQuestion = (rows: readonly ListRow[], choices: ListChoices): Question | null => {
  const without = rows.filter((row) => row.sides.some((side) => side.input === null));
  if (!without.length) return null;
  const none = rows.every((row) => row.sides.every((side) => side.input === null));
  return {
    id: PROPOSE_QUESTION,
    asks: none
      ? "No line has an input. Put them on free inputs that fit?"
      : `${counted(without.length, "track")} without an input. Put them on free inputs that fit?`,
    because: "in the order of the list, by what each input takes and its phantom",
    options: [
      { value: "no", says: "Leave them without" },
      { value: "yes", says: "Put them on free inputs" },
    ],
    ...answered(choices, PROPOSE_QUESTION, "no"),
    fatal: none,
    rows: without.map(({ row }) => row),
  };
};
