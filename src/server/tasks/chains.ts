import { chainAnswer, chainsOfTemplate, keptChainsAnswer } from "@/core/layout/chain-answer";
import type { Seen } from "./kinds";
import { readStored } from "./kinds";

/** The chains that the studio keeps, as JSON. */
export const keptChainsOf = ({ studio }: Pick<Seen, "studio">): string =>
  JSON.stringify(keptChainsAnswer(readStored("studio", studio)));

export interface ChainAsked extends Pick<Seen, "template" | "rigs"> {
  /** Null: all channels that have a chain, short. */
  readonly channel: string | null;
}

/** The chain of a channel, or all of a template, as JSON; null when the channel is not there. */
export const chainsOf = ({ template, rigs, channel }: ChainAsked): string | null => {
  const doc = readStored("template", template);
  if (channel === null) return JSON.stringify(chainsOfTemplate(doc));
  const rig = rigs.map((text) => readStored("rig", text)).find(({ id }) => id === doc.rigId) ?? null;
  const chain = chainAnswer(doc, rig, channel);
  return chain && JSON.stringify(chain);
};
