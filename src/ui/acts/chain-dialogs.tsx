import { Stack, TextInput } from "@mantine/core";
import { useState } from "react";
import { type Choice, Chooser, ManyChooser } from "../shared/chooser";
import { openModal } from "../shared/open-modal";
import classes from "./act-dialogs.module.css";
import { Footer, submitting } from "./dialog-parts";

interface AskChannels {
  readonly title: string;
  readonly label: string;
  readonly options: readonly Choice[];
  /** A few values asked for together with them. */
  readonly texts?: readonly { readonly label: string; readonly value: string; readonly description?: string }[];
  readonly does: string;
  /** What goes beyond the choice, said while it is made. */
  readonly says?: (chosen: readonly string[]) => string | null;
  readonly onDo: (chosen: readonly string[], texts: readonly string[]) => boolean;
}

const ChannelsForm = ({ label, options, texts: fields = [], does, says, onDo }: Omit<AskChannels, "title">) => {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [texts, setTexts] = useState(() => fields.map(({ value }) => value));
  const told = says?.(chosen);
  return (
    <form onSubmit={submitting(() => onDo(chosen, texts))}>
      <Stack gap="sm">
        <ManyChooser
          label={label}
          options={options}
          value={chosen}
          first
          needed="Choose one or more."
          onChange={setChosen}
        />
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
      {told && <p className={classes.says}>{told}</p>}
      <Footer does={does} />
    </form>
  );
};

/** Asks for one or more of several, and for a few values with them. */
export const askChannels = ({ title, ...ask }: AskChannels): void =>
  openModal({ title, children: <ChannelsForm {...ask} /> });

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
            <Chooser
              key={label}
              label={label}
              description={description}
              first={at === 0}
              options={options.map((one) => ({ value: one, label: one }))}
              value={texts[at] || null}
              needed="Choose one of the list."
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
export const askTexts = ({ title, ...ask }: AskText): void => openModal({ title, children: <TextForm {...ask} /> });

interface AskOne {
  readonly title: string;
  readonly label: string;
  readonly options: readonly Choice[];
  readonly does: string;
  readonly onDo: (value: string) => boolean;
}

const OneForm = ({ label, options, does, onDo }: Omit<AskOne, "title">) => {
  const [value, setValue] = useState<string | null>(options.length === 1 ? (options[0]?.value ?? null) : null);
  return (
    <form onSubmit={submitting(() => value !== null && onDo(value))}>
      <Chooser
        first
        label={label}
        options={options}
        value={value}
        needed="Choose one of the list."
        onChange={setValue}
      />
      <Footer does={does} />
    </form>
  );
};

/** Asks for one of several. */
export const askOne = ({ title, ...ask }: AskOne): void => openModal({ title, children: <OneForm {...ask} /> });
