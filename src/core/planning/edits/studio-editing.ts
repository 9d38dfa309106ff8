import { studioEngine } from "../../commands/studio-engine";
import { STUDIO, type Studio, type StudioTable } from "../../model/studio";
import { type PartsEdit, partsEdits } from "./parts-edits";
import { editingOf } from "./plan-edits";

export type StudioEdit = PartsEdit<StudioTable>;

/** Everything that people do to the studio. */
export const studioEditing = editingOf<Studio, StudioEdit>(studioEngine, partsEdits<Studio, StudioTable>(STUDIO));
