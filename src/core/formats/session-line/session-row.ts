import type { Colour } from "../../model/colours";
import type { Family, Icon } from "../../model/families";
import type { Line } from "../../model/tables/lines";
import type { Mark } from "../input-list/list-types";

/** Cells of the preview that can be changed there, each as it is typed. */
export const CHANGEABLE = ["name", "family", "layout", "input", "microphone", "phantom", "folder", "player"] as const;
export type Changeable = (typeof CHANGEABLE)[number];
export type RowChange = Partial<Readonly<Record<Changeable, string>>>;

/** What is chosen for all of what is added. */
export interface Switches {
  readonly folders: boolean;
  readonly buses: boolean;
  readonly cues: boolean;
  readonly phantom: boolean;
  readonly microphones: boolean;
  readonly chains: boolean;
  readonly inFull: boolean;
}

export const USUAL_SWITCHES: Switches = {
  folders: true,
  buses: true,
  cues: true,
  phantom: true,
  microphones: true,
  chains: false,
  inFull: true,
};

/** A track that would be added, as the preview shows it. */
export interface SessionRow {
  /** The same for the same name in the same place among its like, whatever else is typed. */
  readonly key: string;
  readonly name: string;
  readonly family: Family | null;
  readonly colour: Colour;
  readonly icon: Icon;
  readonly lines: readonly Line[];
  /** Labels of its inputs; empty where none is free that fits. */
  readonly inputs: readonly string[];
  /** Whether they were chosen here, and not written. */
  readonly proposed: boolean;
  readonly microphone: string;
  /** Whether the microphone is the usual one for it, and not written. */
  readonly usual: boolean;
  readonly phantom: boolean;
  readonly polarity: boolean;
  readonly pad: boolean;
  readonly player: string;
  /** Name of its folder; empty where it lies in none. */
  readonly folder: string;
  readonly note: string;
  readonly marks: readonly Mark[];
  /** What is asked of it; null when all is known. */
  readonly asks: string | null;
}

/** Tracks that go to one folder, with what that means. */
export interface SessionGroup {
  readonly folder: string;
  readonly colour: Colour;
  /** "folder and bus Percussion", "into the folder Percussion". */
  readonly says: string;
  readonly rows: readonly SessionRow[];
}
