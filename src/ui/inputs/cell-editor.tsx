"use client";

import { Autocomplete } from "@mantine/core";
import { type FocusEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";
import { DYE_NAMES, isDye } from "@/core/model/dyes";
import { ICONS } from "@/core/model/families";
import type { CellColumn } from "@/core/planning/cells";
import { dropDown } from "../shared/combobox";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
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
  /** Answers why the text can't be taken; null when it was. */
  readonly onCommit: (text: string, leave: Leave) => string | null;
  readonly onCancel: (leave?: "away") => void;
}

/** Whether a click has given the keys to another field or button. */
const takenBy = (event: FocusEvent): "away" | undefined => (event.relatedTarget ? "away" : undefined);

const useCommit = ({ onCommit, onCancel }: Pick<CellEditorProps, "onCommit" | "onCancel">) => {
  const [error, setError] = useState<string | null>(null);
  const done = useRef(false);
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
  /** Leaving by the mouse keeps what was typed; what can't be taken is dropped. */
  const onBlur = (event: FocusEvent, text: string): void => {
    if (done.current) return;
    done.current = true;
    if (onCommit(text, takenBy(event) ?? "stay")) onCancel(takenBy(event));
  };
  return { error, commit, onKeyDown, onBlur };
};

const ErrorTip = ({ message }: { readonly message: string | null }) =>
  message ? (
    <div role="alert" className={classes.error}>
      {message}
    </div>
  ) : null;

const TextEditor = (props: CellEditorProps) => {
  const [text, setText] = useState(props.initial);
  const { error, onKeyDown, onBlur } = useCommit(props);
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

const isChoice = (column: CellColumn): boolean => column === "dye" || column === "icon";

/** What a cell can be set to; the first of a choice sets it to nothing of its own. */
const optionsOf = ({ column, suggestions }: CellEditorProps): readonly string[] => {
  if (column === "dye") return [AS_FOLDER, ...DYE_NAMES, ...suggestions];
  return column === "icon" ? [NO_ICON, ...ICONS] : [...new Set(suggestions)];
};

const Option = ({ column, value }: { readonly column: CellColumn; readonly value: string }) => {
  const icon = ICONS.find((candidate) => candidate === value);
  return (
    <span className={classes.option}>
      {column === "dye" && isDye(value) && <span className={classes.swatch} data-own style={{ ["--own" as never]: dyeVar(value) }} />}
      {column === "icon" && icon && <TrackIcon icon={icon} />}
      {icon && column === "icon" ? ICON_NAMES[icon] : value}
    </span>
  );
};

/** The option that Enter would take; null when none is marked. */
const markedOption = (input: HTMLElement): HTMLElement | null =>
  document.getElementById(input.getAttribute("aria-controls") ?? "")?.querySelector<HTMLElement>("[data-combobox-selected]") ?? null;

/** A text field with a list under it. What is marked in the list is taken by Enter, what is typed otherwise. */
const SuggestingEditor = (props: CellEditorProps) => {
  const [text, setText] = useState(props.initial);
  const { error, commit, onKeyDown, onBlur } = useCommit(props);
  const choice = isChoice(props.column);
  // The field learns the id of its list only when it is drawn again after the list.
  const [, drawAgain] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => drawAgain(true));
    return () => clearTimeout(timer);
  }, []);
  const taken = (value: string) => (value === AS_FOLDER || value === NO_ICON ? "" : value);
  const press = (event: KeyboardEvent<HTMLInputElement>): void => {
    const marked = markedOption(event.currentTarget);
    if (event.key === "Enter" && marked) event.stopPropagation();
    else if (event.key === "Tab" && marked && choice) {
      event.preventDefault();
      marked.click();
    } else onKeyDown(event, text);
  };
  return (
    <>
      <Autocomplete
        {...dropDown(220)}
        classNames={{ input: classes.editor ?? "", root: choice ? (classes.choiceRoot ?? "") : (classes.editorRoot ?? ""), wrapper: classes.editorRoot ?? "" }}
        role="combobox"
        aria-label={props.label}
        data={[...optionsOf(props)]}
        value={text}
        maxLength={200}
        limit={40}
        // Nothing typed yet: everything is offered, not only what the cell already says.
        filter={(input) =>
          input.search === props.initial && !props.fresh
            ? input.options
            : input.options.filter((option) => "label" in option && option.label.toLowerCase().includes(input.search.toLowerCase().trim()))
        }
        renderOption={({ option }) => <Option column={props.column} value={option.value} />}
        selectFirstOptionOnChange={choice}
        autoFocus
        defaultDropdownOpened
        onChange={setText}
        onOptionSubmit={(value) => commit(taken(value), choice ? "stay" : "down")}
        onFocus={(event) => !props.fresh && event.target.select()}
        onKeyDown={press}
        onBlur={(event) => (choice ? props.onCancel(takenBy(event)) : onBlur(event, text))}
      />
      <ErrorTip message={error} />
    </>
  );
};

/** The editor in a cell: a text field, or one with a list of what is usual. */
export const CellEditor = (props: CellEditorProps) => (isChoice(props.column) || props.suggestions.length ? <SuggestingEditor {...props} /> : <TextEditor {...props} />);
