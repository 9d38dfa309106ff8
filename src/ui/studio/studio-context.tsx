"use client";

import { type StudioCommand, studioEngine } from "@/core/commands/studio/apply-studio";
import type { Studio } from "@/core/model/studio";
import { partsContext } from "../parts/parts-context";
import { api } from "../shared/api";

export const {
  Provider: StudioProvider,
  useDocument: useStudioDocument,
  useAct: useStudioAct,
} = partsContext<Studio, StudioCommand>({ what: "studio", engine: studioEngine, remote: api.studio });
