"use client";

import { Combobox, Pill, PillsInput, TextInput, useCombobox } from "@mantine/core";
import { IconCheck, IconChevronDown } from "@tabler/icons-react";
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { seekApart } from "@/core/reading/sought";
import classes from "./chooser.module.css";

export interface Choice {
  readonly value: string;
  readonly label: string;
  /** Said behind it in the list. */
  readonly note?: string;
  /** What else it is looked for by. */
  readonly words?: readonly string[];
}

/** How many are listed at once; the others are found by typing, and counted. */
const MOST_LISTED = 60;
const NEW = "new ";
const NO_MATCH = "No match";

/** What a list offers for what is typed, with what is new as such behind it. */
const offered = (typed: string, options: readonly Choice[], asNew?: (text: string) => string | null) => {
  const text = typed.trim();
  const { named, also } = seekApart(text, options);
  const known = options.some(({ label }) => label.trim().toLowerCase() === text.toLowerCase());
  const label = text && !known ? (asNew?.(text) ?? null) : null;
  const fresh: readonly Choice[] = label === null ? [] : [{ value: NEW + text, label }];
  // What is new stands before what only has another word for it: whoever types a name means that name.
  return {
    listed: [...named.slice(0, MOST_LISTED), ...fresh, ...also.slice(0, MOST_LISTED)],
    more: Math.max(0, named.length - MOST_LISTED),
  };
};

/** Why what was typed is nothing yet. */
const unchosen = (typed: string, { listed }: ReturnType<typeof offered>): string =>
  listed.length
    ? `“${typed.trim()}” is not chosen yet: take one from the list.`
    : `${NO_MATCH} for “${typed.trim()}”: type a part of a name that is there.`;

const exactly = (text: string, options: readonly Choice[]): Choice | undefined =>
  options.find(({ label }) => label.trim().toLowerCase() === text.trim().toLowerCase());

interface ListProps {
  readonly label: string;
  readonly offer: ReturnType<typeof offered>;
  readonly chosen: readonly string[];
  readonly render?: ((choice: Choice) => ReactNode) | undefined;
}

const List = ({ label, offer: { listed, more }, chosen, render }: ListProps) => (
  <Combobox.Options className={classes.list} aria-label={label}>
    {listed.length ? null : <Combobox.Empty>{NO_MATCH}</Combobox.Empty>}
    {listed.map((choice) => (
      <Combobox.Option
        key={choice.value}
        value={choice.value}
        active={chosen.includes(choice.value)}
        className={classes.option ?? ""}
      >
        {render?.(choice) ?? <span>{choice.label}</span>}
        {choice.note && <span className={classes.note}>{choice.note}</span>}
        {chosen.includes(choice.value) && <IconCheck size={14} aria-hidden className={classes.check} />}
      </Combobox.Option>
    ))}
    {more > 0 && <Combobox.Footer>{more} more: type a part of the name.</Combobox.Footer>}
  </Combobox.Options>
);

/**
 * What a field of choice does by keys, with one list under it. Enter takes what is marked and only that; with nothing
 * typed and nothing marked it is left to the form. What matches nothing does nothing but say so.
 */
const useList = (listed: readonly Choice[], typed: string) => {
  const combobox = useCombobox({ onDropdownClose: () => combobox.resetSelectedOption() });
  /** The list was gone through by the arrows. */
  const steered = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is offered follows what is typed
  useEffect(() => {
    if (!combobox.dropdownOpened || !typed.trim()) return;
    if (listed.length) combobox.selectFirstOption();
    else combobox.resetSelectedOption();
  }, [typed, listed.length, combobox.dropdownOpened]);
  const press = (event: KeyboardEvent<HTMLInputElement>, settled: boolean, onNoMatch: () => void): void => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") steered.current = true;
    if (event.key === "Escape" && combobox.dropdownOpened) event.stopPropagation();
    if (event.key !== "Enter" || event.nativeEvent.isComposing) return;
    const marked = combobox.dropdownOpened && combobox.getSelectedOptionIndex() !== -1;
    if (marked && (typed.trim() || steered.current)) return;
    if (!settled) {
      event.preventDefault();
      onNoMatch();
    } else if (marked) combobox.closeDropdown();
  };
  const typing = (): void => {
    steered.current = false;
    combobox.openDropdown();
  };
  return { combobox, press, typing };
};

const popup = {
  position: "bottom-start",
  // In the dialog itself, where screen readers look for it, and over its edges.
  withinPortal: false,
  floatingStrategy: "fixed",
  keepMounted: false,
  middlewares: { flip: false, shift: true },
  transitionProps: { duration: 0 },
} as const;

interface FieldProps {
  readonly label: string;
  readonly description?: ReactNode;
  readonly placeholder?: string;
  /** The first field of a dialog. */
  readonly first?: boolean;
  readonly render?: (choice: Choice) => ReactNode;
}

interface ChooserProps extends FieldProps {
  readonly options: readonly Choice[];
  /** Null: nothing is chosen. */
  readonly value: string | null;
  readonly onChange: (value: string | null) => void;
  /** How a text that is not among them is offered, as "New bus “Horns”"; null where it can't be meant. What is then chosen is `newIn(value)`. */
  readonly asNew?: (text: string) => string | null;
  /** What to say where nothing is chosen. Absent: nothing may be chosen. */
  readonly needed?: string;
}

/** The text that was chosen as new; null where one of those that are there was. */
export const newIn = (value: string | null): string | null => (value?.startsWith(NEW) ? value.slice(NEW.length) : null);

const textOf = (value: string | null, options: readonly Choice[]): string =>
  newIn(value) ?? options.find((option) => option.value === value)?.label ?? "";

/** What a text means where the field is left: what is called so, or what is new and like nothing else. */
const meantBy = (text: string, options: readonly Choice[], listed: readonly Choice[]): Choice | undefined => {
  const [only, ...others] = listed;
  return exactly(text, options) ?? (only && !others.length && newIn(only.value) !== null ? only : undefined);
};

/** Keeps a form from being sent while what stands in a field is none of what can be meant; says so in our words. */
const useRefusing = (why: string | null) => {
  const field = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<string | null>(null);
  useEffect(() => {
    field.current?.setCustomValidity(why ?? "");
    if (!why) setTold(null);
  }, [why]);
  return { field, told, tell: () => setTold(why) };
};

/** One of several, by typing a part of it or another word for it. */
export const Chooser = ({
  label,
  description,
  placeholder,
  first = false,
  render,
  options,
  value,
  onChange,
  asNew,
  needed,
}: ChooserProps) => {
  const [text, setText] = useState(() => textOf(value, options));
  const [touched, setTouched] = useState(false);
  const was = useRef(value);
  // Chosen from without.
  useEffect(() => {
    if (was.current !== value && value !== null) {
      setText(textOf(value, options));
      setTouched(false);
    }
    was.current = value;
  }, [value, options]);
  const offer = offered(touched ? text : "", options, asNew);
  const { combobox, press, typing } = useList(offer.listed, touched ? text : "");
  const why = value !== null ? null : text.trim() ? unchosen(text, offer) : (needed ?? null);
  const { field, told, tell } = useRefusing(why);
  const choose = (next: string): void => {
    was.current = next;
    onChange(next);
    setText(textOf(next, options));
    setTouched(false);
    combobox.closeDropdown();
  };
  const leave = (): void => {
    combobox.closeDropdown();
    if (value !== null || !touched) return;
    const meant = meantBy(text, options, offer.listed);
    if (meant) choose(meant.value);
  };
  return (
    <Combobox store={combobox} onOptionSubmit={choose} {...popup}>
      <Combobox.Target withExpandedAttribute>
        <TextInput
          ref={field}
          label={label}
          description={description}
          placeholder={placeholder ?? ""}
          value={text}
          maxLength={200}
          error={told}
          autoComplete="off"
          rightSection={<IconChevronDown size={16} aria-hidden color="var(--soft)" />}
          rightSectionPointerEvents="none"
          {...(first ? { "data-autofocus": true } : {})}
          onInvalid={(event) => {
            event.preventDefault();
            tell();
          }}
          onFocus={(event) => event.target.select()}
          onClick={() => combobox.openDropdown()}
          onBlur={leave}
          onKeyDown={(event) => press(event, why === null, tell)}
          onChange={(event) => {
            const now = event.currentTarget.value;
            setText(now);
            setTouched(true);
            typing();
            const meant = exactly(now, options)?.value ?? null;
            was.current = meant;
            onChange(meant);
          }}
        />
      </Combobox.Target>
      <Combobox.Dropdown>
        <List label={label} offer={offer} chosen={value === null ? [] : [value]} render={render} />
      </Combobox.Dropdown>
    </Combobox>
  );
};

interface ManyChooserProps extends FieldProps {
  readonly options: readonly Choice[];
  readonly value: readonly string[];
  readonly onChange: (value: readonly string[]) => void;
  /** Answers what a text that is not there is offered as; what is then chosen is the text itself. */
  readonly asNew?: (text: string) => string;
  readonly most?: number;
  readonly needed?: string;
}

/** Several, each taken by Enter; Backspace in the empty field takes the last away. */
export const ManyChooser = ({
  label,
  description,
  placeholder,
  first = false,
  render,
  options,
  value,
  onChange,
  asNew,
  most,
  needed,
}: ManyChooserProps) => {
  const [text, setText] = useState("");
  const offer = offered(
    text,
    options.filter((option) => !value.includes(option.value)),
    asNew,
  );
  const { combobox, press, typing } = useList(offer.listed, text);
  const why = text.trim() ? unchosen(text, offer) : value.length ? null : (needed ?? null);
  const { field, told, tell } = useRefusing(why);
  const add = (next: string): void => {
    if (most === undefined || value.length < most) onChange([...value, newIn(next) ?? next]);
    setText("");
    combobox.closeDropdown();
  };
  const drop = (gone: string): void => onChange(value.filter((one) => one !== gone));
  return (
    <Combobox store={combobox} onOptionSubmit={add} {...popup}>
      <Combobox.DropdownTarget>
        <PillsInput label={label} description={description} error={told}>
          <Pill.Group>
            {value.map((one) => (
              <Pill
                key={one}
                withRemoveButton
                removeButtonProps={{ "aria-label": `Take ${textOf(one, options) || one} out`, tabIndex: -1 }}
                onRemove={() => drop(one)}
              >
                {textOf(one, options) || one}
              </Pill>
            ))}
            <Combobox.EventsTarget withExpandedAttribute>
              <PillsInput.Field
                ref={field}
                value={text}
                maxLength={200}
                placeholder={value.length ? "" : (placeholder ?? "")}
                autoComplete="off"
                {...(first ? { "data-autofocus": true } : {})}
                onInvalid={(event) => {
                  event.preventDefault();
                  tell();
                }}
                onClick={() => combobox.openDropdown()}
                onBlur={() => {
                  combobox.closeDropdown();
                  const meant = text.trim() ? meantBy(text, options, offer.listed) : undefined;
                  if (meant && !value.includes(meant.value)) add(meant.value);
                }}
                onKeyDown={(event) => {
                  const last = value.at(-1);
                  if (event.key === "Backspace" && !text && last !== undefined) {
                    event.preventDefault();
                    drop(last);
                  } else press(event, why === null, tell);
                }}
                onChange={(event) => {
                  setText(event.currentTarget.value);
                  typing();
                }}
              />
            </Combobox.EventsTarget>
          </Pill.Group>
        </PillsInput>
      </Combobox.DropdownTarget>
      <Combobox.Dropdown>
        <List label={label} offer={offer} chosen={[]} render={render} />
      </Combobox.Dropdown>
    </Combobox>
  );
};

interface ChosenProps extends Omit<ChooserProps, "value" | "onChange" | "asNew"> {
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** One of several of which one is always chosen: what is typed and taken changes it, what is not leaves it. */
export const Chosen = ({ value, onChange, ...props }: ChosenProps) => {
  const [now, setNow] = useState<string | null>(value);
  useEffect(() => setNow(value), [value]);
  return (
    <Chooser
      {...props}
      value={now}
      needed={props.needed ?? "Choose one of the list."}
      onChange={(next) => {
        setNow(next);
        if (next !== null) onChange(next);
      }}
    />
  );
};
