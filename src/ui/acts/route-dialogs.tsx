import { SegmentedControl, Stack, TextInput } from "@mantine/core";
import { type ReactNode, useState } from "react";
import type { ChannelId } from "@/core/model/ids";
import type { Tap } from "@/core/model/tables/sends";
import type { CueNeighbour } from "@/core/planning/join-cues";
import { type Choice, Chooser, newIn } from "../shared/chooser";
import { openModal } from "../shared/open-modal";
import { CuesField } from "./cues-field";
import { type AskFirst, FirstForm, Footer, submitting } from "./dialog-parts";

/** A dialog over the picture; the keys go back to where they were. */
const open = (title: string, children: ReactNode): void => openModal({ title, children });

const byName = (names: readonly string[]): readonly Choice[] =>
  [...new Set(names)].map((name) => ({ value: name, label: name }));

/** What was chosen, by its name, whether it is there or is to be made. */
const nameIn = (value: string | null): string => newIn(value) ?? value ?? "";

interface AskRoute {
  readonly who: string;
  readonly known: readonly string[];
  /** Everything there is, also what would make a loop: it is listed behind the others, and says why it can't be. */
  readonly there: readonly string[];
  /** A name that is not there makes a bus. */
  readonly makes?: boolean;
  /** Answers whether it was done; the dialog stays open when not. */
  readonly onDo: (name: string) => boolean;
}

const newBus = (text: string): string => `New bus “${text}”`;

const RouteForm = ({ who, known, there, makes = true, onDo }: AskRoute) => {
  const [value, setValue] = useState<string | null>(null);
  const fresh = newIn(value);
  return (
    <form onSubmit={submitting(() => value !== null && onDo(nameIn(value)))}>
      <Chooser
        first
        label={`Where ${who} should go`}
        options={[
          ...byName(known),
          ...byName(there.filter((name) => !known.includes(name))).map((one) => ({ ...one, note: "would go round" })),
        ]}
        value={value}
        needed="Choose where it should go."
        {...(makes ? { asNew: newBus } : {})}
        onChange={setValue}
      />
      <Footer does={fresh === null ? `Route ${who}` : `Make the bus “${fresh}” and route ${who}`} />
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
  const [value, setValue] = useState<string | null>(null);
  const [levelText, setLevel] = useState("−12");
  const [tap, setTap] = useState<Tap>("after");
  const [joins, setJoins] = useState(true);
  const made = newIn(value) !== null;
  const name = nameIn(value);
  return (
    <form
      onSubmit={submitting(() => onDo({ name, levelText, tap, likeId: made && joins ? (like?.id ?? null) : null }))}
    >
      <Stack gap="sm">
        <Chooser
          first
          label={`Where ${who} should be sent to`}
          options={byName(known)}
          value={value}
          needed="Choose where it should be sent to."
          asNew={newReturn}
          onChange={setValue}
        />
        <TextInput
          label="Level in dB"
          value={levelText}
          maxLength={20}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setLevel(event.currentTarget.value)}
        />
        <SegmentedControl
          aria-label="Before or after the fader"
          value={tap}
          onChange={(value) => setTap(value as Tap)}
          data={[
            { value: "after", label: "after the fader" },
            { value: "before", label: "before the fader" },
          ]}
        />
        <CuesField like={made ? like : null} joins={joins} onJoins={setJoins} />
      </Stack>
      <Footer does={made ? `Make the return “${name}” and send ${who}` : `Send ${who}`} />
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
