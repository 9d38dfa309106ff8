import { Autocomplete, SegmentedControl, Stack, TextInput } from "@mantine/core";
import { modals } from "@mantine/modals";
import { type ReactNode, useState } from "react";
import type { ChannelId } from "@/core/model/ids";
import type { Tap } from "@/core/model/tables/sends";
import type { CueNeighbour } from "@/core/planning/join-cues";
import { offer } from "../shared/offered";
import { CuesField } from "./cues-field";
import { type AskFirst, FirstForm, Footer, submitting } from "./dialog-parts";

/** A dialog over the picture; the keys go back to where they were. */
const open = (title: string, children: ReactNode): void => void modals.open({ title, children });

interface NameFieldProps {
  readonly label: string;
  readonly text: string;
  readonly known: readonly string[];
  readonly asNew?: (text: string) => string;
  readonly onText: (text: string) => void;
}

/** A name, with what there is offered; what is not there is said to be new. */
const NameField = ({ label, text, known, asNew, onText }: NameFieldProps) => {
  const offered = offer({ text, untouched: !text, known, ...(asNew ? { asNew } : {}) });
  return (
    <Autocomplete
      label={label}
      value={text}
      data={[...offered.data]}
      filter={({ options }) => options}
      selectFirstOptionOnChange={false}
      maxLength={200}
      data-autofocus
      maxDropdownHeight={220}
      // Above the field: below it are the buttons, and they stay in sight.
      comboboxProps={{ position: "top-start" }}
      onChange={(value) => onText(offered.meant(value))}
    />
  );
};

/** Whether a name would be that of something new: the button says so before it is done. */
const isNew = (name: string, known: readonly string[]): boolean =>
  name.trim() !== "" && offer({ text: name, untouched: false, known }).exact === null;

interface AskRoute {
  readonly who: string;
  readonly known: readonly string[];
  /** Everything there is, also what would make a loop: it is no new name. */
  readonly there: readonly string[];
  /** A name that is not there makes a bus. */
  readonly makes?: boolean;
  /** Answers whether it was done; the dialog stays open when not. */
  readonly onDo: (name: string) => boolean;
}

const newBus = (text: string): string => `New bus “${text}”`;

const RouteForm = ({ who, known, there, makes = true, onDo }: AskRoute) => {
  const [name, setName] = useState("");
  return (
    <form onSubmit={submitting(() => onDo(name))}>
      <NameField
        label={`Where ${who} should go`}
        text={name}
        known={known}
        {...(makes ? { asNew: newBus } : {})}
        onText={setName}
      />
      <Footer does={makes && isNew(name, there) ? `Make the bus “${name.trim()}” and route ${who}` : `Route ${who}`} />
    </form>
  );
};

export const askRoute = (ask: AskRoute): void => open(`Route ${ask.who}`, <RouteForm {...ask} />);

interface Sent {
  readonly name: string;
  readonly levelText: string;
  readonly tap: Tap;
  /** A return that is made comes into the cues as a neighbour is. */
  readonly likeId: ChannelId | null;
}

interface AskSend {
  readonly who: string;
  /** Whose levels in the cues a new return would take. */
  readonly like: CueNeighbour | null;
  readonly known: readonly string[];
  readonly onDo: (sent: Sent) => boolean;
}

const newReturn = (text: string): string => `New return “${text}”`;

const SendForm = ({ who, like, known, onDo }: AskSend) => {
  const [name, setName] = useState("");
  const [levelText, setLevel] = useState("−12");
  const [tap, setTap] = useState<Tap>("after");
  const [joins, setJoins] = useState(true);
  const made = isNew(name, known);
  return (
    <form
      onSubmit={submitting(() => onDo({ name, levelText, tap, likeId: made && joins ? (like?.id ?? null) : null }))}
    >
      <Stack gap="sm">
        <NameField
          label={`Where ${who} should be sent to`}
          text={name}
          known={known}
          asNew={newReturn}
          onText={setName}
        />
        <TextInput
          label="Level in dB"
          value={levelText}
          maxLength={20}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setLevel(event.currentTarget.value)}
        />
        <SegmentedControl
          aria-label="Where it is tapped"
          value={tap}
          onChange={(value) => setTap(value as Tap)}
          data={[
            { value: "after", label: "after the fader" },
            { value: "before", label: "before the fader" },
          ]}
        />
        <CuesField like={made ? like : null} joins={joins} onJoins={setJoins} />
      </Stack>
      <Footer does={made ? `Make the return “${name.trim()}” and send ${who}` : `Send ${who}`} />
    </form>
  );
};

export const askSend = (ask: AskSend): void => open(`Send ${ask.who}`, <SendForm {...ask} />);

export type Made = "bus" | "return" | "reference";

interface AskAdd {
  /** What it would be fed by. */
  readonly who: string | null;
  /** Whose levels in the cues a new return would take. */
  readonly like: CueNeighbour | null;
  readonly onDo: (kind: Made, name: string, likeId: ChannelId | null) => boolean;
}

const AddForm = ({ who, like, onDo }: AskAdd) => {
  const [joins, setJoins] = useState(true);
  const [kind, setKind] = useState<Made>("bus");
  const [name, setName] = useState("");
  return (
    <form onSubmit={submitting(() => onDo(kind, name, kind === "return" && joins ? (like?.id ?? null) : null))}>
      <Stack gap="sm">
        <SegmentedControl
          orientation="vertical"
          aria-label="What is added"
          value={kind}
          onChange={(value) => setKind(value as Made)}
          data={[
            { value: "bus", label: "Bus: sums what is routed to it" },
            { value: "return", label: "Return: takes what is sent" },
            { value: "reference", label: "Reference: a file to listen to" },
          ]}
        />
        <TextInput
          label="Name"
          description={kind === "bus" && who ? `${who} will be routed to it.` : undefined}
          value={name}
          maxLength={200}
          data-autofocus
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <CuesField like={kind === "return" ? like : null} joins={joins} onJoins={setJoins} />
      </Stack>
      <Footer does={`Add the ${kind}`} />
    </form>
  );
};

export const askAdd = (ask: AskAdd): void => open("Add a bus, a return or a reference", <AddForm {...ask} />);

interface AskNewFamily {
  readonly like: CueNeighbour | null;
  readonly onDo: (name: string, countText: string, likeId: ChannelId | null) => boolean;
}

const FamilyForm = ({ like, onDo }: AskNewFamily) => {
  const [joins, setJoins] = useState(true);
  const [name, setName] = useState("");
  const [countText, setCount] = useState("4");
  return (
    <form onSubmit={submitting(() => onDo(name, countText, joins ? (like?.id ?? null) : null))}>
      <Stack gap="sm">
        <TextInput
          label="Name of the family"
          description="Its folder and its bus are called so, and its tracks are numbered."
          value={name}
          maxLength={200}
          data-autofocus
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <TextInput
          label="How many tracks"
          value={countText}
          maxLength={4}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setCount(event.currentTarget.value)}
        />
        <CuesField like={like} joins={joins} onJoins={setJoins} />
      </Stack>
      <Footer does="Add the family" />
    </form>
  );
};

export const askNewFamily = (ask: AskNewFamily): void => open("Add a family", <FamilyForm {...ask} />);

/** Says how far an act reaches before it is done. */
export const askFirst = ({ title, ...ask }: AskFirst): void => open(title, <FirstForm {...ask} />);
