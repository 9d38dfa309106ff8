import {
  type DragEndEvent,
  type DragMoveEvent,
  type DragStartEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { useState } from "react";
import type { ChannelId, FolderId, PortId } from "@/core/model/ids";
import { dropFolder, dropTracks, plugInto, unplug } from "@/core/planning/arrange";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { focusGrid } from "./grid-focus";

export type DropEdge = "above" | "below" | "in";

/** What is held: rows by their grip, or the end of a thread at its jack or at its row. */
export type Held =
  | { readonly kind: "track"; readonly id: ChannelId; readonly name: string }
  | { readonly kind: "folder"; readonly id: FolderId; readonly name: string }
  | { readonly kind: "jack"; readonly id: PortId; readonly name: string; readonly trackId: ChannelId | null };

export interface Drag {
  readonly held: Held;
  /** Where the pointer is, in pixels of the window. */
  readonly y: number;
  readonly over: {
    readonly kind: "track" | "folder";
    readonly id: ChannelId | FolderId;
    readonly edge: DropEdge;
  } | null;
}

/** A row under the pointer, and how far down in it the pointer is, 0 to 1. */
export interface RowAt {
  readonly kind: "track" | "folder";
  readonly id: ChannelId | FolderId;
  readonly share: number;
}

type Over = RowAt | { readonly kind: "jack"; readonly id: PortId } | { readonly kind: "field" };

const pointerY = (event: DragMoveEvent | DragEndEvent): number =>
  (event.activatorEvent as PointerEvent).clientY + event.delta.y;

const edgeAt = (target: RowAt, held: Held): DropEdge => {
  const { share } = target;
  if (held.kind === "jack") return "in";
  if (target.kind === "folder") return share < 0.3 ? "above" : share > 0.75 && held.kind === "folder" ? "below" : "in";
  return share < 0.5 ? "above" : "below";
};

/** Dragging: rows and folders among rows, a jack to a row, a thread's end to another jack or off the field. */
export const useDrags = (rowAt: (y: number) => RowAt | null) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  const [drag, setDrag] = useState<Drag | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));

  // Rows are not each a target of their own: hundreds of them would be told of every move. The grid is one, and where
  // the pointer is in it says which row.
  const targetOf = (event: DragMoveEvent | DragEndEvent): Over | null => {
    const over = event.over?.data.current as Over | { readonly kind: "grid" } | undefined;
    return over?.kind === "grid" ? rowAt(pointerY(event)) : (over ?? null);
  };

  const onDragStart = (event: DragStartEvent): void => {
    const held = event.active.data.current as Held;
    setDrag({ held, y: (event.activatorEvent as PointerEvent).clientY, over: null });
  };

  const onDragMove = (event: DragMoveEvent): void => {
    const held = event.active.data.current as Held;
    const target = targetOf(event);
    const over =
      target && (target.kind === "track" || target.kind === "folder")
        ? { kind: target.kind, id: target.id, edge: edgeAt(target, held) }
        : null;
    setDrag({ held, y: pointerY(event), over });
  };

  const dropRow = (held: Extract<Held, { kind: "track" | "folder" }>, target: RowAt): void => {
    const { doc, selected } = desk.getState();
    const at = { rowId: target.id, edge: edgeAt(target, held) };
    const ids = held.kind === "track" && selected.includes(held.id) ? selected : [held.id as ChannelId];
    const command = held.kind === "track" ? dropTracks(doc, ids, at) : dropFolder(doc, held.id, at);
    if (command) act({ edits: [command] });
  };

  const dropRigInput = (held: Extract<Held, { kind: "jack" }>, target: Over): void => {
    const { doc } = desk.getState();
    if (target.kind === "track") actPlanned(plugInto(doc, rig, { trackId: target.id as ChannelId, portId: held.id }));
    else if (target.kind === "jack" && held.trackId && target.id !== held.id)
      actPlanned(plugInto(doc, rig, { trackId: held.trackId, portId: target.id }));
  };

  const onDragEnd = (event: DragEndEvent): void => {
    setDrag(null);
    const held = event.active.data.current as Held;
    const target = targetOf(event);
    const { doc } = desk.getState();
    if (target && held.kind === "jack") dropRigInput(held, target);
    else if (target && held.kind === "track" && target.kind === "jack")
      actPlanned(plugInto(doc, rig, { trackId: held.id, portId: target.id }));
    else if (target && held.kind === "track" && target.kind === "field") actPlanned(unplug(doc, held.id));
    else if (target && held.kind !== "jack" && (target.kind === "track" || target.kind === "folder"))
      dropRow(held, target);
    focusGrid();
  };

  return { drag, sensors, onDragStart, onDragMove, onDragEnd, onDragCancel: () => setDrag(null) };
};
