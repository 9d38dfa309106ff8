"use client";

import { Menu } from "@mantine/core";
import type { ReactNode } from "react";
import type { Life } from "@/contracts/answers";
import { type Knot, type LifeThread, lifeThread } from "@/core/layout/life-thread";
import { sayDate } from "../shared/format-date";
import { PageLink } from "../shared/page-link";
import { sayDayShort } from "./dates";
import classes from "./life.module.css";

const R = { version: 6.5, now: 8, began: 5 } as const;
const DOWN = 46;
/** Above the names of the knots. */
const RISE = 78;
const ROW = 40;

const below = (fromX: number, x: number, y: number): string =>
  `M${fromX},${y} C${fromX + (x - fromX) * 0.25},${y + DOWN * 0.6} ${x - (x - fromX) * 0.35},${y + DOWN} ${x},${y + DOWN}`;
const above = (fromX: number, x: number, y: number, row: number): string => {
  const to = y - RISE - ROW * row;
  return `M${fromX},${y} C${fromX + 40},${y} ${fromX + 50},${to} ${fromX + 90},${to} L${x},${to}`;
};

const Threads = ({ thread }: { readonly thread: LifeThread }) => {
  const { knots, sessions, branches, y } = thread;
  const [first, last] = [knots[0], knots.at(-1)];
  return (
    <svg width={thread.width} height={thread.height} className={classes.threads} aria-hidden="true">
      {branches.map(({ id, fromX, x, row }) => (
        <g key={id}>
          <path d={above(fromX, x, y, row)} className={classes.branch} />
          <circle cx={x} cy={y - RISE - ROW * row} r={6.5} className={classes.branchKnot} />
        </g>
      ))}
      {first && last && <line x1={first.x} x2={last.x} y1={y} y2={y} className={classes.thread} />}
      {sessions.map(({ id, fromX, x, planned }) => (
        <g key={id}>
          <path d={below(fromX, x, y)} className={classes.hanging} />
          <circle cx={x} cy={y + DOWN} r={5.5} className={planned ? classes.planned : classes.done} />
        </g>
      ))}
      {knots.map(({ kind, revision, x }) => (
        <circle key={`${kind} ${revision}`} cx={x} cy={y} r={R[kind]} className={classes[`${kind}Knot`]} />
      ))}
    </svg>
  );
};

interface KnotMenu {
  readonly knot: Knot;
  readonly y: number;
  readonly children: ReactNode;
}

/** A knot as what can be pressed: its name above it, and what can be done with it. */
const KnotButton = ({ knot, y, children }: KnotMenu) => {
  const when = knot.kind === "now" ? "today" : sayDate(knot.at);
  return (
    <li className={classes.knot} style={{ left: knot.x, top: y - 52 }}>
      <Menu position="bottom-start">
        <Menu.Target>
          <button type="button" aria-label={`${knot.name}, revision ${knot.revision}, ${when}`}>
            <strong>{knot.name}</strong>
            <span suppressHydrationWarning>{when}</span>
          </button>
        </Menu.Target>
        <Menu.Dropdown>{children}</Menu.Dropdown>
      </Menu>
    </li>
  );
};

interface LifePictureProps {
  readonly life: Life;
  readonly room: number;
  readonly menu: (knot: Knot) => ReactNode;
}

/** Versions as knots on one thread, what branched off above it, sessions hanging below. */
export const LifePicture = ({ life, room, menu }: LifePictureProps) => {
  const thread = lifeThread(life, room);
  return (
    <div className={classes.picture}>
      <div className={classes.drawn} style={{ width: thread.width, height: thread.height }}>
        <Threads thread={thread} />
        <ol aria-label="Versions">
          {thread.knots.map((knot) => (
            <KnotButton key={`${knot.kind} ${knot.revision}`} knot={knot} y={thread.y}>
              {menu(knot)}
            </KnotButton>
          ))}
        </ol>
        <ul aria-label="Templates that branched off">
          {thread.branches.map(({ id, name, x, row }) => (
            <li key={id} className={classes.branched} style={{ left: x + 13, top: thread.y - RISE - ROW * row }}>
              <PageLink href={`/templates/${id}/inputs`}>{name}</PageLink>
            </li>
          ))}
        </ul>
        <ul aria-label="Sessions by the version they came from">
          {thread.sessions.map(({ id, name, date, x }) => (
            <li key={id} className={classes.hung} style={{ left: x, top: thread.y + DOWN + 9 }}>
              <PageLink href={`/templates/${id}/inputs`} aria-label={`${sayDayShort(date)}, ${name}`}>
                {sayDayShort(date)}
              </PageLink>
            </li>
          ))}
        </ul>
      </div>
      {thread.more > 0 && <p className={classes.soft}>{thread.more} older sessions are in the list below only.</p>}
    </div>
  );
};
