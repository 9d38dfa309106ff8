"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import { ActionIcon } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import type { KeyboardEvent } from "react";
import type { ChainItem, ChainPicture, ProcessorItem } from "@/core/layout/chain/chain-picture";
import { fitted } from "@/core/layout/flow/fitted";
import type { Template } from "@/core/model/template";
import { miniature } from "@/core/processors/curves";
import { bandsOf } from "@/core/queries/chains";
import classes from "./chain.module.css";

/** Where the thread runs, and how high a box on it and one in a lane of a split are. Pixels. */
const Y = 104;
const HEIGHT = 226;
const BOX = 84;
const LANE = { height: 54, off: 46 } as const;
const STROKE = 4.4;

const topOf = ({ lane }: ProcessorItem): number => (lane === 0 ? Y - BOX / 2 : Y + lane * LANE.off - LANE.height / 2);
const heightOf = ({ lane }: ProcessorItem): number => (lane === 0 ? BOX : LANE.height);

const Miniature = ({
  doc,
  item,
  box,
  colour,
}: {
  readonly doc: Template;
  readonly item: ProcessorItem;
  readonly box: number;
  readonly colour: string;
}) => {
  const [width, height] = [box - 12, heightOf(item) - 12];
  if (item.processor.kind === "split")
    return (
      <path
        d={`M0 ${height / 2}H${width * 0.3}C${width * 0.5} ${height / 2} ${width * 0.5} ${height * 0.2} ${width * 0.7} ${height * 0.2}H${width}M${width * 0.3} ${height / 2}C${width * 0.5} ${height / 2} ${width * 0.5} ${height * 0.8} ${width * 0.7} ${height * 0.8}H${width}`}
        fill="none"
        stroke={colour}
        strokeWidth={2}
      />
    );
  const points = miniature(item.processor, bandsOf(doc, item.processor.id), doc.format.sampleRateHz);
  return (
    <polyline
      points={points.map(({ x, y }) => `${(x * width).toFixed(1)},${((1 - y) * height).toFixed(1)}`).join(" ")}
      fill="none"
      stroke={colour}
      strokeWidth={2}
      strokeLinejoin="round"
    />
  );
};

interface ProcessorBoxProps {
  readonly doc: Template;
  readonly item: ProcessorItem;
  readonly box: number;
  readonly colour: string;
  readonly open: boolean;
  readonly reachable: boolean;
  readonly onOpen: () => void;
}

/** A processor on the thread: what it does as a small picture. Dragged to another place; opened by a click. */
const ProcessorBox = ({ doc, item, box, colour, open, reachable, onOpen }: ProcessorBoxProps) => {
  const draggable = useDraggable({ id: item.id, data: { processorId: item.processor.id } });
  return (
    <button
      ref={draggable.setNodeRef}
      type="button"
      id={`chain-${item.id}`}
      className={classes.processor}
      style={{ left: item.x, top: topOf(item), width: box, height: heightOf(item) }}
      data-open={open || undefined}
      data-pale={item.pale || undefined}
      data-dragging={draggable.isDragging || undefined}
      tabIndex={reachable ? 0 : -1}
      aria-label={[item.title, item.detail, item.state, item.steered].filter(Boolean).join(", ")}
      aria-expanded={open}
      aria-controls="processor-panel"
      onClick={onOpen}
      onPointerDown={draggable.listeners?.onPointerDown as never}
    >
      <svg width={box - 12} height={heightOf(item) - 12} aria-hidden="true">
        <Miniature doc={doc} item={item} box={box} colour={colour} />
      </svg>
    </button>
  );
};

interface PlaceProps {
  readonly id: string;
  readonly x: number;
  readonly before: string | null;
  readonly label: string;
  readonly reachable: boolean;
  readonly onAdd: () => void;
}

const Place = ({ id, x, before, label, reachable, onAdd }: PlaceProps) => {
  const droppable = useDroppable({ id, data: { before } });
  return (
    <ActionIcon
      ref={droppable.setNodeRef}
      id={`chain-${id}`}
      className={classes.place}
      style={{ left: x - 10, top: Y - 10 }}
      size={20}
      radius="xl"
      variant="default"
      aria-label={label}
      data-over={droppable.isOver || undefined}
      tabIndex={reachable ? 0 : -1}
      onClick={onAdd}
    >
      <IconPlus size={12} stroke={2.2} aria-hidden />
    </ActionIcon>
  );
};

interface WordsProps {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly title: string;
  readonly detail: string;
  readonly state?: string;
  readonly middle?: boolean;
}

const Words = ({ x, y, width, title, detail, state = "", middle = true }: WordsProps) => (
  <text x={x} y={y} textAnchor={middle ? "middle" : "start"} fontSize={12.5}>
    <tspan x={x} fontWeight={640} fill="var(--ink)">
      {fitted(title, width, 12.5)}
    </tspan>
    <tspan x={x} dy={16} fontSize={12} fill="var(--soft)">
      {fitted(detail, width, 12)}
    </tspan>
    {state && (
      <tspan x={x} dy={15} fontSize={12} fill="var(--hint)">
        {fitted(state, width, 12)}
      </tspan>
    )}
  </text>
);

/** How what the thread goes to is filled, and written on. */
export interface End {
  readonly fill: string;
  readonly ink: string;
}

const Drawn = ({
  item,
  box,
  colour,
  end,
}: {
  readonly item: ChainItem;
  readonly box: number;
  readonly colour: string;
  readonly end: End;
}) => {
  switch (item.kind) {
    case "source":
      return (
        <>
          <circle cx={item.x} cy={Y} r={8} fill={colour} />
          <Words x={item.x - 8} y={Y + 60} width={104} title={item.title} detail={item.detail} middle={false} />
        </>
      );
    case "record":
      return (
        <>
          <circle cx={item.x} cy={Y} r={9.5} fill="var(--raised)" stroke="var(--problem)" strokeWidth={2.6} />
          <circle cx={item.x} cy={Y} r={4.4} fill="var(--problem)" />
          <Words x={item.x} y={Y + 60} width={104} title="recorded here" detail={item.detail} />
        </>
      );
    case "processor": {
      const below =
        item.lane === 0
          ? Y + 60
          : Y + item.lane * LANE.off + (item.lane < 0 ? -LANE.height / 2 - 20 : LANE.height / 2 + 14);
      return (
        <>
          <Words
            x={item.x + box / 2}
            y={below}
            width={box + 14}
            title={item.title}
            detail={item.lane < 0 ? "" : item.detail}
            state={item.lane < 0 ? "" : item.state}
          />
          {item.steered && item.lane === 0 && (
            <>
              <path
                d={`M${item.x + box / 2} 14V${Y - BOX / 2 - 4}`}
                stroke="var(--hint)"
                strokeWidth={2}
                strokeDasharray="2 4"
              />
              <text x={item.x + box / 2 + 8} y={24} fontSize={12} fill="var(--soft)">
                {item.steered}
              </text>
            </>
          )}
        </>
      );
    }
    case "tap":
      return (
        <>
          <path
            d={`M${item.x} ${Y}V${Y + 58}`}
            stroke={colour}
            strokeWidth={1.8}
            strokeDasharray={item.on ? "6 4" : "1 5"}
          />
          <circle cx={item.x} cy={Y} r={6} fill="var(--raised)" stroke={colour} strokeWidth={2} />
          <rect
            x={item.x - 38}
            y={Y + 58}
            width={76}
            height={24}
            rx={12}
            fill="var(--raised)"
            stroke="var(--dye-logwood)"
            strokeWidth={1.4}
          />
          <text x={item.x} y={Y + 74} textAnchor="middle" fontSize={12.5} fill="var(--ink)">
            {fitted(item.title, 66, 12.5)}
          </text>
          <text x={item.x} y={Y + 100} textAnchor="middle" fontSize={12} fill="var(--soft)">
            {fitted(item.detail.split(",")[0] ?? "", 76, 12)}
          </text>
          <text x={item.x} y={Y + 115} textAnchor="middle" fontSize={12} fill="var(--soft)">
            {fitted(item.detail.split(", ").slice(1).join(", "), 104, 12)}
          </text>
        </>
      );
    case "fader":
      return (
        <>
          <path
            d={`M${item.x} ${Y + 9}L${item.x + 80} ${Y - 9}V${Y + 9}Z`}
            fill={colour}
            fillOpacity={0.25}
            stroke={colour}
            strokeWidth={1}
          />
          <rect x={item.x + item.share * 80 - 1.5} y={Y - 14} width={3} height={28} fill="var(--ink)" />
          <Words x={item.x + 40} y={Y + 60} width={92} title={item.title} detail={item.detail} />
        </>
      );
    case "end":
      return (
        <>
          <rect x={item.x} y={Y - 14} width={94} height={28} rx={6} fill={end.fill} />
          <text x={item.x + 47} y={Y + 4.5} textAnchor="middle" fontSize={12.5} fontWeight={620} fill={end.ink}>
            {fitted(item.title, 84, 12.5)}
          </text>
        </>
      );
    case "place":
      return null;
    default:
      return item satisfies never;
  }
};

/** The line itself: straight, and in two lanes through a split. */
const linePath = ({ width, parted }: ChainPicture): string => {
  let [path, x] = [`M0 ${Y}`, 0];
  for (const { from, to } of parted) {
    const bend = 14;
    path += `H${from}`;
    for (const lane of [-LANE.off, LANE.off])
      path += `M${from} ${Y}C${from + bend} ${Y} ${from} ${Y + lane} ${from + bend + 2} ${Y + lane}H${to - bend - 2}C${to} ${Y + lane} ${to - bend} ${Y} ${to} ${Y}`;
    path += `M${to} ${Y}`;
    x = to;
  }
  return `${path}H${Math.max(x, width)}`;
};

interface ChainThreadProps {
  readonly doc: Template;
  readonly picture: ChainPicture;
  readonly label: string;
  readonly colour: string;
  readonly end: End;
  readonly openId: string | null;
  readonly current: string | null;
  readonly onOpen: (item: ProcessorItem) => void;
  readonly onAdd: (before: string | null) => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
}

/** The thread of a channel from its line to its bus, with everything that stands on it. */
export const ChainThread = ({
  doc,
  picture,
  label,
  colour,
  end,
  openId,
  current,
  onOpen,
  onAdd,
  onKeyDown,
}: ChainThreadProps) => {
  const onThread = picture.items.filter((item) => item.kind === "processor" || item.kind === "place");
  const first = onThread.some(({ id }) => id === current) ? current : (onThread[0]?.id ?? null);
  const { box } = picture;
  const called = (before: string | null): string => {
    const item = picture.items.find((one) => one.kind === "processor" && one.processor.id === before);
    return item?.kind === "processor"
      ? `Add a processor before the ${item.title.toLowerCase()}`
      : "Add a processor at the end";
  };
  return (
    <div
      className={classes.thread}
      role="group"
      aria-label={label}
      style={{ width: picture.width, height: HEIGHT }}
      onKeyDown={onKeyDown}
    >
      <svg width={picture.width} height={HEIGHT} className={classes.line} aria-hidden="true">
        <path d={linePath(picture)} fill="none" stroke={colour} strokeWidth={STROKE} />
        {picture.items.map((item) => (
          <Drawn key={item.id} item={item} box={box} colour={colour} end={end} />
        ))}
      </svg>
      {picture.items.map((item) => {
        if (item.kind === "processor")
          return (
            <ProcessorBox
              key={item.id}
              doc={doc}
              item={item}
              box={box}
              colour={colour}
              open={item.id === openId}
              reachable={item.id === first}
              onOpen={() => onOpen(item)}
            />
          );
        return item.kind === "place" ? (
          <Place
            key={item.id}
            id={item.id}
            x={item.x}
            before={item.before}
            label={called(item.before)}
            reachable={item.id === first}
            onAdd={() => onAdd(item.before)}
          />
        ) : null;
      })}
    </div>
  );
};
