import type { Fold, Layout } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";

/**
 * As how many a channel is heard: a track as its lines are, or as what it records; a bus as it is set; the main bus as
 * the template's format says.
 */
export const layoutOf = (doc: Pick<Template, "channels" | "format">, channel: Channel): Layout => {
  switch (channel.kind) {
    case "bus":
    case "return":
      return channel.layout;
    case "main":
      return doc.format.mainLayout;
    case "instrument":
    case "reference":
      return "stereo";
    case "click":
    case "talkback":
      return "mono";
    case "track": {
      const { input } = channel;
      if (input.kind === "instrument" || input.kind === "pair") return "stereo";
      const bus = input.kind === "bus" ? doc.channels[input.busId] : undefined;
      return bus ? layoutOf(doc, bus) : "mono";
    }
    default:
      return channel satisfies never;
  }
};

const SIDES: { readonly [L in Layout]: number } = { mono: 1, stereo: 2, "5.1": 6 };

const FOLD_WORDS: { readonly [F in Fold]: string } = {
  sum: "left and right added up",
  left: "its left side only",
  right: "its right side only",
};

/**
 * How a channel comes into another that has fewer sides, in words; empty where nothing is lost, as it is panned there
 * then.
 */
export const foldedInWords = (doc: Pick<Template, "channels" | "format">, from: Channel, to: Channel): string => {
  const [was, is] = [layoutOf(doc, from), layoutOf(doc, to)];
  if (SIDES[is] >= SIDES[was]) return "";
  if (was === "5.1") return `5.1 folded down to ${is}`;
  return FOLD_WORDS[to.kind === "bus" || to.kind === "return" ? to.fold : "sum"];
};
