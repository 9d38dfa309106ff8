"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import { type KeyboardEvent, type MouseEvent, memo, type RefObject, useCallback, useMemo } from "react";
import { nodeIn } from "@/core/layout/flow/beside";
import { earSays, earThreads, type HeardIn } from "@/core/layout/flow/ears";
import { fitted } from "@/core/layout/flow/fitted";
import { isNodeInSight, type Sight, threadsInSight } from "@/core/layout/flow/in-sight";
import { EAR_RADIUS, type Flow, type FlowNode, type FlowThread, OUT_WIDTH } from "@/core/layout/flow/picture";
import { strokesOf } from "@/core/layout/flow/strokes";
import { UNCOLOURED } from "@/core/model/colours";
import { dyeVar, onDyeVar } from "../theme/tokens";
import classes from "./flow.module.css";

export interface Clicked {
  readonly node: FlowNode;
  readonly add: boolean;
  readonly range: boolean;
  /** From where a range goes by the keys, where none was begun. */
  readonly from?: FlowNode;
}

const KIND_WORDS: { readonly [K in FlowNode["kind"]]: string } = {
  track: "track",
  instrument: "instrument",
  reference: "reference",
  click: "click",
  talkback: "talkback",
  family: "family, folded",
  opened: "family, unfolded",
  bus: "bus",
  return: "return",
  main: "main bus",
  out: "outputs",
};

const strokeOf = (colour: string | null): string => (colour ? dyeVar(colour) : "var(--ink)");

/** Sends are dashed, one that is off thinly so; side-chains are dotted. */
const dashOf = ({ kind, off }: FlowThread): string | undefined =>
  kind === "steer" ? "0.1 5" : kind !== "send" ? undefined : off ? "1 5" : "6 4";

const ThreadPath = ({ thread, plain = false }: { readonly thread: FlowThread; readonly plain?: boolean }) => {
  const fine = plain && thread.kind === "send";
  return (
    <path
      d={thread.path}
      fill="none"
      stroke={strokeOf(thread.colour)}
      strokeWidth={thread.kind === "steer" ? 2.6 : fine ? 1 : thread.width}
      strokeDasharray={fine ? undefined : dashOf(thread)}
      strokeLinecap={thread.kind === "steer" ? "round" : undefined}
      strokeOpacity={thread.parked ? 0.35 : fine ? 0.6 : thread.kind === "send" ? 0.85 : 0.8}
    />
  );
};

/**
 * Beyond so many threads the sends among those that lie still are fine lines and not dashed: dashes take a browser
 * seconds to draw.
 */
const MANY_THREADS = 1000;

/** How much of threads is seen that are not lit. */
const DIM = 0.45;

/** Threads that are drawn once and stay, whatever is selected; many of them in strokes of several. */
const Threads = memo(({ threads, plain }: { readonly threads: readonly FlowThread[]; readonly plain: boolean }) =>
  (plain ? strokesOf(threads) : threads).map((thread) => <ThreadPath key={thread.id} thread={thread} plain={plain} />),
);
Threads.displayName = "Threads";

/** What stands in the first column, with its dye at its left. */
const BEGINNINGS: readonly FlowNode["kind"][] = ["track", "family", "instrument", "reference", "click", "talkback"];
const FILLED: readonly FlowNode["kind"][] = ["bus", "main"];

const fillOf = ({ kind, colour }: FlowNode): string => {
  if (kind === "main") return "var(--ink)";
  return kind === "bus" ? dyeVar(colour ?? UNCOLOURED) : "var(--raised)";
};
const inkOf = ({ kind, colour }: FlowNode): string => {
  if (kind === "main") return "var(--raised)";
  return kind === "bus" ? onDyeVar(colour ?? UNCOLOURED) : "var(--ink)";
};

const Shape = ({ node, selected }: { readonly node: FlowNode; readonly selected: boolean }) => {
  const { kind, width, height, colour } = node;
  if (kind === "out" || kind === "opened")
    return <rect className={classes.shape} width={width} height={height} rx={5} fill="transparent" stroke="none" />;
  const round = kind === "return" ? height / 2 : 5;
  return (
    <>
      <rect
        className={classes.shape}
        width={width}
        height={height}
        rx={round}
        fill={fillOf(node)}
        stroke={selected ? "var(--act)" : strokeOf(colour)}
        strokeWidth={selected ? 2.6 : FILLED.includes(kind) ? 0 : 1.3}
        strokeDasharray={node.parked ? "3 3" : undefined}
      />
      {BEGINNINGS.includes(kind) && (
        <path
          d={`M5 0.6H3A2.4 2.4 0 0 0 0.6 3V${height - 3}A2.4 2.4 0 0 0 3 ${height - 0.6}H5Z`}
          fill={strokeOf(colour)}
        />
      )}
    </>
  );
};

const SIZE = 12.5;

const Label = ({ node, folded }: { readonly node: FlowNode; readonly folded: boolean | null }) => {
  const { kind, width, height, label, aside } = node;
  const ink = inkOf(node);
  const size = Math.min(SIZE, Math.max(12, height - 3));
  const bold = kind === "bus" || kind === "main" || kind === "family" || kind === "opened";
  if (kind === "main")
    return (
      <>
        <text
          x={width / 2}
          y={height / 2 + (aside ? -3 : 5)}
          textAnchor="middle"
          fontSize={14}
          fontWeight={650}
          fill={ink}
        >
          {fitted(label, width - 10, 14)}
        </text>
        {aside && (
          <text x={width / 2} y={height / 2 + 15} textAnchor="middle" fontSize={12} fill={ink}>
            {aside}
          </text>
        )}
      </>
    );
  const left = folded !== null ? 26 : kind !== "family" && BEGINNINGS.includes(kind) ? 13 : kind === "out" ? 4 : 12;
  // The name goes before what stands at its right: without room for both, only the name is there.
  const wanted = aside ? aside.length * 6.4 + 10 : 0;
  const besides = fitted(label, width - left - wanted - 6, size) === label ? aside : "";
  const asideWidth = besides ? wanted : 0;
  return (
    <>
      {folded !== null && (
        <path
          d={folded ? "M0 -4L4 0L0 4" : "M-3 -2L1 2L5 -2"}
          transform={`translate(13 ${height / 2})`}
          fill="none"
          stroke={ink}
          strokeWidth={1.6}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
      <text x={left} y={height / 2 + size * 0.36} fontSize={size} fontWeight={bold ? 620 : 450} fill={ink}>
        {fitted(label, width - left - asideWidth - 6, size)}
      </text>{" "}
      {besides && (
        <text
          x={width - 8}
          y={height / 2 + 4.3}
          textAnchor="end"
          fontSize={12}
          fill={kind === "bus" ? ink : "var(--soft)"}
        >
          {besides}
        </text>
      )}
    </>
  );
};

interface NodeProps {
  readonly node: FlowNode;
  readonly selected: boolean;
  readonly lit: boolean;
  /** Only one of all can be reached by Tab; the others by arrows from there. */
  readonly reachable: boolean;
  readonly onPick: (clicked: Clicked) => void;
  readonly onFold: (node: FlowNode) => void;
  readonly onFocus: (id: string) => void;
}

export const isFamily = ({ kind }: FlowNode): boolean => kind === "family" || kind === "opened";
const takes = ({ kind, output }: FlowNode): boolean => output !== null || kind === "return";

const Node = memo(({ node, selected, lit, reachable, onPick, onFold, onFocus }: NodeProps) => {
  const draggable = useDraggable({
    id: node.id,
    data: { node },
    disabled: node.kind === "out" || node.kind === "main" || node.kind === "opened",
  });
  const droppable = useDroppable({ id: node.id, data: { node }, disabled: !takes(node) });
  const setRef = useCallback(
    (element: SVGGElement | null) => {
      draggable.setNodeRef(element as unknown as HTMLElement | null);
      droppable.setNodeRef(element as unknown as HTMLElement | null);
    },
    [draggable.setNodeRef, droppable.setNodeRef],
  );
  const folded = isFamily(node) ? node.kind === "family" : null;
  const pick = (event: MouseEvent): void => {
    if (node.kind === "opened" || (isFamily(node) && event.detail === 2)) onFold(node);
    else onPick({ node, add: event.ctrlKey || event.metaKey, range: event.shiftKey });
  };
  return (
    <g
      ref={setRef}
      id={`flow-${node.id}`}
      className={classes.node}
      transform={`translate(${node.x} ${node.y})`}
      opacity={lit ? 1 : 0.4}
      role="button"
      tabIndex={reachable ? 0 : -1}
      aria-label={[node.label, node.aside, KIND_WORDS[node.kind]].filter(Boolean).join(", ")}
      aria-pressed={node.kind === "out" || node.kind === "opened" ? undefined : selected}
      aria-expanded={folded === null ? undefined : !folded}
      data-over={droppable.isOver || undefined}
      onClick={pick}
      onFocus={() => onFocus(node.id)}
      onPointerDown={draggable.listeners?.onPointerDown as never}
    >
      <title>{node.label}</title>
      <Shape node={node} selected={selected} />
      <Label node={node} folded={folded} />
    </g>
  );
});
Node.displayName = "Node";

interface EarsProps {
  readonly flow: Flow;
  readonly heard: readonly HeardIn[];
}

/** What is selected on its way to who hears it: dotted past the computer, dashed through it. */
const EarThreads = memo(({ flow, heard }: EarsProps) =>
  earThreads(flow, heard).map(({ id, path, direct, wet, viaId }) => (
    <path
      key={id}
      d={path}
      fill="none"
      stroke={strokeOf(nodeIn(flow, viaId)?.colour ?? null)}
      strokeWidth={1.8}
      strokeDasharray={direct ? "0.1 5" : "6 4"}
      strokeLinecap={direct ? "round" : undefined}
      strokeOpacity={wet ? 0.6 : 1}
    />
  )),
);
EarThreads.displayName = "EarThreads";

/** A pair of headphones with whose they are, and how late what is selected comes there. */
const Ears = memo(({ flow, heard }: EarsProps) =>
  flow.ears.map((ear) => {
    const says = earSays(ear, heard);
    const pale = heard.length > 0 && says === null;
    return (
      // biome-ignore lint/a11y/noInteractiveElementToNoninteractiveRole: a group of a drawing, which nobody presses
      <g
        key={ear.cueId}
        transform={`translate(${ear.x} ${ear.y})`}
        opacity={pale ? 0.45 : 1}
        role="img"
        aria-label={`Headphones: ${ear.name}${says ? `, ${says}` : pale ? ", not heard" : ""}`}
      >
        <circle r={EAR_RADIUS} fill="var(--raised)" stroke="var(--act)" strokeWidth={1.6} />
        <path
          d="M-5.5 3V0A5.5 5.5 0 0 1 5.5 0V3M-5.5 1.5H-3.5V5H-4.5A1 1 0 0 1 -5.5 4ZM5.5 1.5H3.5V5H4.5A1 1 0 0 0 5.5 4Z"
          fill="none"
          stroke="var(--act)"
          strokeWidth={1.3}
          strokeLinejoin="round"
        />
        <text x={EAR_RADIUS + 8} y={says || pale ? -2 : 4.5} fontSize={12.5} fontWeight={620} fill="var(--ink)">
          {fitted(ear.name, OUT_WIDTH - 34, 12.5)}
        </text>
        {(says || pale) && (
          <text x={EAR_RADIUS + 8} y={12} fontSize={12} fill="var(--soft)">
            {says ?? "not heard"}
          </text>
        )}
      </g>
    );
  }),
);
Ears.displayName = "Ears";

interface FlowPictureProps {
  readonly flow: Flow;
  /** What of it is drawn; null for all. */
  readonly sight: Sight | null;
  readonly zoom: number;
  /** Who hears what is selected, and how. */
  readonly heard: readonly HeardIn[];
  readonly svgRef: RefObject<SVGSVGElement | null>;
  readonly label: string;
  readonly selected: ReadonlySet<string>;
  readonly isLit: (node: FlowNode) => boolean;
  readonly lit: ReadonlySet<string>;
  readonly current: string | null;
  /** A thread whose end is in the hand. */
  readonly ghost: string | null;
  readonly onPick: (clicked: Clicked) => void;
  readonly onFold: (node: FlowNode) => void;
  readonly onFocus: (id: string) => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
}

/** The woven picture. Threads go below what they run to; what is not lit goes below what is. */
export const FlowPicture = ({
  flow,
  sight,
  zoom,
  heard,
  svgRef,
  label,
  selected,
  isLit,
  lit,
  current,
  ghost,
  onPick,
  onFold,
  onFocus,
  onKeyDown,
}: FlowPictureProps) => {
  const threads = useMemo(() => (sight ? threadsInSight(flow, sight) : flow.threads), [flow, sight]);
  // Where the keys are stays, however far one scrolls from it.
  const nodes = useMemo(
    () => (sight ? flow.nodes.filter((node) => node.id === current || isNodeInSight(node, sight)) : flow.nodes),
    [flow, sight, current],
  );
  const first = nodeIn(flow, current) ? current : (nodes[0]?.id ?? null);
  // All of them lie dimmed below by one setting of the group; those that are lit are drawn over them.
  const someDim = lit.size < flow.threads.length;
  const bright = someDim ? threads.filter(({ id }) => lit.has(id)) : [];
  return (
    <div className={classes.layers} style={{ width: flow.width * zoom, height: flow.height * zoom }}>
      {/* A layer of its own: what lies still is painted once, and dimmed as a whole without being painted again. */}
      <svg
        data-laid
        className={classes.laid}
        width={flow.width * zoom}
        height={flow.height * zoom}
        viewBox={`0 0 ${flow.width} ${flow.height}`}
        aria-hidden
        style={{ opacity: someDim ? DIM : 1 }}
      >
        <Threads threads={threads} plain={flow.threads.length > MANY_THREADS} />
      </svg>
      <svg
        ref={svgRef}
        className={classes.picture}
        width={flow.width * zoom}
        height={flow.height * zoom}
        viewBox={`0 0 ${flow.width} ${flow.height}`}
        role="group"
        aria-label={label}
        onKeyDown={onKeyDown}
      >
        {flow.headings.map(({ x, text }) => (
          <text key={`${x} ${text}`} x={x} y={16} fontSize={12} fill="var(--soft)">
            {text}
          </text>
        ))}
        <g>
          {bright.map((thread) => (
            <ThreadPath key={thread.id} thread={thread} />
          ))}
          <EarThreads flow={flow} heard={heard} />
          {ghost && (
            <path
              d={ghost}
              fill="none"
              stroke="var(--act)"
              strokeWidth={3}
              strokeDasharray="2 5"
              strokeLinecap="round"
            />
          )}
        </g>
        <Ears flow={flow} heard={heard} />
        {nodes.map((node) => (
          <Node
            key={node.id}
            node={node}
            selected={
              node.kind !== "opened" && node.channelIds.length > 0 && node.channelIds.every((id) => selected.has(id))
            }
            lit={isLit(node)}
            reachable={node.id === first}
            onPick={onPick}
            onFold={onFold}
            onFocus={onFocus}
          />
        ))}
      </svg>
    </div>
  );
};
