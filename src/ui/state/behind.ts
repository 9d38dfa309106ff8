import { createStore } from "zustand/vanilla";
import { named, short } from "../shared/named";
import { tellBehind } from "../shared/notices";
import type { DocState, SaveState } from "./doc-store";
import type { Kept } from "./pending-keeper";

/** What goes on sending behind the screens that come next. */
export interface Sending {
  handOver(): Promise<readonly Kept[]>;
  forget(): void;
  letGo(): void;
}

/** A document whose screen was left before all was sent. */
export interface LeftDoc {
  readonly name: string;
  /** What is not sent yet, oldest first, by name. */
  readonly edits: readonly string[];
  readonly save: SaveState;
  readonly sending: Sending;
}

/** All such documents of this window, by what they are: `template:…`. */
export const behind = createStore<Readonly<Record<string, LeftDoc>>>(() => ({}));

export const leftOf = (about: string): LeftDoc | undefined => behind.getState()[about];

/** Something of it waits for a person. One that was left before anything was done to it has nothing that could. */
const mustBeDecided = ({ save, edits }: LeftDoc): boolean => save.kind === "parted" && edits.length > 0;

/**
 * A document is sent behind the next screens, or something changed about it. What a person must decide is told wherever
 * that person is by now.
 */
export const putBehind = (about: string, left: LeftDoc): void => {
  const before = leftOf(about);
  if (mustBeDecided(left) && !(before && mustBeDecided(before)))
    tellBehind(
      `left ${about}`,
      `Not all edits of “${short(left.name)}” are saved. The library says why, and what can be done.`,
    );
  behind.setState({ [about]: left });
};

/** What could not be done again on what others did meanwhile: nobody sees the document that would say so. */
export const tellLostBehind = (
  about: string,
  name: string,
  lost: DocState<{ readonly id: string }, { readonly kind: string }>["lost"],
): void => {
  const [first] = lost;
  if (first)
    tellBehind(
      `lost ${about} ${lost.length}`,
      `${named(lost.map((edit) => edit.name))} of “${short(name)}” could not be kept: ${first.why}`,
    );
};

/** Nothing of it is sent behind the screens any more, if it was by this one. */
export const takeFromBehind = (about: string, sending: Sending): void => {
  if (leftOf(about)?.sending !== sending) return;
  const { [about]: _taken, ...others } = behind.getState();
  behind.setState(others, true);
};
