import { Stack, TextInput } from "@mantine/core";
import { useState } from "react";
import type { CueId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import { inOrder } from "@/core/model/table";
import type { Cue, Hearing, MixedIn } from "@/core/model/tables/cues";
import type { Person } from "@/core/model/tables/people";
import type { Template } from "@/core/model/template";
import { type AddCue, cueNameFor } from "@/core/planning/cue-plans";
import { cueOutputs, cueOutputText, freeCueOutput } from "@/core/queries/cue-outputs";
import { cuesOf, playersOf } from "@/core/queries/cues";
import classes from "../acts/act-dialogs.module.css";
import { Footer, submitting } from "../acts/dialog-parts";
import { Chooser, Chosen, ManyChooser } from "../shared/chooser";
import { openModal } from "../shared/open-modal";

type Asked = Required<Omit<AddCue, "ids" | "gear">>;

interface AskCue {
  readonly doc: Template;
  readonly rig: Rig;
  readonly studio: Studio;
  /** Null: a new one. */
  readonly cue: Cue | null;
  readonly onDo: (asked: Asked) => boolean;
}

const NONE = "none";

/** Those who play here, then everybody whom the studio knows, each once. */
const peopleFor = (doc: Template, studio: Studio, cue: Cue | null): string[] => [
  ...new Set([...playersOf(doc), ...(cue?.people ?? []), ...inOrder<Person>(studio.people).map(({ name }) => name)]),
];

const HEARING: readonly { readonly value: Hearing; readonly label: string }[] = [
  { value: "headphones", label: "on headphones" },
  { value: "loudspeaker", label: "from a loudspeaker in a room" },
  { value: "far", label: "at the far end of a line, without their own sound" },
];

interface AskedProps extends AskCue {
  readonly asked: Asked;
  readonly set: (change: Partial<Asked>) => void;
}

const WhoHears = ({ doc, studio, cue, asked, set }: AskedProps) => {
  const players = new Set(playersOf(doc));
  const strangers = asked.people.filter((name) => !players.has(name));
  return (
    <ManyChooser
      first
      label="Who hears it"
      description={
        strangers.length
          ? `No line of this list is played by ${strangers.join(", ")}: nothing is marked as their own sound.`
          : undefined
      }
      options={peopleFor(doc, studio, cue).map((name) => ({ value: name, label: name }))}
      value={asked.people}
      asNew={(text) => `Somebody new: “${text}”`}
      most={64}
      onChange={(people) => set({ people })}
    />
  );
};

const keyOf = (portIds: readonly string[]): string => (portIds.length ? portIds.join(" ") : NONE);

const GoesOut = ({ doc, rig, cue, asked, set }: AskedProps) => {
  const outputs = cueOutputs(doc, rig);
  const known = outputs.some(({ portIds }) => keyOf(portIds) === keyOf(asked.portIds));
  const options = [
    { value: NONE, label: "no output yet" },
    ...outputs.map(({ portIds, label, takenBy }) => {
      const others = takenBy.filter((name) => name !== cue?.name);
      return { value: keyOf(portIds), label: others.length ? `${label} (${others.join(", ")})` : label };
    }),
    ...(known || !asked.portIds.length ? [] : [{ value: keyOf(asked.portIds), label: cueOutputText(rig, asked) }]),
  ];
  const [value, setValue] = useState<string | null>(keyOf(asked.portIds));
  const choose = (value: string | null): void => {
    setValue(value);
    if (value === null) return;
    const output = outputs.find(({ portIds }) => keyOf(portIds) === value);
    if (output)
      set({
        portIds: output.portIds,
        ...(asked.hearing === "far" ? {} : { hearing: output.hearing, room: output.room }),
      });
    else set({ portIds: value === NONE ? [] : asked.portIds });
  };
  return (
    <Chooser label="Output" options={options} value={value} needed="Choose an output, or none yet." onChange={choose} />
  );
};

const BeginsAs = ({ doc, set }: AskedProps) => {
  const [value, setValue] = useState<string | null>("main");
  return (
    <Chooser
      label="Begins as"
      options={[
        { value: "main", label: "the main mix" },
        ...cuesOf(doc).map(({ id, name }) => ({ value: id as string, label: `a copy of ${name}` })),
        { value: "nothing", label: "nothing" },
      ]}
      value={value}
      needed="Choose as what it begins."
      onChange={(from) => {
        setValue(from);
        if (from !== null) set({ from: from as "main" | "nothing" | CueId });
      }}
    />
  );
};

const CueForm = (ask: AskCue) => {
  const { doc, rig, cue, onDo } = ask;
  const [asked, setAsked] = useState<Asked>(() => {
    const free = freeCueOutput(doc, rig);
    return {
      people: cue?.people ?? [],
      name: cue?.name ?? "",
      from: "main",
      portIds: cue ? cue.portIds : (free?.portIds ?? []),
      hearing: cue?.hearing ?? "headphones",
      mixedIn: cue?.mixedIn ?? "computer",
      room: cue?.room ?? "",
    };
  });
  const set = (change: Partial<Asked>) => setAsked((was) => ({ ...was, ...change }));
  const props = { ...ask, asked, set };
  return (
    <form onSubmit={submitting(() => onDo(asked))}>
      <Stack gap="sm">
        <WhoHears {...props} />
        <TextInput
          label="Name"
          placeholder={cue ? cue.name : cueNameFor(doc, asked.people) || "Ilse"}
          value={asked.name}
          maxLength={200}
          onChange={(event) => set({ name: event.currentTarget.value })}
        />
        {!cue && <BeginsAs {...props} />}
        <GoesOut {...props} />
        <Chosen
          label="Heard"
          options={HEARING}
          value={asked.hearing}
          onChange={(hearing) => set({ hearing: hearing as Hearing })}
        />
        {asked.hearing === "loudspeaker" && (
          <TextInput
            label="In which room"
            value={asked.room}
            maxLength={200}
            onChange={(event) => set({ room: event.currentTarget.value })}
          />
        )}
        <Chosen
          label="Mixed in"
          options={[
            { value: "computer", label: "the computer" },
            { value: "interface", label: "the interface's own mixer" },
          ]}
          value={asked.mixedIn}
          onChange={(mixedIn) => set({ mixedIn: mixedIn as MixedIn })}
        />
      </Stack>
      {asked.mixedIn === "interface" && (
        <p className={classes.says}>
          Every input that it carries is heard before the computer has it; what the computer plays comes with it.
        </p>
      )}
      <Footer does={cue ? `Set ${cue.name}` : "Add the cue"} />
    </form>
  );
};

/** Asks who hears a cue, as what it begins, and where it goes out. */
export const askCue = (ask: AskCue): void =>
  openModal({ title: ask.cue ? `The cue ${ask.cue.name}` : "Add a cue", children: <CueForm {...ask} /> });
