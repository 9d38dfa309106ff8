"use client";

import {
  DndContext,
  type DragEndEvent,
  type DragMoveEvent,
  getClientRect,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { useElementSize } from "@mantine/hooks";
import {
  type KeyboardEvent,
  useCallback,
  useDeferredValue,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { flushSync } from "react-dom";
import { besideIn, nodeIn } from "@/core/layout/flow/beside";
import { type HeardIn, heardOf } from "@/core/layout/flow/ears";
import { layoutFlow } from "@/core/layout/flow/flow";
import { type Sight, scrollTo, sightOf } from "@/core/layout/flow/in-sight";
import { isLitNode, litBy, litThreads } from "@/core/layout/flow/lit";
import type { Flow, FlowNode, FlowView } from "@/core/layout/flow/picture";
import { withLevels } from "@/core/layout/flow/with-levels";
import { fittingZoom, stepZoom, zoomedView } from "@/core/layout/flow/zoom";
import { mixLevels } from "@/core/levels/mix-levels";
import type { ChannelId, SendId } from "@/core/model/ids";
import { isParked, outermostFolder } from "@/core/model/read-template";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";
import { graphOf } from "@/core/routing/graph";
import type { Act } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, runById, usePageActs } from "../frame/page-acts";
import { newIds } from "../grid/grid-focus";
import { useDesk, useDeskStore, useDoing, useRig, useStudio } from "../state/desk-context";
import { useJump } from "../state/jump";
import { ControlsPanel } from "./controls-panel";
import classes from "./flow.module.css";
import { FlowInspector } from "./flow-inspector";
import { type Clicked, FlowPicture, isFamily } from "./flow-picture";
import { FlowToolbar } from "./flow-toolbar";
import { saveSvg } from "./save-svg";
import { useFlowActs } from "./use-flow-acts";
import { type FlowLook, useFlowLook } from "./use-flow-look";

const MEASURING = { droppable: { measure: getClientRect } };

/** Everything in one column between two nodes. */
const between = (flow: Flow, from: FlowNode, to: FlowNode): readonly ChannelId[] => {
  const [top, bottom] = from.y < to.y ? [from.y, to.y] : [to.y, from.y];
  return flow.nodes.flatMap((node) => (node.x === to.x && node.y >= top && node.y <= bottom ? node.channelIds : []));
};

/** Selecting in the picture: one, more by Ctrl, a range in its column by Shift. */
const useSelecting = (flow: Flow) => {
  const desk = useDeskStore();
  const anchor = useRef<string | null>(null);
  const [current, setCurrent] = useState<string | null>(null);
  const pick = useCallback(
    ({ node, add, range, from: keyed }: Clicked): void => {
      if (!node.channelIds.length) return;
      const { selected } = desk.getState();
      const begun = nodeIn(flow, anchor.current);
      const holds = begun?.x === node.x && begun.channelIds.every((id) => selected.includes(id));
      const from = range ? (holds ? begun : keyed) : undefined;
      if (from && from.x === node.x) {
        anchor.current = from.id;
        desk.setState({ selected: [...new Set(between(flow, from, node))] });
        return;
      }
      anchor.current = node.id;
      const all = node.channelIds.every((id) => selected.includes(id));
      const added = all
        ? selected.filter((id) => !node.channelIds.includes(id))
        : [...new Set([...selected, ...node.channelIds])];
      desk.setState({ selected: add ? added : node.channelIds });
    },
    [desk, flow],
  );
  return { current, setCurrent, pick };
};

/** Nobody's headphones: nothing is selected, or several. */
const NOBODY: readonly HeardIn[] = [];

/** What is selected has the keys again, once the palette has let go of them. */
const focusSelected = (): void => document.querySelector<SVGGElement>("[id^=flow-][aria-pressed=true]")?.focus();

const focusNode = (id: string): void => document.getElementById(`flow-${id}`)?.focus();

/**
 * What of the picture is drawn: what is seen and somewhat more. One that is to have the keys is brought into sight
 * first.
 */
const useSight = (
  canvas: React.RefObject<HTMLDivElement | null>,
  { height, zoom }: { readonly height: number; readonly zoom: number },
) => {
  const [sight, setSight] = useState<Sight>(() => sightOf({ top: 0, height: height / zoom }));
  const [whole, setWhole] = useState(false);
  const look = useCallback(() => {
    const { scrollTop: top = 0, clientHeight = 0 } = canvas.current ?? {};
    const now = sightOf({ top: top / zoom, height: clientHeight / zoom });
    setSight((was) => (was.from === now.from && was.to === now.to ? was : now));
  }, [canvas, zoom]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a window of another height shows another part
  useLayoutEffect(look, [look, height]);
  const show = useCallback(
    (node: FlowNode): void => {
      const place = canvas.current;
      const to = place && scrollTo(node, { top: place.scrollTop / zoom, height: place.clientHeight / zoom });
      if (place && to !== null && !document.getElementById(`flow-${node.id}`)) {
        place.scrollTop = to * zoom;
        flushSync(look);
      }
      focusNode(node.id);
    },
    [canvas, look, zoom],
  );
  /** Does something while all of the picture is drawn. */
  const withWhole = useCallback((act: () => void): void => {
    flushSync(() => setWhole(true));
    act();
    setWhole(false);
  }, []);
  return { sight: whole ? null : sight, look, show, withWhole };
};

interface Keyed {
  readonly flow: Flow;
  readonly pick: (clicked: Clicked) => void;
  readonly show: (node: FlowNode) => void;
  readonly fold: (node: FlowNode) => void;
  readonly clear: () => void;
}

/** Along the threads and the siblings by arrows. */
const onKey = ({ flow, pick, show, fold, clear }: Keyed, event: KeyboardEvent): void => {
  const id = (event.target as Element).id.slice("flow-".length);
  const node = nodeIn(flow, id);
  if (!node || event.altKey || event.ctrlKey || event.metaKey) return;
  const beside = besideIn(flow, id);
  const ways: Readonly<Record<string, string | null>> = {
    ArrowLeft: beside.up,
    ArrowRight: beside.down,
    ArrowUp: beside.before,
    ArrowDown: beside.after,
  };
  if (event.key in ways) {
    event.preventDefault();
    const to = nodeIn(flow, ways[event.key]);
    if (!to) return;
    show(to);
    if (to.kind !== "opened") pick({ node: to, add: false, range: event.shiftKey, from: node });
  } else if (event.key === "Enter" || event.key === " ") {
    event.preventDefault();
    if (isFamily(node) && event.key === "Enter") fold(node);
    else pick({ node, add: event.key === " ", range: false });
  } else if (event.key === "Escape") clear();
};

interface Held {
  readonly node: FlowNode;
  readonly x: number;
  readonly y: number;
}

const ghostPath = ({ node, x, y }: Held): string => {
  const [fromX, fromY] = [node.x + node.width, node.y + node.height / 2];
  const bend = Math.max(24, Math.abs(x - fromX) / 2);
  return `M${fromX} ${fromY}C${fromX + bend} ${fromY} ${x - bend} ${y} ${x} ${y}`;
};

/** The very same each time: with others every node would be drawn again, whatever changed. */
const FROM_A_WHILE = { activationConstraint: { distance: 6 } };

/**
 * Dragging the end of a thread: onto a bus, the main bus or outputs it is routed there, onto a return it is sent there.
 */
const useThreadDrag = (svg: React.RefObject<SVGSVGElement | null>, zoom: number) => {
  const desk = useDeskStore();
  const { act } = useDoing();
  const [held, setHeld] = useState<Held | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, FROM_A_WHILE));
  const onDragMove = ({ active, activatorEvent, delta }: DragMoveEvent): void => {
    const box = svg.current?.getBoundingClientRect();
    const start = activatorEvent as PointerEvent;
    const node = active.data.current?.node as FlowNode | undefined;
    if (box && node)
      setHeld({ node, x: (start.clientX + delta.x - box.left) / zoom, y: (start.clientY + delta.y - box.top) / zoom });
  };
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    setHeld(null);
    const [node, target] = [
      active.data.current?.node as FlowNode | undefined,
      over?.data.current?.node as FlowNode | undefined,
    ];
    if (!node || !target || node.id === target.id) return;
    const { selected } = desk.getState();
    const channelIds = node.channelIds.every((id) => selected.includes(id)) ? selected : node.channelIds;
    const { output } = target;
    if (output) act({ edits: [{ kind: "entries.set", table: "channels", ids: channelIds, set: { output } }] });
    else
      act({
        edits: [
          {
            kind: "sends.add",
            sends: channelIds.map((fromId) => ({ id: newIds<SendId>("send"), fromId, toId: target.id as ChannelId })),
          },
        ],
      });
  };
  return { held, sensors, onDragMove, onDragEnd, onDragCancel: () => setHeld(null) };
};

const Empty = () => (
  <div className={classes.empty}>
    <h2>Nothing flows yet</h2>
    <p>
      Tracks stand here at the left, and their threads run to the buses that sum them. Lay tracks in the input list; or
      begin with where things go: <kbd>Alt N</kbd> adds a family with its folder, its bus and its tracks, for example
      Brass, and <kbd>Alt A</kbd> a bus alone.
    </p>
  </div>
);

/** What selecting means elsewhere is tracks: a bus that is selected here stays selected here only. */
const useLeaving = (): void => {
  const desk = useDeskStore();
  useEffect(
    () => () =>
      desk.setState(({ selected, doc }) => ({ selected: selected.filter((id) => doc.channels[id]?.kind === "track") })),
    [desk],
  );
};

const MOVING: Moving = [
  ["← →", "Along the thread, up and down"],
  ["↑ ↓", "Along what stands in one column"],
  ["Shift ↑ ↓", "Select a range"],
  ["Space", "Add to the selection, or take out of it"],
  ["Enter", "Select; on a family fold or unfold it"],
  ["Esc", "Select nothing"],
];

/** The picture as it is laid in its window, at its zoom, with levels where they are wanted. */
const useLaid = (
  doc: Template,
  {
    rig,
    studio,
    look: { view, zoom, levels },
    width,
    height,
  }: {
    readonly rig: Rig;
    readonly studio: Studio;
    readonly look: FlowLook;
    readonly width: number;
    readonly height: number;
  },
) => {
  const frame = useMemo(
    () => ({ ...view, width: Math.max(640, width - 2), height: Math.max(240, height - 2) }),
    [view, width, height],
  );
  const laid = useMemo(() => layoutFlow(doc, rig, zoomedView(frame, zoom)), [doc, rig, frame, zoom]);
  const flow = useMemo(
    () => (levels ? withLevels(laid, mixLevels(doc, { rig, studio })) : laid),
    [laid, levels, doc, rig, studio],
  );
  return { frame, flow };
};

/** Who hears the one that is selected. It follows the selection a moment later, and no click waits for it. */
const useHeard = (doc: Template, rig: Rig, selected: readonly ChannelId[]): readonly HeardIn[] => {
  const settled = useDeferredValue(selected);
  const [one, ...more] = settled;
  return useMemo(() => (one && !more.length ? heardOf(doc, rig, one) : NOBODY), [doc, rig, one, more.length]);
};

/** All that can be done on the screen: to what is selected, and with how the picture is looked at. */
const useScreenActs = ({
  look: { alone, setAlone, foldAll, zoom, setZoom },
  frame,
  canvas,
}: {
  readonly look: FlowLook;
  readonly frame: FlowView;
  readonly canvas: React.RefObject<HTMLDivElement | null>;
}) => {
  const desk = useDeskStore();
  const rig = useRig();
  const does = useFlowActs();
  const aloneNow = useCallback((): void => {
    const { selected: now } = desk.getState();
    setAlone(alone ? null : now.length ? now : null);
  }, [desk, alone, setAlone]);
  const fit = useCallback(() => {
    const whole = fittingZoom(desk.getState().doc, rig, frame);
    setZoom(zoom === whole ? 1 : whole);
    if (canvas.current) canvas.current.scrollTop = 0;
  }, [desk, rig, frame, zoom, setZoom, canvas]);
  const onZoom = useCallback((by: 1 | -1) => setZoom(stepZoom(zoom, by)), [zoom, setZoom]);
  const acts = useCallback(
    (): readonly Act[] => [
      ...does(),
      {
        id: "alone",
        label: alone ? "Light what is selected again" : "Light this alone",
        key: keyOf("alone"),
        whyNot: alone || desk.getState().selected.length ? undefined : "Select something first.",
        run: aloneNow,
      },
      {
        id: "fold-all",
        label: "Fold or unfold all families",
        key: keyOf("fold-all"),
        scope: "list",
        run: foldAll,
      },
      {
        id: "fit",
        label: "Fit all of the picture in view, or as large as usual",
        key: keyOf("fit"),
        scope: "list",
        run: fit,
      },
      { id: "smaller", label: "Make the picture smaller", scope: "list", run: () => onZoom(-1) },
      { id: "larger", label: "Make the picture larger", scope: "list", run: () => onZoom(1) },
    ],
    [does, desk, alone, aloneNow, foldAll, fit, onZoom],
  );
  usePageActs(acts, "the signal flow", MOVING);
  return { acts, aloneNow, onZoom };
};

/** Takes a jump to a channel: what is folded away, parked or beside what is looked at comes into the picture first. */
const useJumpIn = ({
  flow,
  look,
  show,
}: {
  readonly flow: Flow;
  readonly look: FlowLook;
  readonly show: (node: FlowNode) => void;
}): void => {
  const desk = useDeskStore();
  /** What is to have the keys as soon as it is drawn. */
  const [wanted, setWanted] = useState<ChannelId | null>(null);
  useJump({
    view: "flow",
    kinds: ["channel"],
    take: ({ id }) => {
      const { doc } = desk.getState();
      const channel = doc.channels[id];
      if (!channel) return;
      const family = outermostFolder(doc, id);
      if (family && look.view.folded.has(family)) look.fold(family);
      look.setView({ within: null, ...(isParked(channel) ? { parked: true } : {}) });
      desk.setState({ selected: [id] });
      setWanted(id);
    },
    focus: () => focusSelected(),
  });
  useEffect(() => {
    const node = wanted ? nodeIn(flow, wanted) : undefined;
    if (!node) return;
    show(node);
    // Not drawn yet where the window has only opened: then with the next picture.
    if (document.activeElement?.id === `flow-${node.id}`) setWanted(null);
  }, [wanted, flow, show]);
};

/** The woven picture of a template: what goes where, lit along what is selected. */
export const FlowScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const selected = useDesk((desk) => desk.selected);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const desk = useDeskStore();
  const rig = useRig();
  const look = useFlowLook(doc);
  const svg = useRef<SVGSVGElement>(null);
  const [controls, setControls] = useState(false);
  const { ref: placeRef, width, height } = useElementSize();
  const { ways, alone, fold } = look;
  const studio = useStudio();
  const { zoom } = look;
  const { frame, flow } = useLaid(doc, { rig, studio, look, width, height });
  const graph = graphOf(doc);
  const lit = useMemo(() => litBy(graph, alone ?? selected, ways), [graph, alone, selected, ways]);
  const bright = useMemo(() => litThreads(graph, lit, flow.threads), [graph, lit, flow]);
  const heard = useHeard(doc, rig, selected);
  const isLit = useCallback((node: FlowNode) => isLitNode(lit, node), [lit]);
  const canvas = useRef<HTMLDivElement>(null);
  const { sight, look: onScroll, show, withWhole } = useSight(canvas, { height, zoom });
  const { current, setCurrent, pick } = useSelecting(flow);
  const drag = useThreadDrag(svg, zoom);
  const { acts, aloneNow, onZoom } = useScreenActs({ look, frame, canvas });
  useLeaving();
  const save = useCallback(
    () => withWhole(() => svg.current && saveSvg(svg.current, `${desk.getState().doc.name}, signal flow`)),
    [desk, withWhole],
  );
  const switchControls = useCallback(() => setControls((shown) => !shown), []);
  const run = useCallback((id: string): void => runById(acts, id), [acts]);
  const onFold = useCallback((node: FlowNode) => node.folderId && fold(node.folderId), [fold]);
  const clear = () => desk.setState({ selected: [] });
  const go = useCallback(
    (id: ChannelId) => {
      desk.setState({ selected: [id] });
      const node = nodeIn(flow, id);
      if (node) show(node);
    },
    [desk, flow, show],
  );
  useJumpIn({ flow, look, show });
  const empty = flow.nodes.every(({ kind }) => kind === "main" || kind === "out");
  return (
    <DndContext
      sensors={drag.sensors}
      collisionDetection={pointerWithin}
      measuring={MEASURING}
      onDragMove={drag.onDragMove}
      onDragEnd={drag.onDragEnd}
      onDragCancel={drag.onDragCancel}
    >
      <div className={classes.whole}>
        <div className={classes.screen}>
          <h1 className="visually-hidden">Signal flow of {doc.name}</h1>
          <section className={classes.work} aria-label="Signal flow">
            <div ref={placeRef} className={classes.place}>
              <div ref={canvas} className={classes.canvas} onScroll={onScroll}>
                {width > 0 && (
                  <FlowPicture
                    flow={flow}
                    sight={sight}
                    zoom={zoom}
                    heard={heard}
                    svgRef={svg}
                    label={`Signal flow of ${doc.name}`}
                    selected={new Set<string>(selected)}
                    isLit={isLit}
                    lit={bright}
                    current={current}
                    ghost={drag.held ? ghostPath(drag.held) : null}
                    onPick={pick}
                    onFold={onFold}
                    onFocus={setCurrent}
                    onKeyDown={(event) => onKey({ flow, pick, show, fold: onFold, clear }, event)}
                  />
                )}
              </div>
              {empty && <Empty />}
            </div>
          </section>
          {findingsOpen ? (
            <FindingsPanel />
          ) : controls ? (
            <ControlsPanel onGo={go} onClose={() => setControls(false)} />
          ) : (
            <FlowInspector acts={acts} heard={heard} onGo={go} />
          )}
        </div>
        <FlowToolbar
          doc={doc}
          look={look}
          onAlone={aloneNow}
          controls={controls}
          onControls={switchControls}
          onZoom={onZoom}
          onDo={run}
          onSave={save}
        />
      </div>
    </DndContext>
  );
};
