"use client";

import { memo } from "react";
import { type Thread, threadPath } from "@/core/layout/loom";
import { LOOM_WIDTH } from "../grid/metrics";
import { dyeVar } from "../theme/tokens";
import classes from "./loom.module.css";

interface LoomProps {
  readonly threads: readonly Thread[];
  readonly selected: ReadonlySet<string>;
  readonly troubled: ReadonlySet<string>;
  /** Threads whose end is being dragged. */
  readonly ghost: readonly { readonly fromY: number; readonly toY: number }[];
}

/**
 * The threads from jacks to rows. Dashed: something is wrong with the line; thick: selected. The grid says the same in
 * words.
 */
export const Loom = memo(({ threads, selected, troubled, ghost }: LoomProps) => (
  <div className={classes.loom} aria-hidden="true">
    <svg width={LOOM_WIDTH} height="100%">
      {threads.map((thread) => (
        <path
          key={`${thread.trackId} ${thread.lineId}`}
          d={threadPath(thread, LOOM_WIDTH)}
          fill="none"
          stroke={dyeVar(thread.colour)}
          strokeWidth={selected.has(thread.trackId) ? 4 : 2.2}
          strokeDasharray={troubled.has(thread.lineId) ? "5 4" : undefined}
          strokeOpacity={selected.size && !selected.has(thread.trackId) ? 0.55 : 0.9}
        />
      ))}
      {ghost.map((thread, at) => (
        <path
          key={at}
          d={threadPath(thread, LOOM_WIDTH)}
          fill="none"
          stroke="var(--act)"
          strokeWidth={3}
          strokeDasharray="2 5"
          strokeLinecap="round"
        />
      ))}
    </svg>
  </div>
));
Loom.displayName = "Loom";
