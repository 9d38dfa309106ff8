import { templateEngine } from "../../commands/template-engine";
import type { Template } from "../../model/template";
import { bandEdits, processorEdits, sideChainEdits } from "./chain-edits";
import { channelEdits } from "./channel-edits";
import { cueEdits, cueLevelEdits } from "./cue-edits";
import type { Edit } from "./edit";
import { findingEdits } from "./finding-edits";
import { folderEdits } from "./folder-edits";
import { controlEdits, gangEdits } from "./hold-edits";
import { lineEdits } from "./line-edits";
import { passEdits } from "./pass-edits";
import { editingOf } from "./plan-edits";
import { sendEdits } from "./send-edits";
import { templateEdits } from "./template-edits";
import { trackEdits } from "./track-edits";

/** Everything that people do to a template. */
export const templateEditing = editingOf<Template, Edit>(templateEngine, {
  ...templateEdits,
  ...trackEdits,
  ...lineEdits,
  ...folderEdits,
  ...channelEdits,
  ...sendEdits,
  ...processorEdits,
  ...bandEdits,
  ...sideChainEdits,
  ...gangEdits,
  ...controlEdits,
  ...cueEdits,
  ...cueLevelEdits,
  ...passEdits,
  ...findingEdits,
});

export const EDIT_KINDS = templateEditing.kinds;

export const { apply, applyAll, canDo } = templateEditing;
