"use client";

import { rigInputOf } from "@/core/model/read-rig";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/table";
import { duplicateTracks } from "@/core/planning/duplicate";
import { rigEditing } from "@/core/planning/edits/rig-editing";
import { setFamily } from "@/core/planning/family";
import { nameByPattern, namesPreview } from "@/core/planning/name-pattern";
import { changeGain, shiftInputs } from "@/core/planning/numbers";
import { writeCell } from "@/core/planning/write-cell";
import { newIds } from "../grid/grid-focus";
import { api } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { editElsewhere } from "../state/edit-elsewhere";
import { type ActTools, actOf, type Chosen, type GridAct, SELECT_FIRST } from "./act";
import { askDuplicate, askFamily, askNumbers, askText, openDialog } from "./act-dialogs";
import { FolderDialog } from "./folder-dialog";

/** What is asked may be answered after another window has changed the template: the newest is read when it is done. */
const nowOf = ({ desk }: ActTools) => desk.getState().doc;

const duplicate =
  ({ rig, trackIds, many }: Chosen, tools: ActTools) =>
  () =>
    askDuplicate(`Duplicate ${many}`, (input) => {
      const made = duplicateTracks(nowOf(tools), rig, { trackIds, input, ids: newIds });
      if (!tools.actPlanned(made.planned)) return false;
      const first = made.trackIds[0];
      if (first)
        tools.desk.setState({ cursor: { rowId: first, column: "name" }, anchorColumn: null, selected: made.trackIds });
      return true;
    });

const putInFolder =
  ({ rig, trackIds, many }: Chosen, tools: ActTools) =>
  () =>
    openDialog(
      `Put ${many} in a folder`,
      <FolderDialog
        names={entriesOf(nowOf(tools).folders).map((entry) => entry.name)}
        onChoose={(name) =>
          tools.actPlanned(
            writeCell(nowOf(tools), rig, {
              trackIds,
              column: "folder",
              text: name,
              ids: newIds,
              studio: tools.desk.getState().studio,
            }),
          )
        }
      />,
    );

const chooseFamily =
  ({ studio, trackIds, many }: Chosen, tools: ActTools) =>
  () =>
    askFamily(`Family of ${many}`, studio.families, (family) =>
      tools.actPlanned(setFamily(nowOf(tools), trackIds, family, studio.families)),
    );

const nameThem =
  ({ rig, studio, trackIds, many }: Chosen, tools: ActTools) =>
  () =>
    askText({
      title: `Name by pattern: ${many}`,
      label: "Pattern",
      description: "{source}, {microphone}, {player}, {input}, {folder} and {number} become what each track has of it.",
      initial: studio.namePattern,
      does: "Name the tracks",
      preview: (pattern) => namesPreview(nowOf(tools), rig, { trackIds, pattern }),
      onSubmit: (pattern) => tools.actPlanned(nameByPattern(nowOf(tools), rig, { trackIds, pattern })),
    });

const shiftThem =
  ({ rig, trackIds, many }: Chosen, tools: ActTools) =>
  () =>
    askText({
      title: `Shift the inputs of ${many}`,
      label: "By how many inputs",
      description: "2 moves each two inputs further on as they sit, −1 one back.",
      initial: "1",
      does: "Shift the inputs",
      onSubmit: (text) =>
        tools.actPlanned(shiftInputs(nowOf(tools), rig, { trackIds, by: Number(text.trim().replace("−", "-")) })),
    });

/** The jack of the one track that is selected. */
const chosenRigInput = ({ doc, rig, trackIds }: Chosen) => {
  const [only, ...more] = trackIds;
  const track = only && !more.length ? trackOf(doc, only) : null;
  return track ? rigInputOf(rig, linesOfTrack(doc, track)[0]?.portId ?? null) : null;
};

const renameInput =
  ({ rig }: Chosen, rigInput: ReturnType<typeof chosenRigInput>) =>
  () =>
    askText({
      title: `Rename input ${rigInput?.label}`,
      label: "Name",
      description: `Shown in every template on ${rig.name}, in the jack field and on the patching sheet. Empty takes the name off.`,
      initial: rigInput?.port.name ?? "",
      does: "Rename the input",
      onSubmit: (name) => {
        if (rigInput)
          void editElsewhere({ remote: api.rigs, editing: rigEditing, id: rig.id }, [
            { kind: "ports.name", names: [{ portId: rigInput.port.id, name }] },
          ]).catch((error: unknown) =>
            tellRefusal(error instanceof Error ? error.message : "The name could not be saved."),
          );
        return true;
      },
    });

/** Acts on the selected tracks that ask something first. */
export const dialogActs = (chosen: Chosen, tools: ActTools): readonly GridAct[] => {
  const { trackIds, many } = chosen;
  const made = actOf("selection");
  const asks = (run: () => void) => ({ whyNot: trackIds.length ? undefined : SELECT_FIRST, run });
  const rigInput = chosenRigInput(chosen);
  return [
    made("duplicate", `Duplicate ${many}…`, asks(duplicate(chosen, tools))),
    made("folder", `Put ${many} in a folder…`, asks(putInFolder(chosen, tools))),
    made("choose-family", "Choose the family…", asks(chooseFamily(chosen, tools))),
    made("pattern", "Name by pattern…", asks(nameThem(chosen, tools))),
    made(
      "gain",
      "Set or shift the gain…",
      asks(() =>
        askNumbers(`Gain of ${many}`, (answer) => tools.actPlanned(changeGain(nowOf(tools), trackIds, answer))),
      ),
    ),
    made("shift-inputs", "Shift the inputs…", asks(shiftThem(chosen, tools))),
    made("rename-input", rigInput ? `Rename input ${rigInput.label}…` : "Rename the input…", {
      whyNot: rigInput ? undefined : "Select a track that is on an input first.",
      run: renameInput(chosen, rigInput),
    }),
  ];
};
