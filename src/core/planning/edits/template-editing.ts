import { templateEngine } from "../../commands/template-engine";
import { TEMPLATE, type Template } from "../../model/template";
import { carryEdits } from "./carry-edits";
import { sideChainEdits } from "./chain-edits";
import { channelEdits } from "./channel-edits";
import { cueLevelEdits } from "./cue-edits";
import type { Edit } from "./edit";
import { type EntryPlanners, entryEdits } from "./entry-edits";
import { folderEdits } from "./folder-edits";
import { controlEdits, gangEdits } from "./hold-edits";
import { lineEdits } from "./line-edits";
import { passEdits } from "./pass-edits";
import { editingOf } from "./plan-edits";
import { sendEdits } from "./send-edits";
import { templateEdits } from "./template-edits";
import { TEMPLATE_HABITS } from "./template-habits";
import { trackEdits } from "./track-edits";

/** Everything that people do to a template. */
export const templateEditing = editingOf<Template, Edit>(templateEngine, {
  ...(entryEdits<Template>(TEMPLATE, TEMPLATE_HABITS) as EntryPlanners<Template, Edit>),
  ...templateEdits,
  ...carryEdits,
  ...trackEdits,
  ...lineEdits,
  ...folderEdits,
  ...channelEdits,
  ...sendEdits,
  ...sideChainEdits,
  ...gangEdits,
  ...controlEdits,
  ...cueLevelEdits,
  ...passEdits,
});

export const { apply, applyAll, canDo } = templateEditing;
