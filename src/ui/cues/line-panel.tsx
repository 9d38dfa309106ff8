import { Button, CloseButton, Switch } from "@mantine/core";
import type { GainPlan } from "@/core/levels/gain-plan";
import { lineName } from "@/core/model/line-name";
import { tracksByLine } from "@/core/model/read-template";
import { LINES, type Line } from "@/core/model/tables/lines";
import type { Template } from "@/core/model/template";
import type { LineChange } from "@/core/planning/edits/edit";
import { planned, unplanned } from "@/core/planning/gesture";
import { fieldText, readField } from "@/core/reading/field-text";
import { dB, formatDb, formatGain } from "@/core/units/decibels";
import inspector from "../inspector/inspector.module.css";
import { TextField } from "../inspector/inspector-fields";
import { KeptFor } from "../inspector/kept-for";
import { useDoing } from "../state/desk-context";
import classes from "./levels.module.css";
import { gainToSet } from "./use-level-acts";

const said = (value: number): string => formatGain(dB(Math.round(value * 100) / 100));

/** What the figures of a line come to. */
const InWords = ({ doc, plan }: { readonly doc: Template; readonly plan: GainPlan }) => (
  <p className={classes.none}>
    {plan.splDb === null
      ? `Comes at ${said(plan.sourceDbu)} dBu.`
      : `${said(plan.splDb)} dB SPL at the microphone, ${said(plan.sourceDbu)} dBu at the socket.`}{" "}
    {plan.wantedDb === null
      ? "What the input takes at full scale is not known, so the target is taken as met."
      : `${formatDb(dB(plan.wantedDb))} of gain bring it to ${formatDb(doc.levels.targetDb)}FS.`}{" "}
    {plan.range
      ? `The preamp gives ${formatDb(plan.range.min)} to ${formatDb(plan.range.max)}${plan.padDb ? `, and its pad takes ${said(plan.padDb)} dB off` : ""}.`
      : ""}
  </p>
);

interface FieldsProps {
  readonly line: Line;
  readonly plan: GainPlan | undefined;
  readonly set: (change: LineChange) => boolean;
}

const Fields = ({ line, plan, set }: FieldsProps) => {
  const { actPlanned } = useDoing();
  const keep =
    (field: "loudnessDb" | "distanceM" | "crestDb" | "gainDb") =>
    (text: string): boolean => {
      if (!text.trim()) return set({ [field]: null });
      const read = readField(LINES.fields[field], text);
      return actPlanned(
        read.ok
          ? planned([{ kind: "entries.set", table: "lines", ids: [line.id], set: { [field]: read.value } }])
          : unplanned(`“${text.trim()}” ${read.says}.`),
      );
    };
  const usual = (value: number | undefined): { readonly placeholder?: string } =>
    value === undefined ? {} : { placeholder: `${said(value)}, as usual` };
  return (
    <div className={inspector.fields}>
      <TextField
        label={plan?.byCable ? "Arrives at, dBu" : "Loudness at 1 m, dB SPL"}
        value={fieldText(LINES.fields.loudnessDb, line.loudnessDb)}
        {...usual(plan?.loudnessDb)}
        onKeep={keep("loudnessDb")}
      />
      {!plan?.byCable && (
        <TextField
          label="Microphone at, m"
          value={fieldText(LINES.fields.distanceM, line.distanceM)}
          {...usual(plan?.distanceM)}
          onKeep={keep("distanceM")}
        />
      )}
      <TextField
        label="Crest, dB"
        value={fieldText(LINES.fields.crestDb, line.crestDb)}
        {...usual(plan?.crestDb)}
        onKeep={keep("crestDb")}
      />
      <div data-field="gain">
        <TextField
          label="Gain, dB"
          value={fieldText(LINES.fields.gainDb, line.gainDb)}
          placeholder="not planned"
          onKeep={keep("gainDb")}
        />
      </div>
      <Switch
        label="Pad"
        classNames={{ body: inspector.switchBody, labelWrapper: inspector.label }}
        labelPosition="left"
        checked={line.pad}
        onChange={(event) => set({ pad: event.currentTarget.checked })}
      />
    </div>
  );
};

/** What is said of one line: how loud, how far, which gain. */
export const LinePanel = ({
  doc,
  line,
  plan,
  onClose,
}: {
  readonly doc: Template;
  readonly line: Line;
  readonly plan: GainPlan | undefined;
  readonly onClose: () => void;
}) => {
  const { act } = useDoing();
  const set = (change: LineChange) =>
    act({ edits: [{ kind: "entries.set", table: "lines", ids: [line.id], set: change }] });
  return (
    <section className={classes.panel} aria-label="Line">
      <h2 className={inspector.title}>
        {lineName(line, tracksByLine(doc).get(line.id) ?? [])}
        <CloseButton aria-label="Close the line" ml="auto" onClick={onClose} />
      </h2>
      <KeptFor of={line.id}>
        <Fields line={line} plan={plan} set={set} />
      </KeptFor>
      {plan && <InWords doc={doc} plan={plan} />}
      {plan?.wantedDb != null && line.gainDb !== plan.wantedDb && plan.fit === "fits" && (
        <Button variant="default" size="compact-sm" onClick={() => set({ gainDb: gainToSet(plan) })}>
          Plan {formatDb(gainToSet(plan))}
        </Button>
      )}
    </section>
  );
};
