import { plain } from "../model/families";
import type { ChannelId } from "../model/ids";
import { findRigInput } from "../model/read-rig";
import { tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Template } from "../model/template";

/** A track that is said to go on an input, as both are called. */
export interface SaidInput {
  readonly trackId: ChannelId;
  readonly track: string;
  readonly input: string;
}

/** So many tracks that a name may mean are told. */
const MOST = 3;

/**
 * "Fiddle E5", "fiddle on E5": tracks in whose name all words are found, and the input that the last word names; those
 * whose name begins so come first. None where the last word is no input of the rig. Linear in tracks.
 * @example saidInputs(doc, rig, "fiddle E5") // [{ trackId: "track-9", track: "Fiddle", input: "E5" }]
 */
export const saidInputs = (doc: Template, rig: Rig, text: string): readonly SaidInput[] => {
  const words = text.trim().split(/\s+/);
  const last = words.pop();
  const rigInput = last === undefined ? null : findRigInput(rig, last);
  const said = words.filter((word) => word.toLowerCase() !== "on").map(plain);
  if (!rigInput || rigInput.occupied || !said.length) return [];
  const found = tracksOf(doc).filter(({ name }) => said.every((word) => plain(name).includes(word)));
  const begins = (name: string): number => (plain(name).startsWith(said.join(" ")) ? 0 : 1);
  return [...found]
    .sort((a, b) => begins(a.name) - begins(b.name))
    .slice(0, MOST)
    .map(({ id, name }) => ({ trackId: id, track: name, input: rigInput.label }));
};
