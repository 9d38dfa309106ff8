import type { Colour } from "../../model/colours";
import type { ChannelId, CueId, FolderId } from "../../model/ids";
import { isParked } from "../../model/read-template";
import type { Output } from "../../model/tables/channel-fields";
import type { Channel } from "../../model/tables/channels";

/** From so many tracks on families begin folded. */
export const FOLDED_FROM = 40;

export type FlowKind =
  | "track"
  | "instrument"
  | "reference"
  | "click"
  | "talkback"
  | "family"
  | "opened"
  | "bus"
  | "return"
  | "main"
  | "out";

/** Something in the picture that threads run to and from. Pixels, from the top left of the picture. */
export interface FlowNode {
  readonly id: string;
  readonly kind: FlowKind;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly label: string;
  /** What stands at its right, small. */
  readonly aside: string;
  readonly colour: Colour | null;
  /** The channels that it stands for: one, or all of a folded family. */
  readonly channelIds: readonly ChannelId[];
  readonly folderId: FolderId | null;
  readonly parked: boolean;
  readonly muted: boolean;
  /** Where a channel goes that is routed there; null where nothing can be, and for returns, which take sends. */
  readonly output: Output | null;
}

export interface FlowThread {
  readonly id: string;
  /** A band is a send that parts a source with others: drawn solid, as what goes on of it. */
  readonly kind: "line" | "output" | "input" | "send" | "band" | "steer";
  readonly from: string;
  readonly to: string;
  /** SVG path. */
  readonly path: string;
  readonly width: number;
  readonly colour: Colour | null;
  /** The ways of the sound that run in it. */
  readonly threadIds: readonly string[];
  readonly parked: boolean;
  readonly off: boolean;
}

/** Somebody's cue, at the right: a pair of headphones with a name. */
export interface Ear {
  readonly cueId: CueId;
  readonly name: string;
  /** Of the middle of the headphones. */
  readonly x: number;
  readonly y: number;
}

export interface Flow {
  readonly ears: readonly Ear[];
  readonly nodes: readonly FlowNode[];
  readonly threads: readonly FlowThread[];
  readonly headings: readonly { readonly x: number; readonly text: string }[];
  readonly width: number;
  readonly height: number;
}

export interface FlowView {
  readonly width: number;
  readonly height: number;
  readonly folded: ReadonlySet<FolderId>;
  /** Only the tracks in this folder and what they need; null for all. */
  readonly within: FolderId | null;
  /** Whether outputs, and whether sends and side-chains are drawn: each can be looked at without the other. */
  readonly outputs: boolean;
  readonly sends: boolean;
  readonly parked: boolean;
}

export const LEFT = 56;
export const TOP = 28;
export const FOOT = 16;
export const GAP = 14;
export const OUT_WIDTH = 138;
/** How far cues stand from one another, and how close they can. */
export const EAR_PITCH = 38;
export const EAR_CLOSEST = 30;
export const EAR_RADIUS = 13;

/** How thick a thread is that carries so many tracks: grows with the root, so that one is seen beside a hundred. */
export const thickness = (count: number): number => Math.min(30, 2.4 + 4.6 * Math.sqrt(Math.max(0, count - 1)));

export const isHidden = (channel: Channel | undefined, view: FlowView): boolean =>
  !channel || (!view.parked && isParked(channel));

export const middle = ({ y, height }: Pick<FlowNode, "y" | "height">): number => y + height / 2;

/** What is to be placed in a column. */
export interface Box extends Omit<FlowNode, "x" | "y" | "width"> {
  /** What is left free above it. */
  readonly gap: number;
}
