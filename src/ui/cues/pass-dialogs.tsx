import { Stack, Switch, TextInput } from "@mantine/core";
import { useState } from "react";
import type { ChannelId, CueId, FolderId } from "@/core/model/ids";
import { inOrder } from "@/core/model/table";
import type { Folder } from "@/core/model/tables/folders";
import type { Pass } from "@/core/model/tables/passes";
import type { Template } from "@/core/model/template";
import type { PlanPasses } from "@/core/planning/pass-plans";
import { cuesOf, passesOf } from "@/core/queries/cues";
import { recordable } from "@/core/queries/track-order";
import { counted } from "@/core/units/counted";
import classes from "../acts/act-dialogs.module.css";
import { Footer, submitting } from "../acts/dialog-parts";
import { Chosen, ManyChooser } from "../shared/chooser";
import { tellRefusal } from "../shared/notices";
import { openModal } from "../shared/open-modal";

interface AskPass {
  readonly doc: Template;
  readonly pass: Pass | null;
  readonly onDo: (set: Pick<Pass, "name" | "takeMinutes" | "takes" | "note" | "cueIds" | "openFolderId">) => boolean;
}

const NO_FOLDER = "none";

const readNumber = (text: string): number => Number(text.trim().replace(",", "."));

const PassForm = ({ doc, pass, onDo }: AskPass) => {
  const [cueIds, setCueIds] = useState<readonly string[]>(pass?.cueIds ?? []);
  const [folderId, setFolderId] = useState<string>(pass?.openFolderId ?? NO_FOLDER);
  const [texts, setTexts] = useState({
    name: pass?.name ?? "",
    takeMinutes: String(pass?.takeMinutes ?? 4),
    takes: String(pass?.takes ?? 3),
    note: pass?.note ?? "",
  });
  const field = (key: keyof typeof texts) => ({
    value: texts[key],
    maxLength: key === "note" ? 4000 : 200,
    onChange: (event: React.ChangeEvent<HTMLInputElement>) => setTexts({ ...texts, [key]: event.currentTarget.value }),
  });
  const done = (): boolean => {
    const [takeMinutes, takes] = [readNumber(texts.takeMinutes), readNumber(texts.takes)];
    if (!(takeMinutes >= 0.1 && takeMinutes <= 600)) tellRefusal("A take is between 0.1 and 600 minutes long.");
    else if (!(Number.isInteger(takes) && takes >= 1 && takes <= 999))
      tellRefusal("There are between 1 and 999 takes.");
    else
      return onDo({
        name: texts.name,
        takeMinutes,
        takes,
        note: texts.note,
        cueIds: cueIds as readonly CueId[],
        openFolderId: folderId === NO_FOLDER ? null : (folderId as FolderId),
      });
    return false;
  };
  return (
    <form onSubmit={submitting(done)}>
      <Stack gap="sm">
        <TextInput label="Name" data-autofocus placeholder="Guide and lead" {...field("name")} />
        <TextInput label="A take, minutes" {...field("takeMinutes")} />
        <TextInput label="Takes" {...field("takes")} />
        <ManyChooser
          label="Cues that are used"
          placeholder="those of who plays"
          options={cuesOf(doc).map(({ id, name }) => ({ value: id as string, label: name }))}
          value={cueIds}
          onChange={setCueIds}
        />
        <Chosen
          label="Folder that is open"
          options={[
            { value: NO_FOLDER, label: "as it is" },
            ...inOrder<Folder>(doc.folders).map(({ id, name }) => ({
              value: id as string,
              label: name || "without a name",
            })),
          ]}
          value={folderId}
          onChange={setFolderId}
        />
        <TextInput label="Note" {...field("note")} />
      </Stack>
      <Footer does={pass ? `Set ${pass.name}` : "Add the pass"} />
    </form>
  );
};

/** Asks what a pass is called and how long it takes. */
export const askPass = (ask: AskPass): void =>
  openModal({ title: ask.pass ? ask.pass.name : "Add a pass", children: <PassForm {...ask} /> });

interface AskPasses {
  readonly doc: Template;
  readonly onDo: (asked: Omit<PlanPasses, "ids">) => boolean;
}

const inputsOf = (doc: Template): number =>
  Math.max(
    1,
    new Set(
      recordable(doc).flatMap(({ input }) =>
        input.kind === "line" ? [input.lineId] : input.kind === "pair" ? [input.leftId, input.rightId] : [],
      ),
    ).size,
  );

const PassesForm = ({ doc, onDo }: AskPasses) => {
  const tracks = recordable(doc);
  const turns = tracks.filter(({ sharing }) => sharing === "by-turns");
  const [chosen, setChosen] = useState<readonly string[]>(() => (turns.length ? turns : tracks).map(({ id }) => id));
  const [texts, setTexts] = useState({ inputs: String(inputsOf(doc)), takeMinutes: "4", takes: "3" });
  const there = passesOf(doc).length;
  const [anew, setAnew] = useState(true);
  const field = (key: keyof typeof texts) => ({
    value: texts[key],
    maxLength: 10,
    onChange: (event: React.ChangeEvent<HTMLInputElement>) => setTexts({ ...texts, [key]: event.currentTarget.value }),
  });
  const done = (): boolean => {
    const [inputs, takeMinutes, takes] = [
      readNumber(texts.inputs),
      readNumber(texts.takeMinutes),
      readNumber(texts.takes),
    ];
    if (!(Number.isInteger(inputs) && inputs >= 1)) tellRefusal("Say how many inputs there are: 1 or more.");
    else if (!(takeMinutes >= 0.1 && takeMinutes <= 600)) tellRefusal("A take is between 0.1 and 600 minutes long.");
    else if (!(Number.isInteger(takes) && takes >= 1 && takes <= 999))
      tellRefusal("There are between 1 and 999 takes.");
    else return onDo({ trackIds: chosen as ChannelId[], inputs, takeMinutes, takes, anew });
    return false;
  };
  return (
    <form onSubmit={submitting(done)}>
      <Stack gap="sm">
        <TextInput
          label="Inputs at once"
          data-autofocus
          onFocus={(event) => event.target.select()}
          {...field("inputs")}
        />
        <ManyChooser
          label="Tracks"
          options={tracks.map(({ id, name }) => ({ value: id as string, label: name || "without a name" }))}
          value={chosen}
          needed="Choose one or more tracks."
          onChange={setChosen}
        />
        <TextInput label="A take, minutes" {...field("takeMinutes")} />
        <TextInput label="Takes" {...field("takes")} />
        {there > 0 && (
          <Switch
            label={`Replace the ${counted(there, "pass", "passes")} there ${there === 1 ? "is" : "are"}`}
            checked={anew}
            onChange={(event) => setAnew(event.currentTarget.checked)}
          />
        )}
      </Stack>
      <p className={classes.says}>
        Tracks that take one line by turns come one after the other; what is recorded later is parked.
      </p>
      <Footer does="Plan the passes" />
    </form>
  );
};

/** Asks from what passes are to be planned. */
export const askPasses = (ask: AskPasses): void =>
  openModal({ title: "Plan the passes", children: <PassesForm {...ask} /> });
