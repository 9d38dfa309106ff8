"use client";

import { Group, Radio, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { type FormEvent, useState } from "react";
import { FAMILIES, FAMILY_DEFAULTS, type Family } from "@/core/model/families";
import type { FamilyStyles } from "@/core/model/studio";
import type { DuplicateInput } from "@/core/planning/duplicate";
import { focusGrid } from "../grid/grid-focus";
import { Chooser } from "../shared/chooser";
import { openModal } from "../shared/open-modal";
import { TrackIcon } from "../shared/track-icon";
import { dyeVar } from "../theme/tokens";
import classes from "./act-dialogs.module.css";
import { type AskFirst, FirstForm, Footer, submitting } from "./dialog-parts";

/** A dialog of the input list. The grid has the keys as soon as it closes, and nothing takes them from it again. */
export const openDialog = (title: string, children: React.ReactNode): void =>
  openModal({ title, children, onClose: focusGrid, returnFocus: false });

/** Says how far an act reaches before it is done. */
export const askFirst = ({ title, ...ask }: AskFirst): void => openDialog(title, <FirstForm {...ask} />);

interface Ask {
  readonly title: string;
  readonly label: string;
  readonly description?: string;
  readonly initial?: string;
  readonly does: string;
  /** What would come of the text, shown while one types. */
  readonly preview?: (text: string) => string;
  /** Answers whether it was done; the dialog stays open when not. */
  readonly onSubmit: (text: string) => boolean;
}

const TextForm = ({ label, description, initial = "", does, preview, onSubmit }: Ask) => {
  const [text, setText] = useState(initial);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (onSubmit(text)) modals.closeAll();
  };
  return (
    <form onSubmit={submit}>
      <TextInput
        label={label}
        description={description}
        value={text}
        maxLength={200}
        data-autofocus
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      {preview && <output className={classes.preview}>{preview(text)}</output>}
      <Footer does={does} />
    </form>
  );
};

/** Asks for one text. */
export const askText = (ask: Ask): void => openDialog(ask.title, <TextForm {...ask} />);

const DuplicateForm = ({ onSubmit }: { readonly onSubmit: (input: DuplicateInput) => boolean }) => {
  const [input, setInput] = useState<DuplicateInput>("by-turns");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (onSubmit(input)) modals.closeAll();
      }}
    >
      <Radio.Group label="What the copy records" value={input} onChange={(value) => setInput(value as DuplicateInput)}>
        <Stack gap="xs" mt="xs">
          <Radio
            value="by-turns"
            label="The same line, by turns"
            description="One microphone, one part after the other"
            data-autofocus
          />
          <Radio
            value="next-free"
            label="The next free input that suits it"
            description="With a microphone of the same kind"
          />
          <Radio value="none" label="Nothing yet" description="The copy has a line of its own, on no input" />
        </Stack>
      </Radio.Group>
      <Footer does="Duplicate" />
    </form>
  );
};

export const askDuplicate = (title: string, onSubmit: (input: DuplicateInput) => boolean): void =>
  openDialog(title, <DuplicateForm onSubmit={onSubmit} />);

export interface NumbersAnswer {
  readonly how: "set" | "shift";
  readonly text: string;
}

const NumbersForm = ({ onSubmit }: { readonly onSubmit: (answer: NumbersAnswer) => boolean }) => {
  const [how, setHow] = useState<"set" | "shift">("set");
  const [text, setText] = useState("");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (onSubmit({ how, text })) modals.closeAll();
      }}
    >
      <Radio.Group label="How" value={how} onChange={(value) => setHow(value as "set" | "shift")}>
        <Group mt={4}>
          <Radio value="set" label="Set all to" />
          <Radio value="shift" label="Shift each by" />
        </Group>
      </Radio.Group>
      <TextInput
        mt="sm"
        label="Gain in dB"
        placeholder={how === "set" ? "32" : "−3"}
        value={text}
        data-autofocus
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Footer does={how === "set" ? "Set the gain" : "Shift the gain"} />
    </form>
  );
};

export const askNumbers = (title: string, onSubmit: (answer: NumbersAnswer) => boolean): void =>
  openDialog(title, <NumbersForm onSubmit={onSubmit} />);

const FamilyForm = ({
  styles,
  does,
  onChoose,
}: {
  readonly styles: FamilyStyles;
  readonly does: string;
  readonly onChoose: (family: Family) => boolean;
}) => {
  const [value, setValue] = useState<string | null>(null);
  return (
    <form onSubmit={submitting(() => value !== null && onChoose(value as Family))}>
      <Chooser
        first
        label="Family"
        options={FAMILIES.map((family) => ({ value: family, label: FAMILY_DEFAULTS[family].name }))}
        value={value}
        needed="Choose a family."
        render={({ value: family, label }) => (
          <span className={classes.family}>
            <span className={classes.swatch} style={{ background: dyeVar(styles[family as Family].colour) }} />
            <TrackIcon icon={styles[family as Family].icon} />
            {label}
          </span>
        )}
        onChange={setValue}
      />
      <Footer does={does} />
    </form>
  );
};

export const askFamily = (title: string, styles: FamilyStyles, onChoose: (family: Family) => boolean): void =>
  openDialog(title, <FamilyForm styles={styles} does="Set the family" onChoose={onChoose} />);
