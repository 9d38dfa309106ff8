"use client";

import { Autocomplete, Select } from "@mantine/core";
import { type KeyboardEvent, useRef, useState } from "react";
import { DYE_NAMES } from "@/core/model/dyes";
import { ICONS } from "@/core/model/families";
import type { CellColumn } from "@/core/planning/cells";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
import { dyeVar } from "../theme/tokens";
import classes from "./grid.module.css";

/** Where the cursor goes after an edit. */
export type Leave = "down" | "right" | "left" | "stay";

interface CellEditorProps {
  readonly column: CellColumn;
  readonly label: string;
  readonly initial: string;
  /** Typed over: the edit began with a letter, so the old text is not selected but gone. */
  readonly fresh: boolean;
  readonly suggestions: readonly string[];
  /** Answers why the text can't be taken; null when it was. */
  readonly onCommit: (text: string, leave: Leave) => string | null;
  readonly onCancel: () => void;
}

const INHERIT = "as the folder";
const NO_ICON = "no icon";

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
    else if (event.key === "Enter" && !event.defaultPrevented) commit(text, "down");
    else if (event.key === "Tab") {
      event.preventDefault();
      commit(text, event.shiftKey ? "left" : "right");
    }
  };
  /** Leaving by the mouse keeps what was typed; what can't be taken is dropped. */
  const onBlur = (text: string): void => {
    if (done.current) return;
    done.current = true;
    if (onCommit(text, "stay")) onCancel();
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
        onBlur={() => onBlur(text)}
      />
      <ErrorTip message={error} />
    </>
  );
};

const SuggestingEditor = (props: CellEditorProps) => {
  const [text, setText] = useState(props.initial);
  const { error, commit, onKeyDown, onBlur } = useCommit(props);
  return (
    <>
      <Autocomplete
        classNames={{ input: classes.editor, root: classes.editorRoot, wrapper: classes.editorRoot }}
        aria-label={props.label}
        data={[...new Set(props.suggestions)]}
        value={text}
        maxLength={200}
        limit={40}
        maxDropdownHeight={260}
        // Nothing typed yet: everything is offered, not only what the cell already says.
        filter={(input) =>
          input.search === props.initial && !props.fresh
            ? input.options
            : input.options.filter((option) => "label" in option && option.label.toLowerCase().includes(input.search.toLowerCase().trim()))
        }
        autoFocus
        defaultDropdownOpened
        comboboxProps={{ width: 220, position: "bottom-start", transitionProps: { duration: 0 } }}
        onChange={setText}
        onOptionSubmit={(value) => commit(value, "down")}
        onFocus={(event) => !props.fresh && event.target.select()}
        onKeyDown={(event) => onKeyDown(event, text)}
        onBlur={() => onBlur(text)}
      />
      <ErrorTip message={error} />
    </>
  );
};

const optionsOf = (column: CellColumn) =>
  column === "dye"
    ? [{ value: INHERIT, label: INHERIT }, ...DYE_NAMES.map((dye) => ({ value: dye as string, label: dye as string }))]
    : [{ value: NO_ICON, label: NO_ICON }, ...ICONS.map((icon) => ({ value: icon as string, label: ICON_NAMES[icon] }))];

const ChoiceEditor = (props: CellEditorProps) => {
  const { commit, onKeyDown } = useCommit(props);
  const none = props.column === "dye" ? INHERIT : NO_ICON;
  return (
    <Select
      classNames={{ input: classes.editor, root: classes.choiceRoot }}
      aria-label={props.label}
      data={optionsOf(props.column)}
      defaultValue={props.fresh ? null : props.initial || none}
      defaultSearchValue={props.fresh ? props.initial : undefined}
      searchable
      selectFirstOptionOnChange
      autoFocus
      defaultDropdownOpened
      nothingFoundMessage="Nothing called so"
      maxDropdownHeight={300}
      comboboxProps={{ width: 190, position: "bottom-start", transitionProps: { duration: 0 } }}
      renderOption={({ option }) => (
        <span className={classes.option}>
          {props.column === "dye" && option.value !== INHERIT && <span className={classes.swatch} data-own style={{ ["--own" as never]: dyeVar(option.value) }} />}
          {props.column === "icon" && option.value !== NO_ICON && <TrackIcon icon={option.value as (typeof ICONS)[number]} />}
          {option.label}
        </span>
      )}
      onOptionSubmit={(value) => commit(value === none ? "" : value, "stay")}
      onKeyDown={(event) => (event.key === "Escape" || event.key === "Tab" ? onKeyDown(event, props.initial) : event.stopPropagation())}
      onBlur={props.onCancel}
    />
  );
};

/** The editor in a cell: a text field, one with suggestions, or a choice. */
export const CellEditor = (props: CellEditorProps) => {
  if (props.column === "dye" || props.column === "icon") return <ChoiceEditor {...props} />;
  return props.suggestions.length ? <SuggestingEditor {...props} /> : <TextEditor {...props} />;
};
