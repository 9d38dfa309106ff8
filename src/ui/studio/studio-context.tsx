"use client";

import type { Studio } from "@/core/model/studio";
import { type StudioEdit, studioEditing } from "@/core/planning/edits/studio-editing";
import { partsContext } from "../parts/parts-context";
import { api } from "../shared/api";

export const {
  Provider: StudioProvider,
  useDocument: useStudioDocument,
  useAct: useStudioAct,
} = partsContext<Studio, StudioEdit>({ what: "studio", editing: studioEditing, remote: api.studio });
