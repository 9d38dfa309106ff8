import { MultiSelect, Select, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useRef, useState } from "react";
import classes from "./act-dialogs.module.css";
import { Footer, submitting } from "./dialog-parts";

interface Option {
  readonly value: string;
  readonly label: string;
}

interface AskChannels {
  readonly title: string;
  readonly label: string;
  readonly options: readonly Option[];
  readonly does: string;
  /** What goes beyond the choice, said while it is made. */
  readonly says?: (chosen: readonly string[]) => string | null;
  readonly onDo: (chosen: readonly string[]) => boolean;
}

const many = {
  searchable: true,
  nothingFoundMessage: "Nothing here is called so.",
  selectFirstOptionOnChange: true,
  openOnFocus: false,
  "data-autofocus": true,
  comboboxProps: { position: "top-start" as const },
  maxDropdownHeight: 220,
};

const ChannelsForm = ({ label, options, does, says, onDo }: Omit<AskChannels, "title">) => {
  const [chosen, setChosen] = useState<string[]>([]);
  const told = says?.(chosen);
  return (
    <form onSubmit={submitting(() => onDo(chosen))}>
      <MultiSelect label={label} data={[...options]} value={chosen} {...many} onChange={setChosen} />
      {told && <p className={classes.says}>{told}</p>}
      <Footer does={does} />
    </form>
  );
};

/** Asks for one or more of several. */
export const askChannels = ({ title, ...ask }: AskChannels): void =>
  void modals.open({ title, children: <ChannelsForm {...ask} /> });

interface AskText {
  readonly title: string;
  readonly fields: readonly {
    readonly label: string;
    readonly value?: string;
    readonly description?: string;
    readonly options?: readonly string[];
  }[];
  readonly does: string;
  readonly says?: (texts: readonly string[]) => string | null;
  readonly onDo: (texts: readonly string[]) => boolean;
}

const TextForm = ({ fields, does, says, onDo }: Omit<AskText, "title">) => {
  const [texts, setTexts] = useState(() => fields.map(({ value = "" }) => value));
  const told = says?.(texts);
  return (
    <form onSubmit={submitting(() => onDo(texts))}>
      <Stack gap="sm">
        {fields.map(({ label, description, options }, at) => {
          const put = (text: string): void => setTexts((now) => now.map((one, index) => (index === at ? text : one)));
          const common = {
            label,
            description,
            value: texts[at] ?? "",
            ...(at === 0 ? { "data-autofocus": true } : {}),
            onFocus: (event: React.FocusEvent<HTMLInputElement>) => event.target.select(),
          };
          return options ? (
            <Select
              key={label}
              {...common}
              data={[...options]}
              searchable
              allowDeselect={false}
              maxDropdownHeight={220}
              openOnFocus={false}
              onChange={(text) => put(text ?? "")}
            />
          ) : (
            <TextInput key={label} {...common} maxLength={200} onChange={(event) => put(event.currentTarget.value)} />
          );
        })}
      </Stack>
      {told && <p className={classes.says}>{told}</p>}
      <Footer does={does} />
    </form>
  );
};

/** Asks for one or more texts. */
export const askTexts = ({ title, ...ask }: AskText): void =>
  void modals.open({ title, children: <TextForm {...ask} /> });

interface AskChannelsAnd {
  readonly options: readonly Option[];
  readonly title: string;
  readonly label: string;
  readonly does: string;
  readonly texts: readonly { readonly label: string; readonly value: string; readonly description?: string }[];
  readonly onDo: (chosen: readonly string[], texts: readonly string[]) => boolean;
}

const ChannelsAndTextForm = ({ options, label, does, texts: fields, onDo }: Omit<AskChannelsAnd, "title">) => {
  const [chosen, setChosen] = useState<string[]>([]);
  const [texts, setTexts] = useState(() => fields.map(({ value }) => value));
  return (
    <form onSubmit={submitting(() => onDo(chosen, texts))}>
      <Stack gap="sm">
        <MultiSelect label={label} data={[...options]} value={chosen} {...many} onChange={setChosen} />
        {fields.map((field, at) => (
          <TextInput
            key={field.label}
            label={field.label}
            description={field.description}
            value={texts[at] ?? ""}
            maxLength={20}
            onFocus={(event) => event.target.select()}
            onChange={(event) => {
              const text = event.currentTarget.value;
              setTexts((now) => now.map((one, index) => (index === at ? text : one)));
            }}
          />
        ))}
      </Stack>
      <Footer does={does} />
    </form>
  );
};

/** Asks for channels together with a few values. */
export const askChannelsAnd = ({ title, ...ask }: AskChannelsAnd): void =>
  void modals.open({ title, children: <ChannelsAndTextForm {...ask} /> });

interface AskOne {
  readonly title: string;
  readonly label: string;
  readonly options: readonly Option[];
  readonly does: string;
  readonly onDo: (value: string) => boolean;
}

const OneForm = ({ label, options, does, onDo }: Omit<AskOne, "title">) => {
  const [value, setValue] = useState<string | null>(options[0]?.value ?? null);
  const field = useRef<HTMLInputElement>(null);
  /**
   * What stands in the field is what is meant: where it is not what is chosen, its first match is chosen, and nothing
   * is done yet.
   */
  const choose = (): boolean => {
    const typed = (field.current?.value ?? "").trim().toLowerCase();
    const chosen = options.find((option) => option.value === value);
    if (!typed || chosen?.label.trim().toLowerCase() === typed) return value !== null && onDo(value);
    const match = options.find(({ label: text }) => text.toLowerCase().includes(typed));
    if (match) setValue(match.value);
    return false;
  };
  return (
    <form onSubmit={submitting(choose)}>
      <Select
        ref={field}
        label={label}
        data={[...options]}
        value={value}
        searchable
        nothingFoundMessage="Nothing here is called so."
        selectFirstOptionOnChange
        openOnFocus={false}
        // What is typed takes the place of what is chosen.
        onFocus={(event) => event.target.select()}
        data-autofocus
        allowDeselect={false}
        comboboxProps={{ position: "top-start" }}
        onChange={setValue}
      />
      <Footer does={does} />
    </form>
  );
};

/** Asks for one of several. */
export const askOne = ({ title, ...ask }: AskOne): void => void modals.open({ title, children: <OneForm {...ask} /> });
