"use client";

import { Autocomplete } from "@mantine/core";
import { type FocusEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";
import { COLOUR_NAMES, isColour } from "@/core/model/colours";
import { ICONS } from "@/core/model/families";
import type { CellColumn } from "@/core/queries/columns";
import { dropDown } from "../shared/combobox";
import { tellLost } from "../shared/notices";
import { offer } from "../shared/offered";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
import { useOpened } from "../shared/typed";
import { dyeVar } from "../theme/tokens";
import classes from "./grid.module.css";

/** Where the cursor goes after an edit; `away` when the keys have been taken by something else on the page. */
export type Leave = "down" | "right" | "left" | "stay" | "away" | "everywhere";

interface CellEditorProps {
  readonly column: CellColumn;
  readonly label: string;
  readonly initial: string;
  /** Typed over: the edit began with a letter, so the old text is not selected but gone. */
  readonly fresh: boolean;
  readonly suggestions: readonly string[];
  /** Of these there is none left. */
  readonly usedUp?: ReadonlySet<string>;
  /** Answers why the text can't be taken; null when it was. */
  readonly onCommit: (text: string, leave: Leave) => string | null;
  readonly onCancel: (leave?: "away") => void;
  /** The editor went away while something was typed in it. */
  readonly onGone: (text: string, where: string) => void;
}

/** Whether a click has given the keys to another field or button. */
const takenBy = (event: FocusEvent): "away" | undefined => (event.relatedTarget ? "away" : undefined);

const useCommit = (props: CellEditorProps, typed: string) => {
  const { onCommit, onCancel, initial, label } = props;
  const [error, setError] = useState<string | null>(null);
  const done = useOpened(typed, props);
  const commit = (text: string, leave: Leave): void => {
    if (done.current) return;
    done.current = true;
    const refusal = onCommit(text, leave);
    if (refusal) {
      done.current = false;
      setError(refusal);
    }
  };
  const cancel = (): void => {
    done.current = true;
    onCancel();
  };
  const onKeyDown = (event: KeyboardEvent, text: string): void => {
    event.stopPropagation();
    if (event.key === "Escape") cancel();
    else if (event.key === "Enter") commit(text, event.ctrlKey || event.metaKey ? "everywhere" : "down");
    else if (event.key === "Tab") {
      event.preventDefault();
      commit(text, event.shiftKey ? "left" : "right");
    }
  };
  /** Leaving by the mouse keeps what was typed; what can't be taken is told. */
  const onBlur = (event: FocusEvent, text: string): void => {
    if (done.current) return;
    done.current = true;
    const refusal = onCommit(text, takenBy(event) ?? "stay");
    if (!refusal) return;
    tellLost(text, label, refusal);
    onCancel(takenBy(event));
  };
  /** Leaves without keeping; what was typed is told when there was anything. */
  const leave = (event: FocusEvent, text: string, why: string): void => {
    if (done.current) return;
    done.current = true;
    if (text !== initial) tellLost(text, label, why);
    onCancel(takenBy(event));
  };
  return { error, setError, commit, onKeyDown, onBlur, leave };
};

/** Above the field where a list is open below it. */
const ErrorTip = ({ message, above = false }: { readonly message: string | null; readonly above?: boolean }) =>
  message ? (
    <div role="alert" className={classes.error} data-above={above || undefined}>
      {message}
    </div>
  ) : null;

const TextEditor = (props: CellEditorProps) => {
  const [text, setText] = useState(props.initial);
  const { error, onKeyDown, onBlur } = useCommit(props, text);
  return (
    <>
      <input
        className={classes.editor}
        aria-label={props.label}
        aria-invalid={error !== null}
        value={text}
        maxLength={props.column === "note" ? 4000 : 200}
        // biome-ignore lint/a11y/noAutofocus: the editor stands in the cell that has the focus
        autoFocus
        onFocus={(event) => !props.fresh && event.target.select()}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => onKeyDown(event, text)}
        onBlur={(event) => onBlur(event, text)}
      />
      <ErrorTip message={error} />
    </>
  );
};

const AS_FOLDER = "as the folder";
const NO_ICON = "no icon";

const isChoice = (column: CellColumn): boolean => column === "colour" || column === "icon";

/** What a cell can be set to; the first of a choice sets it to nothing of its own. */
const optionsOf = ({ column, suggestions }: CellEditorProps): readonly string[] => {
  if (column === "colour") return [AS_FOLDER, ...COLOUR_NAMES, ...suggestions];
  return column === "icon" ? [NO_ICON, ...ICONS] : suggestions;
};

/** Columns in which nothing is taken but by its whole name, or chosen: two of a kind are two different stands. */
export const isPicked = (column: CellColumn): boolean => column === "microphone";

/** How a text that is not among those offered is offered itself. */
export const asNew =
  (column: CellColumn) =>
  (text: string): string =>
    column === "folder"
      ? `New folder “${text}”`
      : column === "microphone"
        ? `“${text}”, not on the shelf`
        : `“${text}” as typed`;

const Option = ({
  column,
  value,
  usedUp = false,
}: {
  readonly column: CellColumn;
  readonly value: string;
  readonly usedUp?: boolean;
}) => {
  const icon = ICONS.find((candidate) => candidate === value);
  return (
    <span className={classes.option}>
      {column === "colour" && isColour(value) && (
        <span className={classes.swatch} data-own style={{ ["--own" as never]: dyeVar(value) }} />
      )}
      {column === "icon" && icon && <TrackIcon icon={icon} />}
      {icon && column === "icon" ? ICON_NAMES[icon] : value}
      {usedUp && <span className={classes.usedUp}>in use</span>}
    </span>
  );
};

/** The option that Enter would take; null when none is marked. */
const markedOption = (input: HTMLElement): HTMLElement | null =>
  document
    .getElementById(input.getAttribute("aria-controls") ?? "")
    ?.querySelector<HTMLElement>("[data-combobox-selected]") ?? null;

const UNTAKEN: Partial<Readonly<Record<CellColumn, string>>> = {
  folder: "there is no such folder. Choose one that is offered, or New folder at the end of the list.",
  output:
    "there is no bus and no output of that name. Choose one that is offered; a new bus is made in the signal flow.",
  microphone:
    "it is not on the shelf. Choose one that is offered, or the last line of the list to take it all the same.",
};
/** Columns in which only what is there can be named. */
const NAMED: readonly CellColumn[] = ["output", "sends", "chain"];
const ARROWS = ["ArrowDown", "ArrowUp"];

/** Where the cursor goes when something is chosen by a key. */
const leaveBy = (event: KeyboardEvent, choice: boolean): Leave => {
  if (event.key === "Tab") return event.shiftKey ? "left" : "right";
  if (event.ctrlKey || event.metaKey) return "everywhere";
  return choice ? "stay" : "down";
};

/** Why what was typed is not kept, where a thing would have to be made for it. */
export const untaken = (column: CellColumn): string | null => UNTAKEN[column] ?? null;

/**
 * A text field with a list under it. What is marked in the list is taken whole by Enter and Tab; the text as it stands,
 * where it is not known, is the last in the list.
 */
const SuggestingEditor = (props: CellEditorProps) => {
  const { column, initial, fresh, label, usedUp } = props;
  const [text, setText] = useState(initial);
  const { error, setError, commit, onKeyDown, onBlur, leave } = useCommit(props, text);
  const how = useRef<Leave>("down");
  /** The list was gone through by the arrows: then what is marked is meant, also while nothing is typed. */
  const steered = useRef(false);
  const choice = isChoice(column);
  // The field learns the id of its list only when it is drawn again after the list.
  const [, drawAgain] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => drawAgain(true));
    return () => clearTimeout(timer);
  }, []);
  const offered = offer({
    text,
    untouched: text === initial && !fresh,
    known: optionsOf(props),
    ...(choice || NAMED.includes(column) ? {} : { asNew: asNew(column) }),
  });
  const taken = (value: string) => (value === AS_FOLDER || value === NO_ICON ? "" : offered.meant(value));
  const unchosen = choice
    ? "choose one that is offered."
    : text !== initial && text.trim() && !offered.exact
      ? untaken(column)
      : null;
  const picked = isPicked(column);
  const press = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (ARROWS.includes(event.key)) steered.current = true;
    const marked = text.trim() || choice || steered.current ? markedOption(event.currentTarget) : null;
    how.current = leaveBy(event, choice);
    if (event.key === "Enter" && marked) event.stopPropagation();
    else if (event.key === "Tab" && marked) {
      event.preventDefault();
      event.stopPropagation();
      marked.click();
    } else if (picked && unchosen && ["Enter", "Tab"].includes(event.key)) {
      // What only begins like something on the shelf is not taken for it.
      event.preventDefault();
      event.stopPropagation();
      setError(`“${text.trim()}”: ${unchosen}`);
    } else onKeyDown(event, picked ? (offered.exact ?? text) : text);
  };
  const blur = (event: FocusEvent): void =>
    unchosen ? leave(event, text, unchosen) : onBlur(event, offered.exact ?? text);
  return (
    <>
      <Autocomplete
        {...dropDown(220)}
        classNames={{
          input: classes.editor ?? "",
          root: choice ? (classes.choiceRoot ?? "") : (classes.editorRoot ?? ""),
          wrapper: classes.editorRoot ?? "",
        }}
        role="combobox"
        aria-label={label}
        data={[...offered.data]}
        value={text}
        maxLength={200}
        filter={({ options }) => options}
        renderOption={({ option }) => (
          <Option column={column} value={option.value} usedUp={usedUp?.has(option.value) ?? false} />
        )}
        selectFirstOptionOnChange={!picked}
        autoFocus
        defaultDropdownOpened
        onChange={(value) => {
          steered.current = false;
          setError(null);
          setText(value);
        }}
        onOptionSubmit={(value) => commit(taken(value), how.current)}
        onFocus={(event) => !fresh && event.target.select()}
        onKeyDown={press}
        onBlur={blur}
      />
      <ErrorTip message={error} above />
    </>
  );
};

/** The editor in a cell: a text field, or one with a list of what is usual. */
export const CellEditor = (props: CellEditorProps) =>
  isChoice(props.column) || props.suggestions.length ? <SuggestingEditor {...props} /> : <TextEditor {...props} />;
