import { type CSSProperties, type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Draft } from "@/core/layout/pass-draft";
import type { ChannelId, PassId } from "@/core/model/ids";
import type { Template } from "@/core/model/template";
import { formatBytes } from "@/core/units/bytes";
import { inList, wayOf } from "../shared/grid-core";
import { keepFocus } from "../shared/keep-focus";
import { useInSight } from "../shared/use-in-sight";
import { dyeVar } from "../theme/tokens";
import classes from "./passes.module.css";

interface PassDraftProps {
  readonly doc: Template;
  readonly draft: Draft;
  readonly chosen: PassId | null;
  readonly onChoose: (id: PassId) => void;
  readonly onToggle: (passId: PassId, trackId: ChannelId, on: boolean) => boolean;
  readonly onSettings: () => void;
}

const cellId = (passId: string, trackId: string): string => `pass-${passId}-${trackId}`;
const HEAD = "head";
/** Passes that a page goes on by. */
const PAGE = 5;

const repatchInWords = (
  doc: Template,
  lines: readonly string[],
): { readonly short: string; readonly long: string } => ({
  short: lines.length ? `${lines.length} to re-patch` : "as before",
  long: lines.map((id) => doc.lines[id as never]?.source || "a line").join(", "),
});

const Heads = ({ warps }: Pick<Draft, "warps">) => (
  <div role="row" aria-rowindex={1} className={classes.names}>
    <span role="columnheader" className={classes.corner}>
      <span className="visually-hidden">Pass</span>
    </span>
    {warps.map(({ id, name }) => (
      <span key={id} role="columnheader" className={classes.warpName}>
        <span title={name}>{name || "without a name"}</span>
      </span>
    ))}
    {["Takes", "Disk", "Patching"].map((word) => (
      <span key={word} role="columnheader" className={classes.cost}>
        {word}
      </span>
    ))}
  </div>
);

/** What can be pressed in a row: column 0 is its name, then one for each track. */
interface Pressed {
  readonly onName: (passId: PassId) => void;
  readonly onCrossing: (passId: PassId, n: number) => void;
  readonly onSettings: () => void;
}

interface WeftProps extends Pressed {
  readonly doc: Template;
  readonly weft: Draft["wefts"][number];
  readonly warps: Draft["warps"];
  /** From 0. */
  readonly n: number;
  readonly chosen: boolean;
  /** The cell that has the keys. */
  readonly active: string | undefined;
}

const Weft = ({ doc, weft, warps, n, chosen, active, onName, onCrossing, onSettings }: WeftProps) => {
  const { pass, crossings, minutes, bytes, repatched, running } = weft;
  const patch = repatchInWords(doc, repatched);
  const armed = crossings.filter((one) => one === "armed").length;
  const head = cellId(pass.id, HEAD);
  return (
    <div
      role="row"
      aria-rowindex={n + 2}
      className={classes.weft}
      data-running={running || undefined}
      data-chosen={chosen || undefined}
    >
      <div
        id={head}
        role="rowheader"
        tabIndex={-1}
        className={classes.passName}
        data-active={active === head || undefined}
        onPointerDown={() => onName(pass.id)}
        onDoubleClick={onSettings}
      >
        <span className="mono">{n + 1}</span> <b>{pass.name}</b>{" "}
        <span>{running ? "now" : pass.ran ? "recorded" : pass.note || (armed === 1 ? "" : `${armed} tracks`)}</span>
      </div>
      {warps.map(({ id, name, colour }, m) => {
        const crossing = crossings[m] ?? "none";
        const cell = cellId(pass.id, id);
        return (
          <div
            key={id}
            id={cell}
            role="gridcell"
            tabIndex={-1}
            aria-label={`${name} in ${pass.name}: ${crossing === "none" ? "not armed" : crossing}`}
            className={classes.crossing}
            data-is={crossing}
            data-active={active === cell || undefined}
            style={{ "--thread": colour ? dyeVar(colour) : "var(--soft)" } as CSSProperties}
            onPointerDown={(event) => event.button === 0 && onCrossing(pass.id, m)}
          >
            <i />
          </div>
        );
      })}
      <span role="gridcell" className={classes.cost}>
        {Math.round(minutes)} min
      </span>
      <span role="gridcell" className={classes.cost}>
        {formatBytes(bytes)}
      </span>
      <span role="gridcell" className={classes.cost} title={patch.long} data-patch={repatched.length > 0 || undefined}>
        {patch.short}
      </span>
    </div>
  );
};

/** Tracks the warp, passes the weft: raised where one is armed, small where it is recorded already. */
export const PassDraft = ({ doc, draft, chosen, onChoose, onToggle, onSettings }: PassDraftProps) => {
  const { warps, wefts } = draft;
  const grid = useRef<HTMLDivElement>(null);
  const [column, setColumn] = useState(0);
  const row = Math.max(
    0,
    wefts.findIndex(({ pass }) => pass.id === chosen),
  );
  const at = Math.min(column, warps.length);
  useEffect(() => {
    if (document.activeElement === document.body) grid.current?.focus();
  }, []);
  const toggle = (passId: PassId, n: number): void => {
    const warp = warps[n];
    const weft = wefts.find(({ pass }) => pass.id === passId);
    if (warp && weft) onToggle(passId, warp.id, weft.crossings[n] !== "armed");
  };
  const press = (event: KeyboardEvent): void => {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const pass = wefts[row]?.pass;
    if (!pass) return;
    const way = wayOf(event, PAGE);
    const go =
      way &&
      (() => {
        if (way.down) onChoose(wefts[inList(row + way.down, wefts.length)]?.pass.id ?? pass.id);
        else setColumn(inList(at + way.right, warps.length + 1));
      });
    const open = at > 0 ? () => toggle(pass.id, at - 1) : onSettings;
    const act = go ?? { " ": () => at > 0 && toggle(pass.id, at - 1), Enter: open }[event.key];
    if (!act) return;
    event.preventDefault();
    if (!chosen) onChoose(pass.id);
    act();
  };
  const active = wefts[row] ? cellId(wefts[row].pass.id, at > 0 ? (warps[at - 1]?.id ?? HEAD) : HEAD) : undefined;
  const pressed = useInSight({ cell: active, place: active ?? "" });
  const under = {
    onName: (passId: PassId) => {
      pressed(cellId(passId, HEAD));
      onChoose(passId);
      setColumn(0);
    },
    onCrossing: (passId: PassId, n: number) => {
      pressed(cellId(passId, warps[n]?.id ?? HEAD));
      onChoose(passId);
      setColumn(n + 1);
      toggle(passId, n);
    },
    onSettings,
  };
  return (
    <div
      ref={grid}
      role="grid"
      tabIndex={0}
      className={classes.draft}
      aria-label="Which tracks are armed in which pass"
      aria-rowcount={wefts.length + 1}
      aria-colcount={warps.length + 4}
      aria-activedescendant={active}
      style={{ "--warps": warps.length } as CSSProperties}
      onMouseDown={keepFocus}
      onKeyDown={press}
    >
      <Heads warps={warps} />
      {wefts.map((weft, n) => (
        <Weft
          key={weft.pass.id}
          doc={doc}
          weft={weft}
          warps={warps}
          n={n}
          chosen={weft.pass.id === chosen}
          active={active}
          {...under}
        />
      ))}
    </div>
  );
};
