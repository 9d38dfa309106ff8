import { Button, Select, Switch } from "@mantine/core";
import { memo } from "react";
import type { CueHead } from "@/core/layout/cue-matrix";
import type { CueId } from "@/core/model/ids";
import type { Tap } from "@/core/model/tables/sends";
import type { Template } from "@/core/model/template";
import { setCueLevels } from "@/core/planning/cue-plans";
import { planned, unplanned } from "@/core/planning/gesture";
import { readPan } from "@/core/planning/route";
import { type CueCell, levelIn } from "@/core/queries/cues";
import { notchesHz } from "@/core/timing/heard-twice";
import { type Hearing, heardTwice } from "@/core/timing/hearing";
import { formatGain } from "@/core/units/decibels";
import { formatHz } from "@/core/units/hertz";
import { formatMs } from "@/core/units/milliseconds";
import { panText } from "@/core/units/pan";
import type { Act } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { newIds } from "../grid/grid-focus";
import { TextField } from "../inspector/inspector-fields";
import { KeptFor } from "../inspector/kept-for";
import { dropDown } from "../shared/combobox";
import { useDeskLater, useDeskStore, useDoing } from "../state/desk-context";
import classes from "./cues.module.css";

/** What all of several say; null when they differ. */
const common = <T,>(values: readonly T[]): T | null => {
  const [first, ...others] = [...new Set(values)];
  return first !== undefined && !others.length ? first : null;
};

/** What stands in the selected cells, to be typed. */
const CellFields = ({ doc, cells }: { readonly doc: Template; readonly cells: readonly CueCell[] }) => {
  const desk = useDeskStore();
  const { act, actPlanned } = useDoing();
  const levels = cells.flatMap((cell) => levelIn(doc, cell) ?? []);
  const level = common(cells.map((cell) => levelIn(doc, cell)?.levelDb));
  const silent = levels.length === cells.length && levels.every(({ levelDb }) => levelDb === null);
  const put = (set: { readonly tap?: Tap; readonly on?: boolean; readonly pan?: number }) =>
    actPlanned(
      levels.length
        ? planned([
            {
              kind: "cueLevels.put",
              levels: levels.map(({ cueId, sourceId }) => ({ id: newIds("level"), cueId, sourceId, ...set })),
            },
          ])
        : unplanned("What is selected is not heard in that cue yet: type a level first."),
    );
  const pan = (text: string): boolean => {
    const read = readPan(text);
    return read === null
      ? actPlanned(unplanned(`“${text.trim()}” is no pan. Type L 30, R 30 or centre.`))
      : put({ pan: read });
  };
  return (
    <>
      <div className={classes.field}>
        <TextField
          bare
          label="Level in dB"
          value={silent ? "−∞" : level === null || level === undefined ? "" : formatGain(level)}
          placeholder={levels.length ? "various" : "dB"}
          onKeep={(text) => actPlanned(setCueLevels(desk.getState().doc, { cells, text, ids: newIds }))}
        />
      </div>
      <div className={classes.field}>
        <TextField
          bare
          label="Pan"
          value={levels.length ? panText(common(levels.map((one) => one.pan)) ?? 0) : ""}
          placeholder="pan"
          onKeep={pan}
        />
      </div>
      <Select
        aria-label="Before or after the fader"
        title={keyOf("tap")}
        size="xs"
        w={150}
        data={[
          { value: "before", label: "before the fader" },
          { value: "after", label: "after the fader" },
        ]}
        value={common(levels.map(({ tap }) => tap))}
        placeholder={levels.length ? "various" : "not heard"}
        allowDeselect={false}
        {...dropDown(170)}
        onChange={(tap) => put({ tap: tap as Tap })}
      />
      <Switch
        label="On"
        title={keyOf("switch")}
        size="sm"
        checked={levels.length > 0 && levels.every(({ on }) => on)}
        onChange={(event) => put({ on: event.currentTarget.checked })}
      />
      <Button
        variant="subtle"
        size="compact-sm"
        disabled={!levels.length}
        onClick={() =>
          act({
            edits: [{ kind: "cueLevels.remove", cells: levels.map(({ cueId, sourceId }) => ({ cueId, sourceId })) }],
          })
        }
      >
        Take out
      </Button>
    </>
  );
};

/** What is to be said of the cue that is selected: why it is late, or that it is heard double. */
const saysOf = ({ cue, latest, state, plays }: CueHead, hearing: Hearing): string => {
  const twice = heardTwice(hearing).find(({ first }) => first.cueId === cue.id);
  if (twice)
    return `${twice.first.person} hears ${plays || "themself"} twice, ${formatMs(twice.lagMs)} apart: a hollow at ${formatHz(notchesHz(twice).firstHz)}.`;
  if (state === "late" && latest?.targetMs)
    return `${latest.person} hears ${plays} ${formatMs(latest.ms - latest.targetMs)} later than it should be.`;
  if (state === "unheard") return `${cue.name} does not hear their own sound.`;
  if (state === "nobody") return `Nobody hears ${cue.name} yet: say who, with Alt Enter.`;
  return "";
};

interface CueBarProps {
  /** What can be done, as of the moment it is asked. */
  readonly gather: () => readonly Act[];
  readonly cells: readonly CueCell[];
  readonly heads: readonly CueHead[];
  readonly cueIds: readonly CueId[];
  readonly hearing: Hearing;
  readonly buses: boolean;
  readonly onBuses: (shown: boolean) => void;
}

/** Below the matrix: what stands in the selected cells, and what can be done. It follows the matrix a moment later. */
export const CueBar = memo(({ gather, cells, heads, cueIds, hearing, buses, onBuses }: CueBarProps) => {
  const doc = useDeskLater((desk) => desk.doc);
  const [head] = cueIds.length === 1 ? heads.filter(({ cue }) => cue.id === cueIds[0]) : [];
  const says = head ? saysOf(head, hearing) : "";
  const firsts = gather().filter(({ first }) => first);
  const button = ({ id, label, short, key, run }: Act) => (
    <Button
      key={id}
      variant="default"
      size="compact-sm"
      radius="xl"
      title={[label, key].filter(Boolean).join(" · ")}
      {...(short && label.includes(short) ? { "aria-label": label } : {})}
      onClick={run}
    >
      {short ?? label}
    </Button>
  );
  return (
    <div className={classes.bar} role="toolbar" aria-label="What can be done with cues">
      <div className={classes.barRow}>
        {firsts.filter(({ short }) => !short).map(button)}
        <Button
          variant={buses ? "filled" : "default"}
          size="compact-sm"
          radius="xl"
          aria-pressed={buses}
          onClick={() => onBuses(!buses)}
        >
          Buses
        </Button>
        {says && <p role="status">{says}</p>}
      </div>
      <div className={classes.barRow}>
        <KeptFor of={cells.map(({ cueId, sourceId }) => `${cueId} ${sourceId}`).join()}>
          <CellFields doc={doc} cells={cells} />
        </KeptFor>
        {firsts.filter(({ short }) => short).map(button)}
      </div>
    </div>
  );
});
CueBar.displayName = "CueBar";
