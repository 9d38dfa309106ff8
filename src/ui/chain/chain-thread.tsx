"use client";

import { useDndContext, useDraggable, useDroppable } from "@dnd-kit/core";
import { ActionIcon } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import type { KeyboardEvent } from "react";
import type { ChainItem, ChainPicture, ProcessorItem } from "@/core/layout/chain/chain-picture";
import { fitted, wrapped } from "@/core/layout/flow/fitted";
import type { Template } from "@/core/model/template";
import { threadThrough } from "@/core/processors/curves";
import { bandsOf } from "@/core/queries/chains";
import classes from "./chain.module.css";

/** Where the thread runs, and how high a box on it and one in a lane of a split are. Pixels. */
const Y = 104;
const BOX = 84;
const LANE = { height: 54, off: 46 } as const;
const STROKE = 4.4;
/** A place for a further one. */
const PLACE = 24;

const topOf = ({ lane }: ProcessorItem): number => (lane === 0 ? Y - BOX / 2 : Y + lane * LANE.off - LANE.height / 2);
const heightOf = ({ lane }: ProcessorItem): number => (lane === 0 ? BOX : LANE.height);

/** Where two branches part, for a split: drawn small, as the thread itself does it a little further on. */
const partedPath = (width: number, height: number): string =>
  `M0 ${height / 2}H${width * 0.3}C${width * 0.5} ${height / 2} ${width * 0.5} ${height * 0.3} ${width * 0.7} ${height * 0.3}H${width}M${width * 0.3} ${height / 2}C${width * 0.5} ${height / 2} ${width * 0.5} ${height * 0.7} ${width * 0.7} ${height * 0.7}H${width}`;

/** How far the thread is pulled at most, as a share of half the height of a swatch. */
const PULL = 0.82;

/**
 * A swatch on the thread, with stitched edges: the thread itself takes the shape of what the processor does, and goes on
 * where it ran. What is off while recording is pale and dashed, and the thread goes straight on below it.
 */
const Swatch = ({
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
  const height = heightOf(item);
  const [top, middle] = [topOf(item), height / 2];
  const { processor, pale } = item;
  const path =
    processor.kind === "split"
      ? partedPath(box, height)
      : threadThrough(processor, bandsOf(doc, processor.id), doc.format.sampleRateHz)
          .map(({ x, y }, at) => `${at ? "L" : "M"}${(x * box).toFixed(1)} ${(middle - y * middle * PULL).toFixed(1)}`)
          .join("");
  return (
    <g transform={`translate(${item.x} ${top})`}>
      <rect width={box} height={height} fill="var(--raised)" fillOpacity={pale ? 0.7 : 1} />
      <path
        d={`M0 0H${box}M0 ${height}H${box}`}
        stroke={colour}
        strokeWidth={1.6}
        strokeDasharray="5 4"
        strokeOpacity={pale ? 0.45 : 1}
      />
      {pale && <path d={`M0 ${middle}H${box}`} stroke={colour} strokeWidth={STROKE} strokeOpacity={0.35} />}
      <path
        d={path}
        fill="none"
        stroke={colour}
        strokeWidth={pale ? STROKE - 0.8 : STROKE}
        strokeOpacity={pale ? 0.6 : 1}
        strokeDasharray={pale ? "7 4" : undefined}
        strokeLinejoin="round"
      />
    </g>
  );
};

interface ProcessorBoxProps {
  readonly item: ProcessorItem;
  readonly box: number;
  readonly open: boolean;
  readonly reachable: boolean;
  readonly onOpen: () => void;
}

/** What is pressed of a swatch. Dragged to another place; opened by a click. */
const ProcessorBox = ({ item, box, open, reachable, onOpen }: ProcessorBoxProps) => {
  const draggable = useDraggable({ id: item.id, data: { processorId: item.processor.id } });
  return (
    <button
      ref={draggable.setNodeRef}
      type="button"
      id={`chain-${item.id}`}
      className={classes.processor}
      style={{ left: item.x, top: topOf(item), width: box, height: heightOf(item) }}
      data-open={open || undefined}
      data-dragging={draggable.isDragging || undefined}
      tabIndex={reachable ? 0 : -1}
      aria-label={[item.title, item.detail, item.state, item.steered].filter(Boolean).join(", ")}
      aria-expanded={open}
      aria-controls="processor-panel"
      onClick={onOpen}
      onPointerDown={draggable.listeners?.onPointerDown as never}
    />
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
      style={{ left: x - PLACE / 2, top: Y - PLACE / 2 }}
      size={PLACE}
      radius="xl"
      variant={before === null ? "filled" : "default"}
      data-between={before !== null || undefined}
      aria-label={label}
      data-over={droppable.isOver || undefined}
      tabIndex={reachable ? 0 : -1}
      onClick={onAdd}
    >
      <IconPlus size={14} stroke={2.2} aria-hidden />
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

/** The lines of a label: what it is called, what it is set to, and when it does less. */
const linesOf = ({ title, detail, state = "", width }: Pick<WordsProps, "title" | "detail" | "state" | "width">) => [
  ...wrapped(title, width, 12.5).map((text) => ({ text, weight: 640, fill: "var(--ink)" })),
  ...wrapped(detail, width, 12).map((text) => ({ text, weight: 400, fill: "var(--soft)" })),
  ...wrapped(state, width, 12).map((text) => ({ text, weight: 400, fill: "var(--hint)" })),
];
const LINE = 15;

const Words = ({ x, y, middle = true, ...said }: WordsProps) => (
  <text x={x} y={y} textAnchor={middle ? "middle" : "start"} fontSize={12.5}>
    {linesOf(said).map(({ text, weight, fill }, at) => (
      <tspan key={at} x={x} dy={at ? LINE : 0} fontWeight={weight} fontSize={weight > 400 ? 12.5 : 12} fill={fill}>
        {text}
      </tspan>
    ))}
  </text>
);

/** How high the thread is drawn with all that is written under it. */
const heightFor = ({ items, box }: ChainPicture): number =>
  Y +
  60 +
  LINE *
    Math.max(
      4,
      ...items.map((item) =>
        item.kind === "processor"
          ? linesOf({ title: item.title, detail: item.detail, state: item.state, width: box + 16 }).length
          : item.kind === "source"
            ? linesOf({ title: item.title, detail: item.detail, width: 96 }).length
            : 0,
      ),
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
          <Words x={item.x - 8} y={Y + 60} width={96} title={item.title} detail={item.detail} middle={false} />
        </>
      );
    case "record":
      return (
        <>
          <circle cx={item.x} cy={Y} r={9.5} fill="var(--raised)" stroke="var(--problem)" strokeWidth={2.6} />
          <circle cx={item.x} cy={Y} r={4.4} fill="var(--problem)" />
          <Words x={item.x} y={Y + 60} width={112} title="recorded here" detail={item.detail} />
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
            width={item.lane === 0 ? box + 16 : box + 20}
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
          {item.detail.split(", ").map((part, at) => (
            <text key={part} x={item.x} y={Y + 100 + at * LINE} textAnchor="middle" fontSize={12} fill="var(--soft)">
              {part}
            </text>
          ))}
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
  const held = useDndContext().active !== null;
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
      data-held={held || undefined}
      style={{ width: picture.width, height: heightFor(picture) }}
      onKeyDown={onKeyDown}
    >
      <svg width={picture.width} height={heightFor(picture)} className={classes.line} aria-hidden="true">
        <path d={linePath(picture)} fill="none" stroke={colour} strokeWidth={STROKE} />
        {picture.items.map((item) =>
          item.kind === "processor" ? <Swatch key={item.id} doc={doc} item={item} box={box} colour={colour} /> : null,
        )}
        {picture.items.map((item) => (
          <Drawn key={item.id} item={item} box={box} colour={colour} end={end} />
        ))}
      </svg>
      {picture.items.map((item) => {
        if (item.kind === "processor")
          return (
            <ProcessorBox
              key={item.id}
              item={item}
              box={box}
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
