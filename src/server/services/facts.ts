import type { TemplateFacts } from "../tasks/kinds";
import { UNREADABLE } from "./unreadable";

const NOTHING: TemplateFacts = {
  rateAndDepth: "",
  inputs: 0,
  tracks: 0,
  selvedge: [],
  ownColours: [],
  tags: [],
  place: "",
};

/** What a row keeps of its document for lists; of one that can't be read, nothing. An older Wandel kept less. */
export const factsIn = (summary: string | null): TemplateFacts =>
  summary && summary !== UNREADABLE ? { ...NOTHING, ...(JSON.parse(summary) as Partial<TemplateFacts>) } : NOTHING;
