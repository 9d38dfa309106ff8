import { IconAlertTriangle, IconCheck, IconCircleDashed, IconVolumeOff } from "@tabler/icons-react";
import { memo } from "react";
import type { CueHead } from "@/core/layout/cue-matrix";
import { counted } from "@/core/units/counted";
import { formatMs } from "@/core/units/milliseconds";
import type { CellHandlers } from "./cue-cell";
import classes from "./cues.module.css";
import { HEADS } from "./use-cue-cursor";

/** A word and a shape for each state; never colour alone. */
const STATES: {
  readonly [S in CueHead["state"]]: { readonly word: string; readonly tone: string; readonly Icon: typeof IconCheck };
} = {
  "on-time": { word: "on time", tone: "well", Icon: IconCheck },
  near: { word: "near", tone: "hint", Icon: IconAlertTriangle },
  late: { word: "late", tone: "problem", Icon: IconAlertTriangle },
  wet: { word: "wet only", tone: "soft", Icon: IconCircleDashed },
  untold: { word: "no target", tone: "soft", Icon: IconCircleDashed },
  unheard: { word: "not heard", tone: "hint", Icon: IconVolumeOff },
  "kept-out": { word: "mix-minus", tone: "well", Icon: IconCheck },
  "comes-back": { word: "comes back", tone: "problem", Icon: IconAlertTriangle },
  nobody: { word: "nobody", tone: "soft", Icon: IconCircleDashed },
};

interface HeadProps {
  readonly head: CueHead;
  readonly id: string;
  readonly index: number;
  readonly selected: boolean;
  readonly active: boolean;
  readonly tight: boolean;
  /** What the checks tell of it, in words. */
  readonly told: readonly string[];
  readonly onDown: CellHandlers["down"];
  readonly onOpen: () => void;
}

/** What stands over a cue: who, where it goes out, what they play, and how late they hear it. */
export const Head = memo(({ head, id, index, selected, active, tight, told, onDown, onOpen }: HeadProps) => {
  const { cue, output, plays, latest, state } = head;
  const { word, tone, Icon } = STATES[state];
  const ms = latest ? formatMs(latest.ms) : null;
  const against = latest
    ? `${latest.targetMs === null ? "" : `of ${latest.targetMs} · `}${latest.direct ? "direct" : "computer"}`
    : "";
  return (
    <div
      id={id}
      role="columnheader"
      tabIndex={-1}
      aria-colindex={index + 2}
      aria-selected={selected}
      aria-label={`${cue.name}, ${output}${plays ? `, plays ${plays}` : ""}${ms ? `, own sound after ${ms} ${against}` : ""}, ${told.length ? `${counted(told.length, "finding")}, ` : ""}${word}`}
      title={told.join("\n") || undefined}
      className={classes.head}
      data-tone={tone}
      data-selected={selected || undefined}
      data-active={active || undefined}
      data-tight={tight || undefined}
      onPointerDown={(event) => event.button === 0 && onDown(HEADS, cue.id, event.shiftKey)}
      onDoubleClick={onOpen}
    >
      <span className={classes.who}>
        <b>{cue.name}</b>
        <span className={classes.state}>
          <Icon size={15} stroke={1.9} aria-hidden />
          {!tight && <span>{word}</span>}
        </span>
      </span>
      {told.length > 0 && (
        <span className={classes.told} aria-hidden>
          {told.length}
        </span>
      )}
      <span className={classes.where}>{plays && !tight ? `${output} · ${plays}` : output}</span>
      <span className={classes.late}>
        <b>{ms ?? "–"}</b> {tight ? word : against}
      </span>
    </div>
  );
});
Head.displayName = "Head";
